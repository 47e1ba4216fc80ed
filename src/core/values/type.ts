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

/** The least and the greatest integer of a type; null for floats, texts, bytes and dates. */
export function rangeOfType(
  type: Exclude<ParameterType, 'bcd16' | 'bcd32'>,
): { readonly min: bigint; readonly max: bigint } | null {
  if (isDateType(type)) return null;
  const bits = BigInt(bitsOfType(type) ?? 0);
  if (type === 'bool' || type.startsWith('uint')) return { min: 0n, max: (1n << bits) - 1n };
  return type.startsWith('int') ? { min: -(1n << (bits - 1n)), max: (1n << (bits - 1n)) - 1n } : null;
}

/** Words of 16 bits that each form of a date takes; `core/values/date.ts` says how they are read. */
const DATE_WORDS = {
  'date-bits': 1,
  'date-digits': 2,
  'date-bcd': 2,
  'date-seconds': 2,
  'date-fields': 3,
  'time-fields': 6,
  'time-of-day': 3,
} as const;
export type DateType = keyof typeof DATE_WORDS;
const DATE_TYPES = Object.keys(DATE_WORDS) as DateType[];

/** Types of a sheet's parameters: those of the descriptions, decimal digits four bits each, and dates. */
export const PARAMETER_TYPES = [...VALUE_TYPES, 'bcd16', 'bcd32', ...DATE_TYPES] as const;
export type ParameterType = (typeof PARAMETER_TYPES)[number];

/** Whether values of the type are days, or moments. */
export const isDateType = (type: ParameterType): type is DateType => type in DATE_WORDS;
/** Whether values of the type are numbers, so that a scale, limits and an order by size mean something. */
export const isNumberType = (type: ParameterType): boolean => type !== 'text' && type !== 'bytes' && !isDateType(type);

/** Words of 16 bits that a value takes; `size` says it for texts and bytes. */
export function wordsOfType(type: ParameterType, size = 1): number {
  if (type === 'text' || type === 'bytes') return size;
  if (isDateType(type)) return DATE_WORDS[type];
  if (type === 'bool') return 1;
  return Math.max(1, Number(/\d+$/.exec(type)?.[0]) / 16);
}

/** Bits of the word that holds an integer of the type: a byte or a bit stands in a register of its own. */
export function bitsOfParameter(type: ParameterType): 16 | 32 | 64 {
  const words = wordsOfType(type);
  return words > 2 ? 64 : words > 1 ? 32 : 16;
}

/** Whether numbers of the type may be negative by their highest bit. */
export const isSignedType = (type: ParameterType): boolean => /^int/.test(type);
/** Whether the type is a binary float of IEEE 754. */
export const isFloatType = (type: ParameterType): boolean => /^float/.test(type);
