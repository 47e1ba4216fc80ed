const PREFIX = 'bujo-session-';

/** Says to other tabs that this session is alive, for as long as this page is. */
export function holdSession(session: string): void {
  void navigator.locks?.request(PREFIX + session, () => new Promise<never>(() => undefined));
}

/** Sessions of tabs that are alive. */
export async function heldSessions(): Promise<ReadonlySet<string>> {
  const { held = [] } = (await navigator.locks?.query()) ?? {};
  return new Set(held.flatMap(({ name }) => (name?.startsWith(PREFIX) ? [name.slice(PREFIX.length)] : [])));
}
