import type { PlacedParameter } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';

/** The last word seen in the place with a role; undefined where nothing is known. */
export type KnownWord = (role: ParameterRole) => number | undefined;

/** How the values of a drive are written, read and learned on one kind of link. Views name places and roles; only this knows frames. */
export interface PlaceLink {
  /** The request that writes one word; null where this link cannot. Some links carry other words along, which `known` gives. */
  readonly write: (station: number, place: PlacedParameter, word: number, known: KnownWord) => Uint8Array | null;
  /** The one request that writes several words in a row from `place` on, so that none is taken without the others; null where this link has none. */
  readonly writeRow: (station: number, place: PlacedParameter, words: readonly number[]) => Uint8Array | null;
  /** Requests that read these places, as few as can be. Nothing in them moves a shaft. */
  readonly read: (station: number, places: readonly PlacedParameter[]) => readonly Uint8Array[];
  /** Whether a request changes something at the drive. */
  readonly writes: (request: Uint8Array) => boolean;
  /** The places that a request changes, with the words that it puts there. A mask write is told with every bit that may be 1 afterwards. */
  readonly written: (request: Uint8Array) => readonly (readonly [number, number])[];
  /** What an answered exchange tells: places and their words. */
  readonly learned: (request: Uint8Array, reply: Uint8Array) => readonly (readonly [number, number])[];
}
