import type { WireWord } from './chain';

/** The raw numbers that a word can hold. */
export function rangeOf({ bits, signed, form }: WireWord): { readonly min: bigint; readonly max: bigint } {
  const span = 1n << BigInt(bits);
  if (!signed) return { min: 0n, max: span - 1n };
  if (form === 'direction-bit') return { min: 1n - span, max: span - 1n };
  const half = span / 2n;
  return { min: form === 'sign-magnitude' ? 1n - half : -half, max: half - 1n };
}

/** The bytes of a pattern in the order in which they go out. An order of another length than the word's is left out (`checkSheet` names it). */
export function wireBytes(wire: bigint, { bits, order }: WireWord): readonly number[] {
  const count = bits / 8;
  const highFirst = Array.from({ length: count }, (_, i) => {
    const byte = BigInt.asUintN(8, wire >> BigInt(8 * (count - 1 - i)));
    return parseInt(byte.toString(), 10);
  });
  return order?.length === count ? [...order].map((letter) => highFirst[letter.charCodeAt(0) - 65] ?? 0) : highFirst;
}

const size = (raw: bigint): bigint => (raw < 0n ? -raw : raw);

/** The pattern of a raw number on the wire; one that does not fit is cut to the word's bits. A direction bit stands elsewhere. */
export function toWire(raw: bigint, { bits, signed, form = 'twos-complement' }: WireWord): bigint {
  if (!signed || form === 'twos-complement') return BigInt.asUintN(bits, raw);
  if (form === 'direction-bit') return BigInt.asUintN(bits, size(raw));
  const sign = raw < 0n ? 1n << BigInt(bits - 1) : 0n;
  return BigInt.asUintN(bits - 1, size(raw)) | sign;
}

/** The raw number that a pattern stands for; with a direction bit its size, since the direction stands elsewhere. */
export function fromWire(wire: bigint, { bits, signed, form = 'twos-complement' }: WireWord): bigint {
  const pattern = BigInt.asUintN(bits, wire);
  if (!signed || form === 'direction-bit') return pattern;
  if (form === 'twos-complement') return BigInt.asIntN(bits, pattern);
  const value = BigInt.asUintN(bits - 1, pattern);
  return pattern >> BigInt(bits - 1) === 1n ? -value : value;
}

const NAMES = {
  'twos-complement': 'two’s complement',
  'sign-magnitude': 'sign and magnitude',
  'direction-bit': 'its size, the direction bit says backward',
} as const;

/** How a negative number of this word is written, in words. */
export const signText = ({ form = 'twos-complement' }: WireWord): string => NAMES[form];
