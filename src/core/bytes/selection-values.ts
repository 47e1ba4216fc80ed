import { decodeNumber, NUMBER_TYPES, ordersOf, sizeOfNumber } from './number';

export interface SelectionValue {
  readonly type: string;
  readonly order: string;
  readonly value: string;
}

/** What a stretch of bytes is as a number, in every type of its size and every order; empty where no type has that size. */
export function selectionValues(bytes: Uint8Array): readonly SelectionValue[] {
  const [only] = bytes;
  if (bytes.length === 1 && only !== undefined)
    return [
      { type: 'uint8', order: '', value: String(only) },
      { type: 'int8', order: '', value: String(only > 127 ? only - 256 : only) },
    ];
  return NUMBER_TYPES.filter((type) => sizeOfNumber(type) === bytes.length).flatMap((type) =>
    ordersOf(type).map((order) => {
      const stored = decodeNumber(type, order, bytes);
      return { type, order, value: stored.ok ? (stored.value.short ?? stored.value.value) : '' };
    }),
  );
}
