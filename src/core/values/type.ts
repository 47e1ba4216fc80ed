/** Kinds of values that a drive keeps, as descriptions and manuals name them; `text` and `bytes` have no fixed size. */
const VALUE_TYPES = [
  'bool',
  'int8',
  'uint8',
  'int16',
  'uint16',
  'int32',
  'uint32',
  'int64',
  'uint64',
  'float32',
  'float64',
  'text',
  'bytes',
] as const;
export type ValueType = (typeof VALUE_TYPES)[number];

/** Size in bits; null where the type itself does not say it. */
export const bitsOfType = (type: ValueType): number | null =>
  type === 'bool' ? 1 : type === 'text' || type === 'bytes' ? null : Number(/\d+$/.exec(type)?.[0]);

/** The least and the greatest integer of a type; null for floats, texts and bytes. */
export function rangeOfType(type: ValueType): { readonly min: bigint; readonly max: bigint } | null {
  const bits = BigInt(bitsOfType(type) ?? 0);
  if (type === 'bool' || type.startsWith('uint')) return { min: 0n, max: (1n << bits) - 1n };
  return type.startsWith('int') ? { min: -(1n << (bits - 1n)), max: (1n << (bits - 1n)) - 1n } : null;
}

/** Types of a sheet's parameters: those of the descriptions, and decimal digits four bits each. */
export const PARAMETER_TYPES = [...VALUE_TYPES, 'bcd16', 'bcd32'] as const;
export type ParameterType = (typeof PARAMETER_TYPES)[number];

/** Words of 16 bits that a value takes; `size` says it for texts and bytes. */
export function wordsOfType(type: ParameterType, size = 1): number {
  if (type === 'text' || type === 'bytes') return size;
  if (type === 'bool') return 1;
  return Math.max(1, Number(/\d+$/.exec(type)?.[0]) / 16);
}

/** Whether numbers of the type may be negative by their highest bit. */
export const isSignedType = (type: ParameterType): boolean => /^int/.test(type);
/** Whether the type is a binary float of IEEE 754. */
export const isFloatType = (type: ParameterType): boolean => /^float/.test(type);
