import { SAYS_NO_MEMORY, type PlaceLink } from './place-link';

/** A line on which no value has a place: nothing is read, written or learned by this. */
export const NO_PLACES: PlaceLink = {
  write: () => null,
  writeWords: () => null,
  ...SAYS_NO_MEMORY,
  read: () => [],
  writes: () => false,
  written: () => [],
  learned: () => [],
  known: (told) => told,
};
