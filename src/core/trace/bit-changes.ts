import type { BitTrack } from './trend';

/** A bit that was seen to change, at the time of the reading that showed it. */
export interface BitChange {
  /** Seconds of the session. */
  readonly x: number;
  readonly bit: number;
  readonly name: string;
  readonly rose: boolean;
  /** The reading before it: the change happened between the two. */
  readonly afterX: number;
}

/** All changes of the bits, newest first. A change over a gap is told with the last reading before it. */
export function bitChanges(tracks: readonly BitTrack[]): readonly BitChange[] {
  const changes = tracks.flatMap(({ bit, name, points }) => {
    const seen = points.filter((point): point is { x: number; y: number } => point.y !== null);
    return seen.flatMap(({ x, y }, i): BitChange[] => {
      const before = seen[i - 1];
      return before && before.y !== y ? [{ x, bit, name, rose: y === 1, afterX: before.x }] : [];
    });
  });
  return changes.sort((a, b) => b.x - a.x || a.bit - b.bit);
}
