import type { Procedure, ProcedureStep } from './procedure';

export interface ListFrame {
  readonly station: number;
  readonly bytes: Uint8Array;
  readonly name: string;
}

/** Shorter pauses would only fill the line. */
export const LEAST_PAUSE_MS = 20;

/** Frames one after the other, each after the end of the one before and a pause, once or until it is ended. */
export function listProcedure(frames: readonly ListFrame[], pauseMs: number, endless: boolean): Procedure {
  const us = 1000 * Math.max(LEAST_PAUSE_MS, pauseMs);
  const steps = frames.flatMap(({ station, bytes, name }, i): readonly ProcedureStep[] => {
    const request: ProcedureStep = { kind: 'request', text: name, station, bytes, needs: 'end' };
    return endless || i + 1 < frames.length ? [request, { kind: 'pause', text: 'pause', us }] : [request];
  });
  const [first] = frames;
  return {
    kind: 'list',
    title: frames.length === 1 && first ? first.name : `${frames.length} frames`,
    station: first?.station ?? 0,
    steps,
    rounds: endless ? null : 1,
    standsStill: false,
  };
}

/** Lines of text to a terminal, with a pause after each. `bytesOf` puts the terminal's line end behind a line. */
export function listingProcedure(
  lines: readonly string[],
  pauseMs: number,
  bytesOf: (line: string) => Uint8Array,
): Procedure {
  const us = 1000 * pauseMs;
  return {
    kind: 'listing',
    title: `${lines.length} lines`,
    station: 0,
    steps: lines.flatMap((line): readonly ProcedureStep[] => [
      { kind: 'request', text: line, station: 0, bytes: bytesOf(line), needs: 'end' },
      { kind: 'pause', text: 'pause', us },
    ]),
    rounds: 1,
    standsStill: false,
  };
}
