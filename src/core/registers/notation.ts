import type { ModbusTable } from './tables';
import { TABLE_NAMES } from './tables';
import { hexNumber } from '../bytes/hex';
import { HEX_MARK } from '../bytes/hex';

/** Leading digit of a reference, by table. Common practice, no source. */
const DIGITS: Readonly<Record<ModbusTable, string>> = {
  coil: '0',
  'discrete-input': '1',
  'input-register': '3',
  'holding-register': '4',
};
const TABLE_OF: ReadonlyMap<string, ModbusTable> = new Map(
  (Object.keys(DIGITS) as ModbusTable[]).map((table) => [DIGITS[table], table]),
);
const LAST = 0xffff;

export type NotationForm = 'reference-5' | 'reference-6' | 'prefixed' | 'hex' | 'word' | 'from-0' | 'from-1';

/** One way to understand a notation; `table` is null where it says none. Addresses count from 0. */
export interface AddressReading {
  readonly table: ModbusTable | null;
  readonly address: number;
  readonly form: NotationForm;
}

/**
 * What a notation of a register, coil or input may mean, the likeliest first; empty where it means nothing. A five- or six-digit reference goes
 * before the plain number of the same digits; a plain number counts from 0 first. With a `table` given, references of other tables are left out.
 */
export function readAddress(text: string, table: ModbusTable | null = null): readonly AddressReading[] {
  const bare = text.trim().replace(/[\u2212]/g, '-');
  return FORMS.flatMap(({ form, read }) => {
    const match = form.exec(bare);
    return match ? read(match) : [];
  })
    .filter(({ address }) => address >= 0 && address <= LAST)
    .filter((reading) => table === null || reading.table === null || reading.table === table)
    .map((reading) => ({ ...reading, table: reading.table ?? table }));
}

const counted = (digit: string | undefined, number: string | undefined, form: NotationForm): AddressReading[] => {
  const table = TABLE_OF.get(digit ?? '');
  return table ? [{ table, address: Number(number) - 1, form }] : [];
};
const hex = (digits: string | undefined): AddressReading[] => [
  { table: null, address: parseInt((digits ?? '').replace(/\s/g, ''), 16), form: 'hex' },
];

const FORMS: readonly { readonly form: RegExp; readonly read: (match: RegExpExecArray) => AddressReading[] }[] = [
  {
    form: new RegExp(String.raw`^${HEX_MARK}\s*([0-9a-f](?:\s*[0-9a-f]){0,7})$`, 'i'),
    read: ([, digits]) => hex(digits),
  },
  { form: /^([0-9a-f](?:\s*[0-9a-f]){0,7})\s*h$/i, read: ([, digits]) => hex(digits) },
  { form: /^(?=.*[a-f])([0-9a-f](?:\s*[0-9a-f]){0,7})$/i, read: ([, digits]) => hex(digits) },
  { form: /^([134])\s*[x:]\s*(\d{1,5})$/i, read: ([, digit, number]) => counted(digit, number, 'prefixed') },
  { form: /^(0)\s*:\s*(\d{1,5})$/, read: ([, digit, number]) => counted(digit, number, 'prefixed') },
  {
    form: /^%MW(\d{1,5})$/i,
    read: ([, number]) => [{ table: 'holding-register', address: Number(number), form: 'word' }],
  },
  { form: /^([0134])(\d{4})$/, read: ([, digit, number]) => counted(digit, number, 'reference-5') },
  { form: /^([0134])(\d{5})$/, read: ([, digit, number]) => counted(digit, number, 'reference-6') },
  {
    form: /^(\d{1,6})$/,
    read: ([, number]) => [
      { table: null, address: Number(number), form: 'from-0' },
      { table: null, address: Number(number) - 1, form: 'from-1' },
    ],
  },
];

/** What a reading is, in a few words: `reference of a holding register`, `counted from 1`. */
export function readingText({ table, form }: AddressReading): string {
  switch (form) {
    case 'reference-5':
    case 'reference-6':
    case 'prefixed':
      return `reference of a ${table ? TABLE_NAMES[table] : 'register'}, counted from 1`;
    case 'hex':
      return 'hex, counted from 0';
    case 'word':
      return 'word, counted from 0';
    case 'from-0':
      return 'counted from 0';
    case 'from-1':
      return 'counted from 1';
  }
}

export interface Notations {
  /** Ends at 9999 of a table; null beyond. */
  readonly reference5: string | null;
  readonly reference6: string | null;
  readonly decimal: string;
  readonly fromOne: string;
  readonly hex: string;
}

/**
 * One place of a table, 0 to 65535, in every usual notation.
 * @example notationsOf('holding-register', 707) // { reference5: '40708', reference6: '400708', decimal: '707', fromOne: '708', hex: '0x02C3' }
 */
export function notationsOf(table: ModbusTable, address: number): Notations {
  const one = address + 1;
  const reference = (digits: number): string | null =>
    one < 10 ** digits ? `${DIGITS[table]}${String(one).padStart(digits, '0')}` : null;
  return {
    reference5: reference(4),
    reference6: reference(5),
    decimal: `${address}`,
    fromOne: `${one}`,
    hex: hexNumber(address),
  };
}
