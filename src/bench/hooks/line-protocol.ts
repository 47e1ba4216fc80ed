import type { JobLine } from '../../core/job/job';
import { lineThen } from '../../core/job/line-history';
import type { PlaceLink } from '../../core/places/place-link';
import { protocolOfLine } from '../../core/protocol/choose';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import type { TraceEntry } from '../../core/trace/entry';
import { historyOf, indexOf, knownLine, type BenchState } from '../state/bench-state';

const protocols = new WeakMap<
  JobLine,
  { readonly sheets: BenchState['sheets']; readonly protocol: LineProtocol | null }
>();

/** What a line speaks; made once for each line and set of sheets, since views compare it by identity. */
export const protocolOn = (state: BenchState, line: string): LineProtocol | null =>
  protocolOf(state, knownLine(state, line));

/** What the line of an entry spoke when it was made. */
export const protocolThen = (state: BenchState, entry: TraceEntry): LineProtocol | null =>
  protocolOf(state, lineThen(historyOf(state), entry));

function protocolOf(state: BenchState, found: JobLine | null): LineProtocol | null {
  if (!found) return null;
  const known = protocols.get(found);
  if (known?.sheets === state.sheets) return known.protocol;
  const protocol = protocolOfLine(found, state.sheets);
  protocols.set(found, { sheets: state.sheets, protocol });
  return protocol;
}

/** How the values of a station are read and written; null where its line or its sheet does not say. */
export function placesOn(state: BenchState, line = state.lineId, station = state.station): PlaceLink | null {
  const index = indexOf(state, line, station);
  return (index && protocolOn(state, line)?.placesOf(index)) ?? null;
}
