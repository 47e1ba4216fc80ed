import { bytesToHex } from '../bytes/hex';
import type { LineProtocol } from '../protocol/line-protocol';
import type { SheetIndex } from '../sheet/index-sheet';
import type { TraceEntry } from './entry';
import { textOf } from './text';

/** Columns of an exported trace, in order; every row has all of them. */
export const EXPORT_COLUMNS = [
  'time',
  'session',
  'sequence',
  'atUs',
  'line',
  'station',
  'direction',
  'hex',
  'meaning',
  'outcome',
  'lineFaults',
  'exchange',
  'cause',
] as const;
export type ExportRow = Readonly<Record<(typeof EXPORT_COLUMNS)[number], string | number>>;

/** What the rows of one session need beside the entries. */
export interface ExportContext {
  /** Wall clock at the session's start, in milliseconds. */
  readonly startedAtMs: number;
  readonly lineName: (line: string) => string;
  /** By which an entry is read: sheet and protocol of its time. */
  readonly indexOf: (entry: TraceEntry) => SheetIndex | null;
  readonly protocolOf: (entry: TraceEntry) => LineProtocol | null;
}

/** Turns entries into rows one after the other; it remembers requests, for a reply's meaning needs its request. */
export function exporter({
  startedAtMs,
  lineName,
  indexOf,
  protocolOf,
}: ExportContext): (entry: TraceEntry) => ExportRow {
  // Each line counts its exchanges for itself.
  const requests = new Map<string, TraceEntry>();
  return (entry) => {
    const exchange = `${entry.line} ${entry.exchange}`;
    if (entry.direction === 'sent') requests.set(exchange, entry);
    return {
      time: new Date(startedAtMs + entry.atUs / 1000).toISOString(),
      session: entry.session,
      sequence: entry.sequence,
      atUs: Math.round(entry.atUs),
      line: lineName(entry.line),
      station: entry.station,
      direction: entry.direction,
      hex: bytesToHex(entry.bytes, ' '),
      meaning: textOf(entry, requests.get(exchange) ?? null, indexOf(entry), protocolOf(entry)),
      outcome: entry.outcome,
      lineFaults: entry.lineFaults.join(' '),
      exchange: entry.exchange,
      cause: entry.cause,
    };
  };
}
