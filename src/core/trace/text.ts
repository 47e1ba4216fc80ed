import type { LineProtocol } from '../protocol/line-protocol';
import type { SheetIndex } from '../sheet/index-sheet';
import { OUTCOMES, type Outcome, type TraceEntry } from './entry';

/** What each outcome adds to a row; a row with a mark is tinted, and the words say why. */
const NOTES: Readonly<Partial<Record<Outcome, string>>> = {
  unconfirmed: 'answered, the task is not done yet',
  'may-be-late': 'may be late: it fits this request and an earlier one; not used for live values',
  late: 'late: answers a request that was given up',
  foreign: 'another station or function than was asked',
  damaged: 'damaged',
  stray: 'bytes that belong to no request',
};

const EVENTS: Readonly<Partial<Record<Outcome, string>>> = {
  timeout: 'no answer within the time-out',
  opened: 'line opened; nothing is sent by that',
  'stop-pressed': 'Stop pressed',
};

/** Bytes of a line without requests and answers. */
const isPlainText = ({ direction, outcome, cause }: TraceEntry): boolean =>
  (direction === 'received' && outcome === 'none') || cause === 'Terminal';

const MARKS: Readonly<Partial<Record<number, string>>> = { 9: '⇥', 10: '↓', 13: '↵', 27: '⎋' };

/** Text as it can be shown in a row: what does not print has a mark. */
const printable = (bytes: Uint8Array): string =>
  Array.from(bytes, (byte) => (byte >= 32 && byte < 127 ? String.fromCharCode(byte) : (MARKS[byte] ?? '·'))).join('');

/** Outcomes that a person looks for: they are tinted, and a filter for faults finds them. */
export const FAULTY: ReadonlySet<Outcome> = new Set<Outcome>([
  'timeout',
  'trouble',
  'exception',
  ...OUTCOMES.filter((outcome) => outcome in NOTES),
]);

/** Whether an entry is one of those that a search for trouble wants. */
export const isFaulty = ({ outcome }: TraceEntry): boolean => FAULTY.has(outcome);

/** The meaning of one entry, made from its bytes each time it is looked at. `request` is the frame that a reply belongs to. */
export function textOf(
  entry: TraceEntry,
  request: TraceEntry | null,
  index: SheetIndex | null,
  protocol: LineProtocol | null,
): string {
  if (entry.direction === 'event') return EVENTS[entry.outcome] ?? entry.cause;
  if (isPlainText(entry)) return printable(entry.bytes);
  if (!protocol) return printable(entry.bytes);
  if (entry.direction === 'sent') return protocol.sentence(entry.bytes, 'request', null, index);
  const said = protocol.sentence(entry.bytes, 'response', request?.bytes ?? null, index);
  const note = NOTES[entry.outcome];
  const line =
    entry.lineFaults.length > 0
      ? ` (${entry.lineFaults.length} characters with ${[...new Set(entry.lineFaults)].join(' and ')} faults)`
      : '';
  return note ? `${note}${line} · ${said}` : `${said}${line}`;
}
