/** The least number of a list of any length; Infinity for an empty one. A spread into `Math.min` ends at some ten thousands. */
export const leastOf = <T>(items: readonly T[], of: (item: T) => number): number =>
  items.reduce((least, item) => Math.min(least, of(item)), Infinity);

/** The greatest number of a list of any length; -Infinity for an empty one. */
export const mostOf = <T>(items: readonly T[], of: (item: T) => number): number =>
  items.reduce((most, item) => Math.max(most, of(item)), -Infinity);
