import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { Bench } from '../../bench/bench';
import { stationKey, type DriveRef } from '../../bench/state/bench-state';
import { messageOf } from '../../core/message-of';
import type { Look } from '../../core/registers/look';

/** A look at a drive's registers, of this tab: leaving the view pauses it and loses nothing, nor does a reload. */
export interface LookState {
  readonly look: Look | null;
  /** The drive that it is about. */
  readonly drive: DriveRef | null;
  readonly name: string;
  /** The commands that are looked through, by their places in the look. */
  readonly commands: readonly string[];
  readonly isGoing: boolean;
  /** The request under way; 0 where none is. */
  readonly ticket: number;
  /** When it began to go, and how many addresses were known then: the rate comes of it. */
  readonly sinceMs: number;
  readonly knownThen: number;
  /** The look before this one, to be compared with. */
  readonly before: Look | null;
}

export const lookStore = createStore<LookState>(() => ({
  look: null,
  drive: null,
  name: '',
  commands: [],
  isGoing: false,
  ticket: 0,
  sinceMs: 0,
  knownThen: 0,
  before: null,
}));

export const useLook = <T>(select: (state: LookState) => T): T => useStore(lookStore, select);

/** A look goes on to be kept while it goes, not after each of its reads. */
const KEEP_EVERY_MS = 1000;

/** Keeps the look in the browser while it grows, and as it stands when it pauses; gives back how that is ended. */
export function keepLooks(bench: Bench): () => void {
  let timer: ReturnType<typeof setTimeout> | null = null;
  const keep = (): void => {
    timer = null;
    const { look, drive, name, before, commands } = lookStore.getState();
    const { job } = bench.state.getState();
    // Of another job than the open one it is kept already, as far as it went.
    if (!look || !drive || !job?.lines.some(({ id }) => id === drive.line)) return;
    bench.looks
      .keep({ job: job.id, drive: stationKey(drive.line, drive.station), name, look, before, commands })
      .catch((error: unknown) =>
        bench.state.setState({
          refused: `the look is not kept over a reload, this browser does not store it: ${messageOf(error)}`,
        }),
      );
  };
  const end = lookStore.subscribe((state, last) => {
    if (state.look === last.look && state.isGoing === last.isGoing) return;
    if (state.isGoing) timer ??= setTimeout(keep, KEEP_EVERY_MS);
    else {
      if (timer) clearTimeout(timer);
      keep();
    }
  });
  return () => {
    if (timer) clearTimeout(timer);
    end();
  };
}

/** The look that was kept of a drive, where this tab has none: it waits for its press to go on. */
export async function recallLook(bench: Bench, drive: DriveRef): Promise<void> {
  const { job } = bench.state.getState();
  const row = job && (await bench.looks.of(job.id, stationKey(drive.line, drive.station)));
  if (!row || lookStore.getState().look) return;
  const { look, before, name, commands } = row;
  lookStore.setState({ look, before, name, commands, drive, knownThen: look.found.size });
}
