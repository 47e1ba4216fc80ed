import { IMAGE_ORDERS, isNumber, ITEM_TYPES, type ImageItem, type ImageOrder } from './image';

/**
 * Reads an item as a number, over and over: for long series, where exactness beyond 2^53 is not wanted. `readImage` is its exact twin. NaN where the item
 * lies beyond the end.
 */
export function numberReader(item: ImageItem, ofImage: ImageOrder): (bytes: Uint8Array) => number {
  const { type, byte, bit = 0, order = ofImage } = item;
  const size = Math.ceil(ITEM_TYPES[type] / 8);
  const within = (bytes: Uint8Array): boolean => byte + size <= bytes.length;
  if (type === 'bool') return (bytes) => (within(bytes) ? ((bytes[byte] as number) >>> bit) & 1 : NaN);
  if (!isNumber(type))
    return (bytes) => {
      const own = within(bytes) ? (bytes[byte] as number) : NaN;
      return type === 'int8' && own > 127 ? own - 256 : own;
    };
  const letters = IMAGE_ORDERS[order][ITEM_TYPES[type]];
  const ranks = Array.from(letters, (letter) => letter.charCodeAt(0) - 65);
  const plain = new Uint8Array(size);
  const view = new DataView(plain.buffer);
  const read = {
    int16: () => view.getInt16(0),
    uint16: () => view.getUint16(0),
    int32: () => view.getInt32(0),
    uint32: () => view.getUint32(0),
    float32: () => view.getFloat32(0),
    int64: () => Number(view.getBigInt64(0)),
    uint64: () => Number(view.getBigUint64(0)),
    float64: () => view.getFloat64(0),
  }[type];
  return (bytes) => {
    if (!within(bytes)) return NaN;
    for (let i = 0; i < size; i++) plain[ranks[i] as number] = bytes[byte + i] as number;
    return read();
  };
}
