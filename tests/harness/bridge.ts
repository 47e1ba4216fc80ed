import type { Socket } from 'node:net';
import * as v from 'valibot';
import { LIMITS, TcpBridge, type BridgeLimits } from '../../src/bridge/tcp-bridge';
import { LiveClock } from '../../src/core/time/live-clock';
import { BridgeClient } from '../../src/link/bridge-client';
import { BridgeCommandsSchema, TOKEN_HEADER } from '../../src/link/bridge-protocol';

/** Real time for tests over real sockets. */
export const realClock = (): LiveClock =>
  new LiveClock(
    () => performance.now(),
    (action, ms) => Number(setTimeout(action, ms).unref()),
    (handle) => clearTimeout(handle),
  );

/** A bridge and its client in one process: the route handler's part is played by a function, the sockets are real. */
export function bridgePair({
  ownPorts = [],
  limits = {},
  dial,
}: { ownPorts?: number[]; limits?: Partial<BridgeLimits>; dial?: () => Socket } = {}) {
  let token = 0;
  const bridge = new TcpBridge(ownPorts, () => `token ${++token}`, { ...LIMITS, ...limits }, dial);
  const gone = new AbortController();
  let isThere = true;
  let posts = 0;
  const play: typeof fetch = (_input, init) => {
    if (!isThere) return Promise.reject(new TypeError('Failed to fetch'));
    if (init?.method !== 'POST') {
      const stream = bridge.stream(gone.signal);
      return Promise.resolve(
        stream instanceof ReadableStream ? new Response(stream) : new Response(stream.text, { status: stream.status }),
      );
    }
    const given = (init.headers as Record<string, string>)[TOKEN_HEADER] ?? null;
    posts++;
    const read = v.safeParse(BridgeCommandsSchema, JSON.parse(init.body as string));
    if (!read.success) return Promise.resolve(new Response('these are no commands of the bridge', { status: 400 }));
    const refused = bridge.obey(given, read.output);
    if ('status' in refused) return Promise.resolve(new Response(refused.text, { status: refused.status }));
    return Promise.resolve(refused.length === 0 ? new Response(null, { status: 204 }) : Response.json(refused));
  };
  return {
    bridge,
    client: new BridgeClient(play),
    leave: () => gone.abort(),
    /** How many POSTs came so far. */
    posts: () => posts,
    answers: (there: boolean) => (isThere = there),
  };
}

/** Waits until something is so; for things that other processes or sockets do. */
export async function until(isSo: () => boolean, ms = 3000): Promise<void> {
  const endMs = performance.now() + ms;
  while (!isSo()) {
    if (performance.now() > endMs) throw new Error('waited in vain');
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
}
