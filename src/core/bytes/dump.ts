import { concatBytes } from './concat';
import { hexToBytes } from './hex';

/** One line of a hex dump: the offset before its bytes, where it has one, and the bytes. A last line has an offset alone. */
export interface DumpLine {
  readonly offset: number | null;
  readonly bytes: Uint8Array;
}

const NOTHING = new Uint8Array(0);
const OFFSET = /^\s*(?:0x)?([0-9A-Fa-f]{4,16})(?::\s*|\s\s+|\s+(?=(?:[0-9A-Fa-f]{2}\s){4}))/;
const ALONE = /^\s*(?:0x)?([0-9A-Fa-f]{4,16}):?\s*$/;
const GROUP = /^(?:[0-9A-Fa-f]{2}){1,16}(?: (?:[0-9A-Fa-f]{2}){1,16})*$/;

/**
 * Bytes of one line of a hex dump: an offset before them and a column of characters behind them are left out. `expected` is the offset that
 * comes next: a lone number that is it ends the dump and is no data. Null where the line holds nothing.
 */
export function dumpLine(line: string, expected: number | null = null): DumpLine | null {
  const open = line.split('|')[0] ?? '';
  const alone = ALONE.exec(open)?.[1];
  if (alone !== undefined && expected !== null && parseInt(alone, 16) === expected)
    return { offset: expected, bytes: NOTHING };
  const offset = OFFSET.exec(open);
  const rest = open.slice(offset?.[0].length ?? 0);
  const parts: Uint8Array[] = [];
  // Two blanks part the bytes from their characters, and halves of a row from each other.
  for (const group of rest.split(/\s{2,}/).filter((one) => one !== '')) {
    if (!GROUP.test(group.trim())) break;
    const parsed = hexToBytes(group);
    if (!parsed.ok) break;
    parts.push(parsed.value);
  }
  if (parts.length === 0) return null;
  return { offset: offset?.[1] === undefined ? null : parseInt(offset[1], 16), bytes: concatBytes(...parts) };
}

/** The bytes of a whole hex dump whose offsets follow each other; null where the text is none. */
export function dumpBytes(text: string): Uint8Array | null {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  if (lines.length < 2) return null;
  const parts: Uint8Array[] = [];
  let next: number | null = null;
  for (const line of lines) {
    const read = dumpLine(line, next);
    if (!read || read.offset === null || (next !== null && read.offset !== next)) return null;
    parts.push(read.bytes);
    next = read.offset + read.bytes.length;
  }
  return concatBytes(...parts);
}
