/** What can only be asked, and answers later. */
type Asked<T> = { readonly [Name in keyof T]: (...args: never[]) => Promise<unknown> };

/** Something that is fetched when it is first asked; where that failed, the next question fetches it again. Rejects as the fetching or the question does. */
export function withUse<T extends Asked<T>>(fetch: () => Promise<T>): T {
  let coming: Promise<T> | null = null;
  const here = (): Promise<T> =>
    (coming ??= fetch().catch((error: unknown) => {
      coming = null;
      throw error;
    }));
  return new Proxy({} as T, {
    // Without a `then` of its own, or whoever awaits it would ask that.
    get: (_, name) =>
      name === 'then' ? undefined : async (...args: never[]) => (await here())[name as keyof T](...args),
  });
}
