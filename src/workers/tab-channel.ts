import type { StopReport } from '../link/messages';

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
export const browserLocks = (): LineLocks => ({
  take: (line) =>
    new Promise((resolve) => {
      void navigator.locks.request(`bujo-line-${line}`, { ifAvailable: true }, (lock) => {
        if (!lock) {
          resolve(null);
          return undefined;
        }
        return new Promise<void>((release) => resolve(release));
      });
    }),
});

export function browserChannel(): TabChannel {
  const channel = new BroadcastChannel('bujo-stop');
  return {
    post: (message) => channel.postMessage(message),
    listen: (take) => channel.addEventListener('message', ({ data }: MessageEvent<TabMessage>) => take(data)),
  };
}
