import type { Direction } from '../direction';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import { concatBytes } from './concat';
import { dumpBytes } from './dump';
import { parseBytes } from './notation';

/** Bytes of one frame in a pasted text, and who sent them where the text says so. */
export interface PastedFrame {
  readonly direction: Direction | null;
  readonly bytes: Uint8Array;
}

export interface Pasted {
  readonly frames: readonly PastedFrame[];
  /** How the text was read, in a few words. */
  readonly notation: string;
}

/** A longer text is a capture, which is opened elsewhere. */
export const LONGEST_PASTE = 20_000;

const SENT = ['tx', 'txd', 'send', 'sent', 'sending', 'request', 'req', 'query', 'out', 'write'];
const CAME = ['rx', 'rxd', 'recv', 'rcvd', 'received', 'receive', 'response', 'resp', 'reply', 'answer', 'in', 'read'];
const ARROWS: Readonly<Record<string, Direction>> = {
  '->': 'request',
  '-->': 'request',
  '=>': 'request',
  '>>': 'request',
  '>': 'request',
  '→': 'request',
  '<-': 'response',
  '<--': 'response',
  '<=': 'response',
  '<<': 'response',
  '<': 'response',
  '←': 'response',
};
/** A word that says who spoke, with a colon or in brackets (`TX` and `RX` without), or an arrow. */
const MARK = new RegExp(
  `(?<![\\w\\\\])(?:\\[?(${[...SENT, ...CAME].join('|')})\\]?\\s*:|\\[(${[...SENT, ...CAME].join('|')})\\]|(tx|rx)(?=\\s))|(-{1,2}>|=>|>{1,2}|→|<-{1,2}|<=|<{1,2}|←)`,
  'gi',
);
/** A time before the bytes: a clock, with or without a date, in brackets or not. */
const TIME = /^\s*\[?(?:\d{4}-\d{2}-\d{2}[T ])?\d{1,2}:\d{2}:\d{2}(?:[.,]\d{1,9})?\]?[\s,;|]+/;
/** What people write behind bytes: `(8 bytes)`, `[8]`. */
const REMARK = /[([]\s{0,3}\d{1,5}\s{0,3}(?:bytes?)?\s{0,3}[)\]]$/i;

const directionOf = (match: RegExpMatchArray): Direction => {
  const word = (match[1] ?? match[2] ?? match[3])?.toLowerCase();
  return word === undefined ? (ARROWS[match[4] ?? ''] ?? 'request') : SENT.includes(word) ? 'request' : 'response';
};

/**
 * Reads what was pasted from a log, a manual or a message: bytes in any notation; a hex dump; or lines with marks of who spoke (`TX:`, `RX:`,
 * arrows) and times, whose frames keep their direction. Faults name the character where reading stopped. Linear in the text.
 */
export function readPasted(text: string): Result<Pasted, Fault> {
  if (text.length > LONGEST_PASTE)
    return failed(
      fault(
        'too-long',
        LONGEST_PASTE,
        text.length,
        `${text.length} characters are no single frame; paste them under “Capture”, or open them there as a file`,
      ),
    );
  const dump = dumpBytes(text);
  if (dump) return done({ frames: [{ direction: null, bytes: dump }], notation: 'hex dump' });
  // What is quoted or a C array has arrows and colons of its own.
  if (/["'{]/.test(text)) return plain(text);
  const frames: { direction: Direction | null; parts: Uint8Array[] }[] = [];
  let isMarked = false;
  let at = 0;
  for (const line of text.split('\n')) {
    const pieces = piecesOf(line, at);
    at += line.length + 1;
    for (const piece of pieces) {
      isMarked ||= piece.direction !== null || piece.hadTime;
      if (piece.text.trim() === '') continue;
      const parsed = parseBytes(piece.text);
      if (!parsed.ok) {
        if (!isMarked && pieces.length === 1) return plain(text);
        const { code, start, end, text: why } = parsed.error;
        return failed(fault(code, piece.start + start, piece.start + end, why));
      }
      const before = frames[frames.length - 1];
      // A line without a mark goes on with the frame of the line before, unless it has a time of its own.
      if (piece.direction === null && !piece.hadTime && before) before.parts.push(parsed.value.bytes);
      else frames.push({ direction: piece.direction, parts: [parsed.value.bytes] });
    }
  }
  if (!isMarked) return plain(text);
  if (frames.length === 0) return failed(fault('empty', 0, text.length, 'no bytes here yet'));
  return done({
    frames: frames.map(({ direction, parts }) => ({ direction, bytes: concatBytes(...parts) })),
    notation: 'a log',
  });
}

function plain(text: string): Result<Pasted, Fault> {
  const parsed = parseBytes(text);
  return parsed.ok
    ? done({ frames: [{ direction: null, bytes: parsed.value.bytes }], notation: parsed.value.notation })
    : parsed;
}

interface Piece {
  readonly direction: Direction | null;
  readonly hadTime: boolean;
  readonly text: string;
  /** Where it begins in the whole text. */
  readonly start: number;
}

/** A line cut at its marks; what stands before the first one is no data. */
function piecesOf(line: string, at: number): readonly Piece[] {
  const time = TIME.exec(line);
  const marks = [...line.matchAll(MARK)];
  const cut = (from: number, to: number, direction: Direction | null): Piece => {
    const inner = direction === null ? null : TIME.exec(line.slice(from, to));
    const begin = from + (inner?.[0].length ?? 0);
    return {
      direction,
      hadTime: time !== null || inner !== null,
      text: line.slice(begin, to).trimEnd().replace(REMARK, ''),
      start: at + begin,
    };
  };
  if (marks.length === 0) return [cut(time?.[0].length ?? 0, line.length, null)];
  return marks.map((mark, i) =>
    cut(mark.index + mark[0].length, marks[i + 1]?.index ?? line.length, directionOf(mark)),
  );
}
