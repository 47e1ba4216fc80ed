/** A signed number of 32 bits as two words, high one first; null where it does not fit. */
export function splitHalves(value: number): readonly [number, number] | null {
  if (!Number.isInteger(value) || value < -(2 ** 31) || value >= 2 ** 31) return null;
  const pattern = value >>> 0;
  return [pattern >>> 16, pattern & 0xffff];
}

/** The signed number that two words make. */
export const joinHalves = (high: number, low: number): number => (high << 16) | low;
