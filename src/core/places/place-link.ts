import { patternOfCells } from '../drive/seen';
import { isWide } from '../values/wide';
import { ownCell, type PlacedParameter, type SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Cell } from '../sheet/place';

/** The last pattern seen in the place with a role; undefined where nothing is known. */
export type KnownWord = (role: ParameterRole) => number | undefined;

/** Cells of a drive and the numbers that they hold. */
export type Told = readonly (readonly [Cell, number])[];

/** What is told of a value by a further way is told by its own cells too. */
export const alsoByOwn = ({ ownCells }: SheetIndex, told: Told): Told =>
  ownCells.size === 0
    ? told
    : told.flatMap(([cell, number]) => {
        const own = ownCells.get(cell);
        return own ? [[cell, number] as const, [own, number] as const] : [[cell, number] as const];
      });

/** What is told of a value by a further way is told by its own cells instead. */
export const byOwn = (index: SheetIndex, told: Told): Told =>
  index.ownCells.size === 0 ? told : told.map(([cell, number]) => [ownCell(index, cell), number] as const);

/** How words are written by a link that carries one number at a time. */
export const oneNumber =
  (write: PlaceLink['write']): PlaceLink['writeWords'] =>
  (station, place, words, known) => {
    const pattern = patternOfCells(place, words);
    return pattern === null || isWide(place.type) ? null : write(station, place, pattern, known);
  };

/** Of a link whose requests do not say in which memory a value goes. */
export const SAYS_NO_MEMORY: Pick<PlaceLink, 'writeKept' | 'keeps'> = { writeKept: null, keeps: () => null };

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
  /**
   * The request that writes a value into non-volatile memory at once, where this kind of link has such requests beside those for working memory; null where the
   * drive alone decides where a value goes.
   */
  readonly writeKept: ((station: number, place: PlacedParameter, words: readonly number[]) => Uint8Array | null) | null;
  /** Whether a request says that what it writes is kept without power (true) or is not (false); null where it says nothing of it. */
  readonly keeps: (request: Uint8Array) => boolean | null;
  /** Requests that read these places, as few as can be. Nothing in them moves a shaft. */
  readonly read: (station: number, places: readonly PlacedParameter[]) => readonly Uint8Array[];
  /** Whether a request changes something at the drive. */
  readonly writes: (request: Uint8Array) => boolean;
  /** The cells that a request changes, with what it puts there, each value by its own cells. A mask write is told with every bit that may be 1 afterwards. */
  readonly written: (request: Uint8Array) => Told;
  /** What an answered exchange tells: cells as they were read, and a value that has several ways by its own cells too. */
  readonly learned: (request: Uint8Array, reply: Uint8Array) => Told;
  /** Cells that were read, and the own cells of what was reached by a further way. */
  readonly known: (told: Told) => Told;
}
