'use client';

import { framingOf } from '../../core/modbus/framing';
import { useMemo } from 'react';
import { useBenchState } from '../bench-context';
import { inPresentMode } from '../state/known-state';
import { indexOf, lineOf, stationKey, stationName, stationOf, viewOf, type DriveRef } from '../state/bench-state';
import { protocolOn } from './line-protocol';

/** The line and station that the bench is set to, with what is known of them. */
export function useCurrent() {
  const line = useBenchState(lineOf);
  const station = useBenchState(stationOf);
  const sheetIndex = useBenchState((state) => indexOf(state));
  const view = useBenchState((state) => viewOf(state));
  const index = sheetIndex && inPresentMode(sheetIndex, view);
  const protocol = useBenchState((state) => protocolOn(state, state.lineId));
  const lineState = useBenchState((state) => state.lines.get(state.lineId) ?? null);
  const key = stationKey(line?.id ?? '', station?.station ?? 0);
  const name = station ? stationName(station) : 'no station';
  return {
    line,
    station,
    index,
    view,
    lineState,
    key,
    name,
    /** Null on a line of plain text, and where no sheet describes the dialect. */
    protocol,
    /** How this drive's values are read and written; null where nothing says it. */
    places: useMemo(() => (sheetIndex && protocol?.placesOf(sheetIndex)) ?? null, [sheetIndex, protocol]),
    framing: framingOf(line?.protocol),
    isOpen: lineState?.open === true,
    /** The drive that is looked at now, to be carried by whatever is sent to it. */
    drive: useMemo(
      (): DriveRef | null => (line && station ? { line: line.id, station: station.station } : null),
      [line, station],
    ),
  };
}
