import { counted } from '../counted';
import { done, failed, type Result } from '../result';
import { ITEM_TYPES, type ImageItem, type ItemType } from './image';

/** Where a controller keeps a cyclic block: its inputs or its outputs, from a byte on. */
export interface ControllerPlace {
  /** `I`: what comes from the drive is the controller's input. `Q`: what goes to the drive is its output. */
  readonly area: 'I' | 'Q';
  /** The byte of the controller's memory at which the block begins. */
  readonly start: number;
  /** Whether the number of an address counts bytes, or values of the address's own width; controllers differ. */
  readonly counts: 'bytes' | 'own-width';
}

/** Prefixes of direct addresses by width (IEC 61131-3), and the bytes of each. */
const PREFIX: Readonly<Record<number, readonly [letter: string, bytes: number]>> = {
  1: ['X', 1],
  8: ['B', 1],
  16: ['W', 2],
  32: ['D', 4],
  64: ['L', 8],
};

/** Elementary types (IEC 61131-3) that hold an item. */
const TYPE_NAMES: Readonly<Record<ItemType, string>> = {
  bool: 'BOOL',
  int8: 'SINT',
  uint8: 'USINT',
  int16: 'INT',
  uint16: 'WORD',
  int32: 'DINT',
  uint32: 'DWORD',
  int64: 'LINT',
  uint64: 'LWORD',
  float32: 'REAL',
  float64: 'LREAL',
};
/** The type of an item by its name in IEC 61131-3. */
export const typeName = (type: ItemType): string => TYPE_NAMES[type];

/** The direct address of an item in the controller's memory, such as `%IW100` or `%QX4.3`; why it has none where its width does not divide its byte. */
export function addressIn({ area, start, counts }: ControllerPlace, item: ImageItem): Result<string, string> {
  const [letter, bytes] = PREFIX[ITEM_TYPES[item.type]] ?? ['B', 1];
  const byte = start + item.byte;
  if (letter === 'X') return done(`%${area}X${byte}.${item.bit ?? 0}`);
  if (counts === 'bytes') return done(`%${area}${letter}${byte}`);
  return byte % bytes === 0
    ? done(`%${area}${letter}${byte / bytes}`)
    : failed(`byte ${byte} is no multiple of ${counted(bytes, 'byte')}: it has no address of its own width`);
}

/** A name that a controller takes: letters, digits and single underscores, not beginning with a digit (IEC 61131-3 identifiers). */
export function identifierOf(name: string): string {
  const plain = name
    .normalize('NFD')
    .replace(/[^A-Za-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '');
  return /^[A-Za-z]/.test(plain) ? plain : `item_${plain}`;
}

/** An item with what it is, for people. */
export interface NamedItem extends ImageItem {
  readonly what: string;
  /** The count that stands for 100 %, where it has one. */
  readonly full?: number;
}

/** Declarations of a block in structured text (IEC 61131-3): each item at its address, with its name as a comment. */
export function declarationsOf(items: readonly NamedItem[], place: ControllerPlace): Result<string, string> {
  const taken = new Map<string, number>();
  const lines: string[] = [];
  for (const item of items) {
    const address = addressIn(place, item);
    if (!address.ok) return failed(`${item.name}: ${address.error}`);
    const plain = identifierOf(item.name);
    const seen = (taken.get(plain.toUpperCase()) ?? 0) + 1;
    taken.set(plain.toUpperCase(), seen);
    const name = seen === 1 ? plain : `${plain}_${seen}`;
    lines.push(`  ${name} AT ${address.value} : ${typeName(item.type)}; (* ${item.what.replaceAll('*)', '')} *)`);
  }
  return done(['VAR_GLOBAL', ...lines, 'END_VAR', ''].join('\n'));
}
