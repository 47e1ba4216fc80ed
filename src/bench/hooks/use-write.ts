'use client';

import type { ParameterRole } from '../../core/sheet/parameter-section';
import { useBench } from '../bench-context';
import { liveOf } from '../state/known-state';
import { useCurrent } from './use-current';

/** Writes one word to the place with a role at the current station; the ticket of the request, 0 where nothing could be sent. */
export function useWrite(cause: string): (role: ParameterRole, word: number) => number {
  const bench = useBench();
  const { drive, index, view, places, isOpen } = useCurrent();
  return (role, word) => {
    const place = index?.byRole.get(role);
    if (!place || !drive || !places || !isOpen) return 0;
    const bytes = places.write(drive.station, place, word, (other) => liveOf(index, view, other)?.word);
    if (bytes) return bench.send(drive, bytes, cause);
    bench.state.setState({ refused: `Not sent: no request of this link carries ${word} to ${place.name}.` });
    return 0;
  };
}
