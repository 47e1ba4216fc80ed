import { STREAMS_A_BROWSER } from '../link/bridge-client';
import type { StopReport } from '../messages/line';

/** Exclusive use of a line over all tabs of this browser. */
export interface LineLocks {
  /** Resolves to a release function, or null when another tab has the line. */
  take(line: string): Promise<(() => void) | null>;
}

/** What tabs tell each other. */
export type TabMessage =
  | { readonly kind: 'stop'; readonly id: string; readonly line: string; readonly station: number }
  | { readonly kind: 'stop-taken'; readonly id: string }
  | { readonly kind: 'stop-report'; readonly id: string; readonly report: StopReport };

export interface TabChannel {
  post(message: TabMessage): void;
  listen(take: (message: TabMessage) => void): void;
}

/** Locks of the browser, held by this worker until it lets go or ends. */
export const browserLocks = (): LineLocks => ({ take: (line) => heldLock(`bujo-line-${line}`) });

/** A lock that is held until the function is called; null where somebody else has it. */
const heldLock = (name: string): Promise<(() => void) | null> =>
  new Promise((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      if (!lock) {
        resolve(null);
        return undefined;
      }
      return new Promise<void>((release) => resolve(release));
    });
  });

/** A place for this tab's stream to the local server, among those of all tabs of this browser. */
export async function takeStreamPlace(): Promise<(() => void) | null> {
  for (let i = 1; i <= STREAMS_A_BROWSER; i++) {
    const release = await heldLock(`bujo-stream-${i}`);
    if (release) return release;
  }
  return null;
}

/** The channel over which the tabs of this browser tell each other of Stop. */
export function browserChannel(): TabChannel {
  const channel = new BroadcastChannel('bujo-stop');
  return {
    post: (message) => channel.postMessage(message),
    listen: (take) => channel.addEventListener('message', ({ data }: MessageEvent<TabMessage>) => take(data)),
  };
}
