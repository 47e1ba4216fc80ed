/** Arguments that one call takes without growing the stack. */
const AT_ONCE = 0x8000;

/** Bytes as base64 (RFC 4648, section 4, with padding). */
export function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += AT_ONCE) text += String.fromCharCode(...bytes.subarray(i, i + AT_ONCE));
  return btoa(text);
}

/** The bytes that a text in base64 holds; empty where it is none. */
export function fromBase64(text: string): Uint8Array {
  try {
    return Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
  } catch {
    return new Uint8Array(0);
  }
}
