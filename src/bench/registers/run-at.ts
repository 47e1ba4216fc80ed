import type { Bench } from '../bench';
import { aloneAt } from '../procedures/alone-at';
import { askingOf, type Asking } from '../procedures/ask-drive';
import { stationKey, type DriveRef } from '../state/bench-state';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { messageOf } from '../../core/message-of';
import { registersStore, setRunning, type Running } from './registers-store';

/** What one run does: exchange after exchange until it is done, ended, or asked to pause. Why it ended before its end; empty where it did not. */
export type Work = (asking: Asking, isPaused: () => boolean) => Promise<string>;

/** Runs one thing at a drive: one at a time, over all tabs. Why it ended before its end, which is said in the view too; empty where it did not. */
export async function runAt(
  bench: Bench,
  drive: DriveRef,
  index: SheetIndex,
  about: Pick<Running, 'kind' | 'id' | 'knownThen'>,
  work: Work,
): Promise<string> {
  const key = stationKey(drive.line, drive.station);
  if (registersStore.getState().running.has(key)) return 'something else is under way';
  setRunning(key, { ...about, sinceUs: bench.state.getState().nowUs, isPausing: false });
  const isPaused = (): boolean => registersStore.getState().running.get(key)?.isPausing === true;
  let why: string;
  try {
    const asking = askingOf(bench, drive, index);
    const ended = asking ? await aloneAt(key, () => work(asking, isPaused)) : 'this line does not reach it';
    why = ended ?? 'another tab reads or writes this drive now';
    if (why === '' && isPaused()) why = 'paused';
  } catch (error) {
    why = `broken off: ${messageOf(error)}`;
  }
  setRunning(key, null, why);
  return why;
}

/** The exchange under way is waited for; nothing begins anew before it is over. */
export function pause(key: string): void {
  const running = registersStore.getState().running.get(key);
  if (running) setRunning(key, { ...running, isPausing: true });
}
