import { hexToBytes } from '../../core/bytes/hex';
import { wholeIn } from '../../core/bytes/whole';
import { DIAGNOSTICS } from '../../core/modbus/functions';
import type { FileRecord, ModbusMessage } from '../../core/modbus/message';
import type { ModbusTable } from '../../core/registers/tables';
import { readAddress } from '../../core/registers/notation';

/** One entry of a request's form: how a field is shown as text, and what a text changes. */
export interface MessageField {
  readonly label: string;
  readonly width: number;
  readonly show: (message: ModbusMessage) => string;
  /** The change, or null where the text cannot be read. */
  readonly take: (text: string) => Partial<ModbusMessage> | null;
  readonly hint: string;
  /** Given for an address: the table that it is one of, so that its references are read. */
  readonly table?: ModbusTable;
  /** Usual values to choose from. */
  readonly usual?: readonly (readonly [string, string])[];
}

type AddressName = 'address' | 'readAddress' | 'writeAddress';
type NumberName =
  AddressName | 'quantity' | 'subFunction' | 'andMask' | 'orMask' | 'readQuantity' | 'readCode' | 'objectId';

const numberIn = (text: string): number | null => {
  const value = wholeIn(text);
  return value !== null && value >= 0 && value <= 99_999 ? value : null;
};

/** Words between blanks; a negative one as its two’s complement. */
const wordsIn = (text: string): readonly number[] | null => {
  const parts = text.split(/[\s,;]+/).filter((part) => part !== '');
  const words = parts.flatMap((part) => {
    const value = wholeIn(part);
    return value !== null && value >= -0x8000 && value <= 0xffff ? [value & 0xffff] : [];
  });
  return parts.length === 0 || words.length < parts.length ? null : words;
};

const whole = (name: NumberName, label: string, usual?: MessageField['usual']): MessageField => ({
  label,
  width: usual ? 260 : 130,
  show: (message) => String(message[name] ?? 0),
  take: (text) => {
    const value = numberIn(text);
    return value === null ? null : { [name]: value };
  },
  hint: 'a whole number, such as 107, 0x6B or 6Bh',
  ...(usual ? { usual } : {}),
});

/** An address of a table, in any notation. */
const addressIn = (name: AddressName, label: string, table: ModbusTable): MessageField => ({
  ...whole(name, label),
  table,
  take: (text) => {
    const [reading] = readAddress(text, table);
    return reading ? { [name]: reading.address } : null;
  },
  hint: 'an address or a reference of this table',
});

/** Words in a row; where a request says how many there are, that follows. */
const values = (label: string, quantity?: 'writeQuantity'): MessageField => ({
  label,
  width: 260,
  show: ({ values: words = [] }) => words.join(' '),
  take: (text) => {
    const words = wordsIn(text);
    return words && { values: words, ...(quantity ? { [quantity]: words.length } : {}) };
  },
  hint: 'words, such as 107 0x6B -1, with blanks between them',
});

const COILS: MessageField = {
  label: 'Coils, first one first',
  width: 260,
  show: ({ coils = [] }) => coils.join(' '),
  take: (text) => {
    const bits = text.replace(/[\s,]/g, '');
    return /^[01]+$/.test(bits) ? { coils: [...bits].map(Number), quantity: bits.length } : null;
  },
  hint: 'a row of 0 and 1',
};

const ONE_COIL: MessageField = {
  label: 'Coil',
  width: 130,
  show: ({ coils }) => String(coils?.[0] ?? 0),
  take: (text) =>
    text === '0' || text === '1' ? { coils: [Number(text)], rawValue: text === '1' ? 0xff00 : 0 } : null,
  hint: '0 or 1',
  usual: [
    ['1', 'on'],
    ['0', 'off'],
  ],
};

/** `4:1 x 2` is two registers of record 1 in file 4; `4:7 = 10 20` writes two. */
const RECORD_ASKED = /^\s*(\d+)\s*:\s*(\d+)\s*x\s*(\d+)\s*$/;
const RECORD_WRITTEN = /^\s*(\d+)\s*:\s*(\d+)\s*=\s*(.+)$/;

const records = (isWrite: boolean): MessageField => ({
  label: isWrite ? 'Records: file:record = registers; …' : 'Records: file:record x registers; …',
  width: 340,
  show: ({ records: list = [] }) =>
    list
      .map(({ file = 0, record = 0, length = 0, values: words = [] }) =>
        isWrite ? `${file}:${record} = ${words.join(' ')}` : `${file}:${record} x ${length}`,
      )
      .join('; '),
  take: (text) => {
    const parts = text.split(';').map((part): FileRecord | null => {
      const [, file, record, rest] = (isWrite ? RECORD_WRITTEN : RECORD_ASKED).exec(part) ?? [];
      if (file === undefined || record === undefined || rest === undefined) return null;
      const words = isWrite ? wordsIn(rest) : null;
      if (isWrite && !words) return null;
      return {
        file: Number(file),
        record: Number(record),
        length: words?.length ?? Number(rest),
        ...(words ? { values: words } : {}),
      };
    });
    return parts.includes(null) ? null : { records: parts as FileRecord[] };
  },
  hint: isWrite ? 'such as 4:7 = 1711 1214 4109' : 'such as 4:1 x 2; 3:9 x 2',
});

const DATA: MessageField = {
  label: 'Data as hex',
  width: 260,
  show: ({ dataHex = '' }) => dataHex,
  take: (text) => (hexToBytes(text).ok ? { dataHex: text.replace(/\s/g, '') } : null),
  hint: 'pairs of hex digits',
};

const addressOf = (table: ModbusTable): MessageField => addressIn('address', 'Address', table);
const QUANTITY = whole('quantity', 'How many');

/** What can be asked by fields, in the order of the codes: the form, and the request that a choice begins with. */
export interface Ask {
  readonly fc: number;
  readonly name: string;
  readonly fields: readonly MessageField[];
  readonly start: Partial<ModbusMessage>;
}

export const ASKS: readonly Ask[] = [
  { fc: 1, name: '01 Read coils', fields: [addressOf('coil'), QUANTITY], start: { quantity: 8 } },
  { fc: 2, name: '02 Read discrete inputs', fields: [addressOf('discrete-input'), QUANTITY], start: { quantity: 8 } },
  { fc: 3, name: '03 Read registers', fields: [], start: {} },
  { fc: 4, name: '04 Read input registers', fields: [], start: {} },
  { fc: 5, name: '05 Write one coil', fields: [addressOf('coil'), ONE_COIL], start: { coils: [0], rawValue: 0 } },
  { fc: 6, name: '06 Write one register', fields: [], start: {} },
  { fc: 7, name: '07 Read exception status', fields: [], start: {} },
  {
    fc: 8,
    name: '08 Diagnostics',
    fields: [
      whole(
        'subFunction',
        'Sub-function',
        Object.entries(DIAGNOSTICS).map(([number, spec]) => [number, `${number} ${spec?.name ?? ''}`] as const),
      ),
      values('Data words'),
    ],
    start: { subFunction: 0, values: [0xa537] },
  },
  { fc: 11, name: '11 (0Bh) Get event counter', fields: [], start: {} },
  { fc: 12, name: '12 (0Ch) Get event log', fields: [], start: {} },
  {
    fc: 15,
    name: '15 (0Fh) Write several coils',
    fields: [addressOf('coil'), COILS],
    start: { coils: [0, 0, 0, 0, 0, 0, 0, 0], quantity: 8 },
  },
  { fc: 16, name: '16 (10h) Write several registers', fields: [], start: {} },
  { fc: 17, name: '17 (11h) Report server identity', fields: [], start: {} },
  {
    fc: 20,
    name: '20 (14h) Read file record',
    fields: [records(false)],
    start: { records: [{ file: 1, record: 0, length: 1 }] },
  },
  {
    fc: 21,
    name: '21 (15h) Write file record',
    fields: [records(true)],
    start: { records: [{ file: 1, record: 0, length: 1, values: [0] }] },
  },
  {
    fc: 22,
    name: '22 (16h) Mask write register',
    fields: [addressOf('holding-register'), whole('andMask', 'AND mask'), whole('orMask', 'OR mask')],
    start: { andMask: 0xffff, orMask: 0 },
  },
  {
    fc: 23,
    name: '23 (17h) Read and write registers',
    fields: [
      addressIn('readAddress', 'Read from', 'holding-register'),
      whole('readQuantity', 'Read how many'),
      addressIn('writeAddress', 'Write from', 'holding-register'),
      values('Values to write', 'writeQuantity'),
    ],
    start: { readQuantity: 1, writeQuantity: 1, values: [0] },
  },
  { fc: 24, name: '24 (18h) Read FIFO queue', fields: [addressOf('holding-register')], start: {} },
  {
    fc: 43,
    name: '43 (2Bh) Device identification',
    fields: [
      whole('readCode', 'What to read', [
        ['1', '1 basic'],
        ['2', '2 regular'],
        ['3', '3 extended'],
        ['4', '4 one object'],
      ]),
      whole('objectId', 'From object'),
    ],
    start: { meiType: 14, readCode: 1, objectId: 0 },
  },
  { fc: 65, name: '65 (41h) User-defined', fields: [DATA], start: { dataHex: '' } },
];

export const askFor = (fc: number): Ask | undefined =>
  ASKS.find((ask) => ask.fc === fc) ?? (fc >= 65 ? ASKS.find((ask) => ask.fc === 65) : undefined);

/** Functions whose form knows the sheet's registers and their scaling. */
export const HAS_REGISTER_FORM: ReadonlySet<number> = new Set([3, 4, 6, 16]);
