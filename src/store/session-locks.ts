const PREFIX = 'bujo-session-';

/** Says to other tabs that this session is alive, for as long as this page is. */
export function holdSession(session: string): void {
  void navigator.locks?.request(PREFIX + session, () => new Promise<never>(() => undefined));
}

/** Acts once the page of a session is gone; where the browser has no locks nothing tells it, and nothing is done. */
export function whenSessionEnds(session: string, act: () => void): void {
  void navigator.locks?.request(PREFIX + session, { mode: 'shared' }, act);
}

/** Sessions of tabs that are alive. */
export async function heldSessions(): Promise<ReadonlySet<string>> {
  const { held = [] } = (await navigator.locks?.query()) ?? {};
  return new Set(held.flatMap(({ name }) => (name?.startsWith(PREFIX) ? [name.slice(PREFIX.length)] : [])));
}
