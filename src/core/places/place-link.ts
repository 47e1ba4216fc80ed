import { patternOfCells } from '../drive/seen';
import { isWide } from '../values/wide';
import type { PlacedParameter } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Cell } from '../sheet/place';

/** The last pattern seen in the place with a role; undefined where nothing is known. */
export type KnownWord = (role: ParameterRole) => number | undefined;

/** Cells of a drive and the numbers that they hold. */
export type Told = readonly (readonly [Cell, number])[];

/** How words are written by a link that carries one number at a time. */
export const oneNumber =
  (write: PlaceLink['write']): PlaceLink['writeWords'] =>
  (station, place, words, known) => {
    const pattern = patternOfCells(place, words);
    return pattern === null || isWide(place.type) ? null : write(station, place, pattern, known);
  };

/** How the values of a drive are written, read and learned on one kind of link. Views name places and roles; only this knows frames. */
export interface PlaceLink {
  /** The request that writes one value, as its pattern; null where this link cannot. Some links carry other words along, which `known` gives. */
  readonly write: (station: number, place: PlacedParameter, pattern: number, known: KnownWord) => Uint8Array | null;
  /** The same for a value that no pattern holds, as its words on the wire; null where this link cannot. */
  readonly writeWords: (
    station: number,
    place: PlacedParameter,
    words: readonly number[],
    known: KnownWord,
  ) => Uint8Array | null;
  /** Requests that read these places, as few as can be. Nothing in them moves a shaft. */
  readonly read: (station: number, places: readonly PlacedParameter[]) => readonly Uint8Array[];
  /** Whether a request changes something at the drive. */
  readonly writes: (request: Uint8Array) => boolean;
  /** The cells that a request changes, with what it puts there. A mask write is told with every bit that may be 1 afterwards. */
  readonly written: (request: Uint8Array) => Told;
  /** What an answered exchange tells. */
  readonly learned: (request: Uint8Array, reply: Uint8Array) => Told;
}
