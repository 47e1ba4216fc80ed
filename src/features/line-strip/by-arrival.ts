/** What is shown now in the order in which it came, the newest first; the same list where nothing came or went. Of those that come at once the first stands first. */
export function byArrival<Id>(before: readonly Id[], shown: readonly Id[]): readonly Id[] {
  const stayed = before.filter((id) => shown.includes(id));
  const came = shown.filter((id) => !before.includes(id));
  return came.length === 0 && stayed.length === before.length ? before : [...came, ...stayed];
}
