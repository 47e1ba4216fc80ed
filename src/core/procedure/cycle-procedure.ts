import type { Cell } from '../sheet/place';
import type { Procedure } from './procedure';

/** Faster than this no browser keeps a beat; longer ones are no cycle. In milliseconds. */
export const CYCLE_MS = { least: 20, most: 10_000 } as const;
/** More cycles without an answer than these are no tolerance any more. */
export const MOST_LOST = 10;

/**
 * A block that asks a drive to run goes round within this, in milliseconds, and not any more after a silence of it: a drive that lost its supply meanwhile may be
 * there again, and must not be set going by the next beat.
 */
export const RUN_WITHIN_MS = 1_000;

/** The name under which a cycle keeps what its input block told last. */
export const INPUT = 'input';

/** One request of a cycle, in its order; `isInput`: its answer tells the input block. */
export interface CycleRequest {
  readonly text: string;
  /** What goes out, at least one: one cycle after the other takes the next, and then the first again. */
  readonly inTurn: readonly Uint8Array[];
  readonly isInput: boolean;
}

/** How a controller that is played goes on. */
export interface CycleRules {
  readonly everyMs: number;
  /** So many cycles in a row may go without their answers; one more ends it. */
  readonly lostMost: number;
  /** The block may turn the shaft. */
  readonly turns: boolean;
  /** The drive's sign of life, which must change within so many cycles; null where nobody watches one. */
  readonly life: { readonly cell: Cell; readonly cycles: number } | null;
}

/** A controller that is played: its requests at every beat until it is ended; when it ends, the drive that it set in motion is stopped. */
export function cycleProcedure(
  station: number,
  title: string,
  requests: readonly CycleRequest[],
  { everyMs, lostMost, turns, life }: CycleRules,
): Procedure {
  return {
    kind: 'cycle',
    title,
    station,
    steps: [
      { kind: 'pause', text: 'the next beat', us: everyMs * 1000, beat: true },
      ...requests.map(({ text, inTurn: [bytes = new Uint8Array(0), ...then], isInput }) => ({
        kind: 'request' as const,
        text,
        station,
        bytes,
        ...(then.length > 0 ? { then } : {}),
        needs: 'end' as const,
        ...(isInput ? { keeps: INPUT } : {}),
      })),
    ],
    rounds: null,
    lostMost,
    ...(life ? { life: { cell: life.cell, withinUs: life.cycles * everyMs * 1000 } } : {}),
    ...(turns ? { silentMostUs: RUN_WITHIN_MS * 1000 } : {}),
    standsStill: false,
  };
}
