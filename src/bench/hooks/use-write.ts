'use client';

import { counted } from '../../core/counted';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { useBench } from '../bench-context';
import { liveOf } from '../state/known-state';
import { useCurrent } from './use-current';

/** Writes one value to the place with a role at the current station, as its pattern or, however wide, as its words; the ticket of the request, 0 where nothing could be sent. */
export function useWrite(cause: string): (role: ParameterRole, value: number | readonly number[]) => number {
  const bench = useBench();
  const { drive, index, view, places, isOpen } = useCurrent();
  return (role, value) => {
    const place = index?.byRole.get(role);
    if (!place || !drive || !places || !isOpen) return 0;
    const known = (other: ParameterRole): number | undefined => liveOf(index, view, other)?.word;
    const bytes =
      typeof value === 'number'
        ? places.write(drive.station, place, value, known)
        : places.writeWords(drive.station, place, value, known);
    if (bytes) return bench.send(drive, bytes, cause);
    bench.state.setState({
      refused: `Not sent: no request of this link carries ${typeof value === 'number' ? value : counted(value.length, 'word')} to ${place.name}.`,
    });
    return 0;
  };
}
