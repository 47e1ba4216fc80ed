import { wholeIn } from '../bytes/whole';
import type { NamedItem } from './controller';
import { ITEM_TYPES, type ItemType } from './image';
import { bytesOf } from './pack';
import { MOST_BYTES, MOST_ITEMS } from './own-block-schema';

/** Elementary types by their names in IEC 61131-3, and our own. */
const TYPES: ReadonlyMap<string, ItemType> = new Map<string, ItemType>([
  ...(Object.keys(ITEM_TYPES) as ItemType[]).map((type) => [type.toUpperCase(), type] as const),
  ['BYTE', 'uint8'],
  ['USINT', 'uint8'],
  ['SINT', 'int8'],
  ['WORD', 'uint16'],
  ['UINT', 'uint16'],
  ['INT', 'int16'],
  ['DWORD', 'uint32'],
  ['UDINT', 'uint32'],
  ['DINT', 'int32'],
  ['LWORD', 'uint64'],
  ['ULINT', 'uint64'],
  ['LINT', 'int64'],
  ['REAL', 'float32'],
  ['LREAL', 'float64'],
]);

/** Longer than any declaration or row: such a line is something else. */
const LONGEST_LINE = 2000;

/** Bytes that a count of an address is, where it counts values of its own width. */
const WIDTHS: Readonly<Record<string, number>> = { '': 1, X: 1, B: 1, W: 2, D: 4, L: 8 };

/** What was read of a list of items that somebody copied: a table, or a controller's declarations. */
export interface ItemsOfText {
  /** In the order of the text; the lowest address is byte 0. */
  readonly items: readonly NamedItem[];
  /** The controller's byte of the lowest address; null where the text has no addresses of a controller. */
  readonly start: number | null;
  /** The side of the first of them: inputs or outputs. */
  readonly area: 'I' | 'Q' | null;
  readonly unread: readonly { readonly line: number; readonly text: string; readonly why: string }[];
}

const DECLARED =
  /^([A-Za-z_]\w*)\s+AT\s+%([IQ])([XBWDL]?)(\d{1,6})(?:\.([0-7]))?\s*:\s*([A-Za-z]\w*)\s*(?::=[^;]*)?;\s*(.*)$/i;
const COMMENT = /^\s*(?:\(\*(.*?)\*\)|\/\/(.*))\s*$/;
const FRAME = /^(?:VAR(?:_\w+)?(?:\s+(?:CONSTANT|RETAIN|PERSISTENT))*|END_VAR|\(\*.*\*\)|\/\/.*)?$/i;
const ADDRESS = /^%?([IQ])([XBWDL]?)\s*(\d{1,6})(?:\.([0-7]))?$/i;
const PLACE = /^(\d{1,5})(?:\.([0-7]))?$/;

/** A line as it stands: its place is in the block, in the controller's memory, or behind the item before it. */
interface Row {
  readonly line: number;
  readonly name: string;
  readonly what: string;
  readonly type: ItemType;
  readonly full?: number;
  readonly at:
    | { readonly kind: 'next' }
    | { readonly kind: 'byte'; readonly byte: number; readonly bit: number }
    | { readonly kind: 'address'; readonly area: 'I' | 'Q'; readonly byte: number; readonly bit: number };
}

/**
 * Items of a block from rows of a table (name, type, byte or address, meaning, count of 100 %, between tabs, semicolons or commas) or from declarations
 * of IEC 61131-3 (`speed AT %QW256 : INT; (* rpm *)`). `counts`: whether addresses count bytes or values of their own width. Linear; never throws; what is
 * not read stands in `unread` with its reason.
 */
export function itemsOfText(text: string, counts: 'bytes' | 'own-width'): ItemsOfText {
  const rows: Row[] = [];
  const unread: { readonly line: number; readonly text: string; readonly why: string }[] = [];
  text.split(/\r\n?|\n/).forEach((own, i) => {
    const isLong = own.trim().length > LONGEST_LINE;
    if (!isLong && FRAME.test(own.trim())) return;
    const row = isLong
      ? `a row has ${LONGEST_LINE} characters at most`
      : rows.length >= MOST_ITEMS
        ? `a block has ${MOST_ITEMS} items at most`
        : rowOf(own, i + 1, counts);
    if (typeof row !== 'string') rows.push(row);
    // Headings are no row that was missed.
    else if (rows.length > 0 || unread.length > 0 || !isHeading(own))
      unread.push({ line: i + 1, text: own.slice(0, 200), why: row });
  });
  const addressed = rows.flatMap(({ at }) => (at.kind === 'address' ? [at] : []));
  const start = addressed.length === 0 ? null : Math.min(...addressed.map(({ byte }) => byte));
  const area = addressed[0]?.area ?? null;
  const items: NamedItem[] = [];
  let next = 0;
  for (const { line, name, what, type, full, at } of rows) {
    const byte = at.kind === 'next' ? next : at.kind === 'byte' ? at.byte : at.byte - (start ?? 0);
    const why =
      at.kind === 'address' && at.area !== area
        ? `it is on the other side: %${at.area} among %${area ?? ''}`
        : byte + bytesOf(type) > MOST_BYTES
          ? `it ends behind byte ${MOST_BYTES - 1}, where every block ends`
          : '';
    if (why !== '') {
      unread.push({ line, text: name, why });
      continue;
    }
    const bit = at.kind === 'next' ? 0 : at.bit;
    items.push({
      name,
      what,
      type,
      byte,
      ...(type === 'bool' ? { bit } : {}),
      ...(full === undefined ? {} : { full }),
    });
    next = byte + bytesOf(type);
  }
  return { items, start, area, unread: unread.sort((a, b) => a.line - b.line) };
}

/** The names of the columns: the second says that types stand below it. */
const isHeading = (line: string): boolean =>
  /^(?:data ?type|type|datentyp|typ|format)$/i.test(line.split(/[\t;,|]/)[1]?.trim() ?? '');

/** One line; why it is no item where it is none. */
function rowOf(own: string, line: number, counts: 'bytes' | 'own-width'): Row | string {
  // Without the blanks around it the expression cannot go through them again and again; a table's first cell may be one.
  const declared = DECLARED.exec(own.trim());
  if (declared) {
    const [, name = '', area = '', width = '', number = '', bit = '0', typeName = '', rest = ''] = declared;
    const type = typeOf(typeName);
    if (!type) return `${typeName} is no elementary type of IEC 61131-3 with a width`;
    const [, first, second] = COMMENT.exec(rest) ?? [];
    const what = (first ?? second ?? '').trim().slice(0, 400);
    return { line, name, what, type, at: addressOf(area, width, number, bit, counts) };
  }
  const parting = ['\t', ';', ',', '|'].find((mark) => own.includes(mark));
  if (!parting) return 'no declaration, and no cells between tabs, semicolons or commas';
  const [name = '', typeName = '', place = '', what = '', full = ''] = own.split(parting).map((cell) => cell.trim());
  const type = typeOf(typeName);
  if (name === '') return 'its first cell, the name, is empty';
  if (!type) return `“${typeName}”, its second cell, is no type`;
  const at = placeIn(place, counts);
  if (!at) return `“${place}”, its third cell, is no byte such as 4 or 4.3, and no address such as %QW256`;
  const count = full === '' ? null : wholeIn(full);
  if (full !== '' && (count === null || count < 1 || count > 2 ** 32))
    return `“${full}”, its fifth cell, is no count of 100 %`;
  return {
    line,
    name: name.slice(0, 400),
    what: what.slice(0, 400),
    type,
    at,
    ...(count === null ? {} : { full: count }),
  };
}

const typeOf = (text: string): ItemType | undefined => TYPES.get(text.trim().toUpperCase());

function placeIn(text: string, counts: 'bytes' | 'own-width'): Row['at'] | null {
  if (text === '') return { kind: 'next' };
  const [, byte, bit = '0'] = PLACE.exec(text) ?? [];
  if (byte !== undefined) return { kind: 'byte', byte: Number(byte), bit: Number(bit) };
  const [, area, width = '', number = '', own = '0'] = ADDRESS.exec(text) ?? [];
  return area === undefined ? null : addressOf(area, width, number, own, counts);
}

function addressOf(area: string, width: string, number: string, bit: string, counts: 'bytes' | 'own-width'): Row['at'] {
  const each = counts === 'bytes' ? 1 : (WIDTHS[width.toUpperCase()] ?? 1);
  return {
    kind: 'address',
    area: area.toUpperCase() === 'Q' ? 'Q' : 'I',
    byte: Number(number) * each,
    bit: Number(bit),
  };
}
