import { textToBytes } from '../bytes/text';

/** Control characters by their names in the ASCII table (ISO/IEC 646); written in angle brackets inside a literal: `<STX>`. */
const CONTROL_NAMES = [
  'NUL', 'SOH', 'STX', 'ETX', 'EOT', 'ENQ', 'ACK', 'BEL', 'BS', 'HT', 'LF', 'VT', 'FF', 'CR', 'SO', 'SI',
  'DLE', 'DC1', 'DC2', 'DC3', 'DC4', 'NAK', 'SYN', 'ETB', 'CAN', 'EM', 'SUB', 'ESC', 'FS', 'GS', 'RS', 'US',
] as const; // prettier-ignore

const NAMED = new Map<string, number>([...CONTROL_NAMES.map((name, code) => [name, code] as const), ['DEL', 127]]);

/** A fixed piece of text as bytes. A bracket without a known name in it is taken as it stands. */
export const literalBytes = (literal: string): Uint8Array =>
  textToBytes(
    literal.replace(/<([A-Z0-9]{2,3})>/g, (whole, name: string) => {
      const code = NAMED.get(name);
      return code === undefined ? whole : String.fromCharCode(code);
    }),
  );

/** The first character of a text that no byte holds; null where there is none. */
export const wideIn = (text: string): string | null => /[^\0-\xff]/u.exec(text)?.[0] ?? null;

/** Bytes as a person writes them: printable characters as they are, control characters by name, others as `<8F>`. */
export function literalText(bytes: Iterable<number>): string {
  let text = '';
  for (const byte of bytes) {
    if (byte >= 0x20 && byte < 0x7f) text += String.fromCharCode(byte);
    else text += `<${CONTROL_NAMES[byte] ?? (byte === 127 ? 'DEL' : byte.toString(16).toUpperCase())}>`;
  }
  return text;
}

/** Whether `bytes[at...]` begins with the literal. */
export function startsWith(bytes: Uint8Array, at: number, literal: Uint8Array): boolean {
  for (let i = 0; i < literal.length; i++) if (bytes[at + i] !== literal[i]) return false;
  return true;
}
