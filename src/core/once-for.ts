/** What is worked out of something that never changes: once for each, however often it is asked for, and forgotten with it. */
export function onceFor<From extends object, To extends object | string>(work: (from: From) => To): (from: From) => To {
  const made = new WeakMap<From, To>();
  return (from) => {
    const known = made.get(from);
    if (known !== undefined) return known;
    const to = work(from);
    made.set(from, to);
    return to;
  };
}
