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
  readonly bytes: Uint8Array;
  readonly isInput: boolean;
}

/**
 * A controller that is played: the same requests at every beat until it is ended. `lostMost`: so many cycles in a row may go without their answers, one
 * more ends it; when it ends, the drive that it set in motion is stopped. `turns`: the block may turn the shaft.
 */
export function cycleProcedure(
  station: number,
  title: string,
  requests: readonly CycleRequest[],
  everyMs: number,
  lostMost: number,
  turns: boolean,
): Procedure {
  return {
    kind: 'cycle',
    title,
    station,
    steps: [
      { kind: 'pause', text: 'the next beat', us: everyMs * 1000, beat: true },
      ...requests.map(({ text, bytes, isInput }) => ({
        kind: 'request' as const,
        text,
        station,
        bytes,
        needs: 'end' as const,
        ...(isInput ? { keeps: INPUT } : {}),
      })),
    ],
    rounds: null,
    lostMost,
    ...(turns ? { silentMostUs: RUN_WITHIN_MS * 1000 } : {}),
    standsStill: false,
  };
}
