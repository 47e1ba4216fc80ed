import type { Bench } from '../bench';

const keepers = new Map<string, { readonly bench: Bench; readonly leave: () => void }>();

/**
 * Begins to watch something for a bench, once, and goes on for as long as the page is there, whichever view is looked at. `begin` gives back how it is
 * ended: another bench of the same page takes over.
 */
export function forThisBench(name: string, bench: Bench, begin: () => () => void): void {
  const keeper = keepers.get(name);
  if (keeper?.bench === bench) return;
  keeper?.leave();
  keepers.set(name, { bench, leave: begin() });
}
