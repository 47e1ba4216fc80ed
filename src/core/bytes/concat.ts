/** @example concatBytes(Uint8Array.of(1), Uint8Array.of(2, 3)) // 01 02 03 */
export function concatBytes(...parts: readonly Uint8Array[]): Uint8Array {
  const joined = new Uint8Array(parts.reduce((total, part) => total + part.length, 0));
  let at = 0;
  for (const part of parts) {
    joined.set(part, at);
    at += part.length;
  }
  return joined;
}
