import { bytesToHex } from './hex';

/** How bytes are shown one by one. */
export const BASES = ['hex', 'decimal', 'binary', 'text'] as const;
export type Base = (typeof BASES)[number];

const NAMED: Readonly<Partial<Record<number, string>>> = { 0: '\\0', 9: '\\t', 10: '\\n', 13: '\\r' };

/** One byte in a base; a character that does not print is shown as its hex number. */
export function byteText(byte: number, base: Base): string {
  switch (base) {
    case 'hex':
      return byte.toString(16).toUpperCase().padStart(2, '0');
    case 'decimal':
      return String(byte);
    case 'binary':
      return byte.toString(2).padStart(8, '0');
    case 'text':
      return byte > 0x20 && byte < 0x7f
        ? String.fromCharCode(byte)
        : (NAMED[byte] ?? (byte === 0x20 ? '␣' : byte.toString(16).toUpperCase().padStart(2, '0')));
  }
}

const quoted = (bytes: Uint8Array): string =>
  `"${Array.from(bytes, (byte) => {
    if (byte === 0x22 || byte === 0x5c) return `\\${String.fromCharCode(byte)}`;
    if (byte >= 0x20 && byte < 0x7f) return String.fromCharCode(byte);
    // \0 in front of a digit would read as an octal number elsewhere.
    return byte === 0 ? '\\x00' : (NAMED[byte] ?? `\\x${byte.toString(16).padStart(2, '0')}`);
  }).join('')}"`;

/** Forms in which bytes are taken elsewhere; `parseBytes` reads each of them back, but for the words. */
export const COPY_FORMS: readonly { readonly name: string; readonly of: (bytes: Uint8Array) => string }[] = [
  { name: 'hex', of: (bytes) => bytesToHex(bytes, ' ').toUpperCase() },
  {
    name: 'array',
    of: (bytes) =>
      `{ ${Array.from(bytes, (byte) => `0x${byte.toString(16).toUpperCase().padStart(2, '0')}`).join(', ')} }`,
  },
  {
    name: 'decimal words',
    of: (bytes) =>
      Array.from(
        { length: Math.ceil(bytes.length / 2) },
        (_, i) => (bytes[2 * i] as number) * 256 + (bytes[2 * i + 1] ?? 0),
      ).join(' '),
  },
  { name: 'quoted text', of: quoted },
];
