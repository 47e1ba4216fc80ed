import { hexToBytes } from '../../src/core/bytes/hex';

/** Bytes from hex text; blanks are free. */
export function hex(text: string): Uint8Array {
  const parsed = hexToBytes(text);
  if (!parsed.ok) throw new Error(parsed.error.text);
  return parsed.value;
}

export const ascii = (text: string): Uint8Array => Uint8Array.from(text, (char) => char.charCodeAt(0));
