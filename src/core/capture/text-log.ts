import { hexToBytes } from '../bytes/hex';
import { parseBytes } from '../bytes/notation';
import type { Direction } from '../direction';

/** Which part of a line of a log says what; chosen by the user, and remembered. Columns count from 1. */
export interface LogMapping {
  readonly separator: 'blanks' | 'tab' | 'comma' | 'semicolon';
  /** 0 = the log has no times. */
  readonly timeColumn: number;
  /** What a plain number in the time column counts. */
  readonly timeUnit: 's' | 'ms' | 'us';
  /** 0 = the log does not say who spoke. */
  readonly directionColumn: number;
  /** What stands in the direction column of a request; anything else is a response. */
  readonly requestMark: string;
  /** The bytes stand from this column to the end of the line. */
  readonly bytesColumn: number;
}

export interface LogRecord {
  /** NaN where the line has no time that can be read. */
  readonly timeUs: number;
  readonly direction: Direction | null;
  readonly bytes: Uint8Array;
}

const SPLITS: Readonly<Record<LogMapping['separator'], RegExp>> = {
  blanks: /[ \t]+/,
  tab: /\t/,
  comma: /,/,
  semicolon: /;/,
};
const GLUE: Readonly<Record<LogMapping['separator'], string>> = { blanks: ' ', tab: ' ', comma: ' ', semicolon: ' ' };
const UNIT_US = { s: 1e6, ms: 1e3, us: 1 } as const;

/** A time as logs write it: a clock with or without a date, or a plain number. Microseconds; NaN where it is none. */
export function timeIn(text: string, unit: LogMapping['timeUnit']): number {
  const bare = text.replace(/^\[|\]$/g, '');
  const clock = /^(?:(\d{4}-\d{2}-\d{2})[T ])?(\d{1,2}):(\d{2}):(\d{2})(?:[.,:](\d{1,9}))?Z?$/.exec(bare);
  if (clock) {
    const [, date, h, m, s, fraction = '0'] = clock;
    const day = date ? Date.parse(`${date}T00:00:00Z`) * 1e3 : 0;
    const parts = [h, m, s].map((part) => parseInt(part ?? '0', 10)) as [number, number, number];
    return day + (parts[0] * 3600 + parts[1] * 60 + parts[2]) * 1e6 + parseInt(fraction.padEnd(9, '0'), 10) / 1e3;
  }
  return /^[+-]?\d+(?:\.\d+)?$/.test(bare) ? parseFloat(bare) * UNIT_US[unit] : NaN;
}

/** One line by a mapping; null where it holds no bytes. */
export function logRecord(line: string, mapping: LogMapping): LogRecord | null {
  const cells = line.trim().split(SPLITS[mapping.separator]);
  const text = cells.slice(mapping.bytesColumn - 1).join(GLUE[mapping.separator]);
  const bytes = bytesIn(text);
  if (!bytes || bytes.length === 0) return null;
  const said = mapping.directionColumn > 0 ? (cells[mapping.directionColumn - 1] ?? '').trim() : '';
  return {
    timeUs: mapping.timeColumn > 0 ? timeIn((cells[mapping.timeColumn - 1] ?? '').trim(), mapping.timeUnit) : NaN,
    direction: mapping.directionColumn > 0 ? (said === mapping.requestMark ? 'request' : 'response') : null,
    bytes,
  };
}

/** Hex is tried first: in a log, `10 20` is not decimal. */
function bytesIn(text: string): Uint8Array | null {
  const plain = hexToBytes(text);
  if (plain.ok) return plain.value;
  const any = parseBytes(text);
  return any.ok ? any.value.bytes : null;
}

const NO_MAPPING: LogMapping = {
  separator: 'blanks',
  timeColumn: 0,
  timeUnit: 's',
  directionColumn: 0,
  requestMark: '',
  bytesColumn: 1,
};

/** How well a mapping reads some lines: bytes first, then times, then who spoke. */
const score = (lines: readonly string[], mapping: LogMapping): number =>
  lines.reduce((sum, line) => {
    const record = logRecord(line, mapping);
    if (!record) return sum;
    // Between blanks, two digits are rather a byte than a time.
    const cell =
      mapping.timeColumn > 0 ? (line.trim().split(SPLITS[mapping.separator])[mapping.timeColumn - 1] ?? '') : '';
    if (mapping.separator === 'blanks' && /^\d{1,2}$/.test(cell)) return sum;
    return sum + 4 + (Number.isNaN(record.timeUs) ? 0 : 2) + (record.direction ? 1 : 0);
  }, 0);

const REQUEST_WORDS = ['tx', 'send', 'sent', 'out', '>', '>>', '->', 'req', 'request', 'write', 'w', 's'];

/** A first guess at the mapping from some lines; the user has the last word. */
export function guessMapping(sample: readonly string[]): LogMapping {
  const lines = sample.filter((line) => line.trim() !== '').slice(0, 50);
  let best = NO_MAPPING;
  let most = -1;
  for (const separator of ['tab', 'semicolon', 'comma', 'blanks'] as const)
    for (let bytesColumn = 1; bytesColumn <= 6; bytesColumn++)
      for (let timeColumn = 0; timeColumn < bytesColumn; timeColumn++)
        for (let directionColumn = 0; directionColumn < bytesColumn; directionColumn++) {
          if (directionColumn > 0 && directionColumn === timeColumn) continue;
          const mark = directionColumn > 0 ? requestMark(lines, separator, directionColumn) : '';
          if (directionColumn > 0 && mark === null) continue;
          const mapping: LogMapping = {
            ...NO_MAPPING,
            separator,
            bytesColumn,
            timeColumn,
            directionColumn,
            requestMark: mark ?? '',
          };
          const found = score(lines, mapping);
          if (found > most) [best, most] = [mapping, found];
        }
  return best;
}

/** The word of a column that means a request, where the column holds two words and one of them is known. */
function requestMark(lines: readonly string[], separator: LogMapping['separator'], column: number): string | null {
  const words = new Set(lines.map((line) => (line.trim().split(SPLITS[separator])[column - 1] ?? '').trim()));
  if (words.size > 3) return null;
  return [...words].find((word) => REQUEST_WORDS.includes(word.toLowerCase().replace(/:$/, ''))) ?? null;
}
