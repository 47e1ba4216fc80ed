/**
 * Does one thing at a drive at a time, over all tabs of this browser; null where another tab is at it now. A browser without locks has the page's own
 * order only.
 */
export async function aloneAt<T>(drive: string, work: () => Promise<T>): Promise<T | null> {
  const locks = typeof navigator === 'undefined' ? undefined : navigator.locks;
  if (!locks) return work();
  return locks.request(`bujo-values ${drive}`, { ifAvailable: true }, (lock) =>
    lock ? work() : Promise.resolve(null),
  );
}
