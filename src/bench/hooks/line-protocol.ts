import type { JobLine } from '../../core/job/job';
import type { PlaceLink } from '../../core/places/place-link';
import { protocolOfLine } from '../../core/protocol/choose';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import { indexOf, knownLine, type BenchState } from '../state/bench-state';

const protocols = new WeakMap<
  JobLine,
  { readonly sheets: BenchState['sheets']; readonly protocol: LineProtocol | null }
>();

/** What a line speaks; made once for each line and set of sheets, since views compare it by identity. */
export function protocolOn(state: BenchState, line: string): LineProtocol | null {
  const found = knownLine(state, line);
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
