import type { Bench } from './bench';
import type { BenchState } from './bench-state';
import type { FrameRun } from './frame-run-state';

export interface RunFrame {
  readonly station: number;
  readonly bytes: Uint8Array;
  readonly name: string;
}

/** Shorter pauses would only fill the line's queue. */
export const LEAST_PAUSE_MS = 20;

/** What must end a run at once: Stop, another line or station, or a closed line. */
function reasonToEnd(state: BenchState, line: string): string {
  if (state.stops.length > 0) return 'Stop was pressed';
  if (state.lineId !== line) return 'another line was chosen';
  return state.lines.get(line)?.open === true ? '' : 'the line is closed';
}

/**
 * Sends frames one after the other, each after the end of the one before and a pause; begun by a press, ended by Stop, by the line, or by
 * `end`. Only one run at a time: a new one ends the old one.
 */
export function startFrameRun(bench: Bench, frames: readonly RunFrame[], pauseMs: number, endless: boolean): void {
  const { state } = bench;
  endFrameRun(bench, 'another list was begun');
  const line = state.getState().lineId;
  let at = 0;
  let ticket = 0;
  const own: FrameRun = {
    line,
    title: frames.length === 1 ? (frames[0]?.name ?? '') : `${frames.length} frames`,
    endless,
    sent: 0,
    answered: 0,
    over: false,
    why: '',
  };
  let shown = own;
  const show = (change: Partial<FrameRun>): void => {
    shown = { ...shown, ...change };
    state.setState({ frameRun: shown });
  };
  const isCurrent = (): boolean => state.getState().frameRun === shown;
  const sendNext = (): void => {
    if (!isCurrent() || shown.over) return;
    const frame = frames[at % frames.length];
    if (!frame) return finish('');
    ticket = bench.send(frame.station, frame.bytes, `list: ${frame.name}`);
    at++;
    show({ sent: at });
  };
  const finish = (why: string): void => {
    leave();
    if (isCurrent()) show({ over: true, why });
  };
  const leave = state.subscribe((now) => {
    if (now.frameRun !== shown) return leave();
    const why = reasonToEnd(now, line);
    if (why) return finish(why);
    const result = ticket === 0 ? undefined : now.results.get(ticket);
    if (!result) return;
    ticket = 0;
    show({ answered: shown.answered + (result.outcome === 'answered' ? 1 : 0) });
    if (!endless && at >= frames.length) return finish('');
    setTimeout(sendNext, Math.max(LEAST_PAUSE_MS, pauseMs) / now.yardSpeed);
  });
  show({});
  const why = frames.length === 0 ? 'there is nothing to send' : reasonToEnd(state.getState(), line);
  if (why) finish(why);
  else sendNext();
}

export function endFrameRun(bench: Bench, why = 'ended by hand'): void {
  const { frameRun } = bench.state.getState();
  if (frameRun && !frameRun.over) bench.state.setState({ frameRun: { ...frameRun, over: true, why } });
}

/** One line on how a run goes. */
export const runText = (run: FrameRun | null): string =>
  run
    ? `${run.title}: ${run.sent} sent, ${run.answered} answered${run.over ? `, ended${run.why ? `: ${run.why}` : ''}` : ''}`
    : '';
