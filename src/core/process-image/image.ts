import { decodeNumber, encodeNumber, type NumberType } from '../bytes/number';

/** Kinds of items, with the bits that each takes. Numbers of a byte have no order. */
export const ITEM_TYPES = {
  bool: 1,
  int8: 8,
  uint8: 8,
  int16: 16,
  uint16: 16,
  int32: 32,
  uint32: 32,
  int64: 64,
  uint64: 64,
  float32: 32,
  float64: 64,
} as const;
export type ItemType = keyof typeof ITEM_TYPES;

/** How the bytes of a number lie in the image, by the width of the number. */
export const IMAGE_ORDERS = {
  big: { 16: 'AB', 32: 'ABCD', 64: 'ABCDEFGH' },
  little: { 16: 'BA', 32: 'DCBA', 64: 'HGFEDCBA' },
  'big-swapped-words': { 16: 'AB', 32: 'CDAB', 64: 'GHEFCDAB' },
  'little-swapped-words': { 16: 'BA', 32: 'BADC', 64: 'BADCFEHG' },
} as const;
export type ImageOrder = keyof typeof IMAGE_ORDERS;

/** One value of a cyclic block: where it begins, its lowest bit first in a byte. */
export interface ImageItem {
  readonly name: string;
  readonly type: ItemType;
  readonly byte: number;
  /** Of a bool, 0 to 7; absent: 0. */
  readonly bit?: number | undefined;
  /** How its bytes lie where that is not as in the rest of the image; absent: as there. */
  readonly order?: ImageOrder | undefined;
}

export type ImageFaultCode = 'overlap' | 'outside-image' | 'wrong-size' | 'value-out-of-range';

/** What is wrong with a layout, a block or a value, with the names of the items that it is about. */
export interface ImageFault {
  readonly code: ImageFaultCode;
  readonly items: readonly string[];
  readonly text: string;
}

const firstBit = ({ byte, bit = 0 }: ImageItem): number => 8 * byte + bit;
const endBit = (item: ImageItem): number => firstBit(item) + ITEM_TYPES[item.type];
const isWithin = (item: ImageItem, size: number): boolean => endBit(item) <= 8 * size;

/** Items that lie over each other or beyond the end of an image of so many bytes. Linear but for the sorting. */
export function layoutFaults(items: readonly ImageItem[], size: number): readonly ImageFault[] {
  const outside = items
    .filter((item) => !isWithin(item, size))
    .map((item): ImageFault => ({
      code: 'outside-image',
      items: [item.name],
      text: `${item.name} ends in byte ${Math.ceil(endBit(item) / 8) - 1}, the image in byte ${size - 1}`,
    }));
  const faults: ImageFault[] = [];
  let furthest: ImageItem | null = null;
  for (const item of [...items].sort((a, b) => firstBit(a) - firstBit(b))) {
    if (furthest && firstBit(item) < endBit(furthest))
      faults.push({
        code: 'overlap',
        items: [furthest.name, item.name],
        text: `${item.name} begins in byte ${item.byte}, where ${furthest.name} still lies`,
      });
    if (!furthest || endBit(item) > endBit(furthest)) furthest = item;
  }
  return [...faults, ...outside];
}

/** Whether an item is a number of two bytes or more, so that its bytes have an order. */
export const isNumber = (type: ItemType): type is NumberType => ITEM_TYPES[type] >= 16;
const orderFor = (type: NumberType, order: ImageOrder): string => {
  const bits = ITEM_TYPES[type];
  return IMAGE_ORDERS[order][bits];
};

/** For each byte of an item, as they come in the image, its place in the value: 0 is the highest. `order` is the image's, where the item has none. */
export const bytePlaces = (
  { type, order: own }: Pick<ImageItem, 'type' | 'order'>,
  order: ImageOrder,
): readonly number[] =>
  isNumber(type) ? [...orderFor(type, own ?? order)].map((letter) => letter.charCodeAt(0) - 65) : [0];

/** The values of a block by their items' names; what lies beyond its end is left out. Floats exactly as they are stored. */
export function readImage(
  items: readonly ImageItem[],
  size: number,
  order: ImageOrder,
  bytes: Uint8Array,
): { readonly values: ReadonlyMap<string, string>; readonly faults: readonly ImageFault[] } {
  const faults: ImageFault[] = [...layoutFaults(items, size)];
  if (bytes.length !== size)
    faults.push({ code: 'wrong-size', items: [], text: `${bytes.length} bytes came, the image has ${size}` });
  const values = new Map<string, string>();
  for (const item of items) {
    const value = isWithin(item, Math.min(size, bytes.length)) ? valueOf(item, order, bytes) : null;
    if (value !== null) values.set(item.name, value);
  }
  return { values, faults };
}

function valueOf(item: ImageItem, ofImage: ImageOrder, bytes: Uint8Array): string | null {
  const { type, byte, bit = 0, order = ofImage } = item;
  const own = bytes[byte] ?? 0;
  if (type === 'bool') return `${(own >>> bit) & 1}`;
  if (type === 'uint8') return `${own}`;
  if (type === 'int8') return `${(own << 24) >> 24}`;
  if (!isNumber(type)) return null;
  const read = decodeNumber(type, orderFor(type, order), bytes.subarray(byte, byte + ITEM_TYPES[type] / 8));
  return read.ok ? read.value.value : null;
}

/** The block of these values; what no item covers, and a value that does not fit its item, is 0. */
export function buildImage(
  items: readonly ImageItem[],
  size: number,
  order: ImageOrder,
  values: ReadonlyMap<string, string>,
): { readonly bytes: Uint8Array; readonly faults: readonly ImageFault[] } {
  const bytes = new Uint8Array(size);
  const faults: ImageFault[] = [...layoutFaults(items, size)];
  for (const item of items) {
    const text = values.get(item.name);
    if (text === undefined || !isWithin(item, size)) continue;
    const why = put(item, order, bytes, text.trim());
    if (why !== '') faults.push({ code: 'value-out-of-range', items: [item.name], text: `${item.name}: ${why}` });
  }
  return { bytes, faults };
}

const WHOLE = /^[+-]?\d{1,20}$/;
const LIMITS: Readonly<Partial<Record<ItemType, readonly [number, number]>>> = {
  bool: [0, 1],
  uint8: [0, 255],
  int8: [-128, 127],
};

/** Why a value is not put into its place; empty where it is. */
function put(item: ImageItem, ofImage: ImageOrder, bytes: Uint8Array, text: string): string {
  const { type, byte, bit = 0, order = ofImage } = item;
  if (isNumber(type)) {
    const made = encodeNumber(type, orderFor(type, order), text);
    if (!made.ok) return made.error.text;
    bytes.set(made.value, byte);
    return '';
  }
  const [low, high] = LIMITS[type] ?? [0, 0];
  const number = WHOLE.test(text) ? Number(text) : NaN;
  if (!(number >= low && number <= high)) return `“${text}” is not a whole number from ${low} to ${high}`;
  const before = bytes[byte] ?? 0;
  bytes[byte] = type === 'bool' ? (before & ~(1 << bit)) | (number << bit) : number & 0xff;
  return '';
}
