/** Words as bytes, high byte first. */
export function wordsToBytes(words: readonly number[]): Uint8Array {
  const bytes = new Uint8Array(2 * words.length);
  words.forEach((word, i) => bytes.set([word >> 8, word & 0xff], 2 * i));
  return bytes;
}
