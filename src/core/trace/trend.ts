import { asNumber } from '../as-number';
import type { PlaceLink } from '../places/place-link';
import { numberOf, valueIn } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { cellsMeasure } from '../drive/cells-text';
import { patternIn, patternOfCells } from '../drive/seen';
import { isWide } from '../values/wide';
import { levelOf } from '../words/read';
import type { TraceEntry } from './entry';
import { SETTING_GAP_S, thinnedMost, Track, type Thinned, type TrendPoint } from './track';

export interface BitTrack {
  readonly bit: number;
  readonly name: string;
  readonly points: readonly TrendPoint[];
}

/** What a trace tells of one drive over time. */
export interface Trend {
  readonly reference: readonly TrendPoint[];
  readonly actual: readonly TrendPoint[];
  /** Motor current in the unit of its entry; empty where the sheet has none. */
  readonly current: readonly TrendPoint[];
  readonly bits: readonly BitTrack[];
  /** Moments of writing that a person caused, Stop included. */
  readonly sent: readonly { readonly x: number; readonly text: string }[];
  /** The newest moment that is covered, in seconds. */
  readonly endS: number;
  /** Before when some track has its extremes only, and of how long stretches at most; null while all readings are there. */
  readonly thinned: Thinned | null;
}

const NOT_BY_HAND = new Set(['poll', 'keep-alive']);

/** So many values are remembered with their words; a drive that runs shows the same few again. */
const MOST_SCALED = 4096;

/** What turns the words of a place into its unit, exactly until it is drawn; counts where the sheet has no scale, or one that another entry sets. */
function scaler(index: SheetIndex, place: PlacedParameter): (words: readonly number[]) => number | null {
  if (isWide(place.type)) return (words) => cellsMeasure(index, place, words);
  const isCounted = place.scale?.kind === 'by';
  const scaled = new Map<number, number | null>();
  return (words) => {
    const pattern = patternOfCells(place, words);
    if (pattern === null || isCounted) return pattern && numberOf(place, pattern);
    const known = scaled.get(pattern);
    if (known !== undefined) return known;
    const value = valueIn(index.sheet, place, pattern);
    const y = value && asNumber(value);
    if (scaled.size >= MOST_SCALED) scaled.clear();
    scaled.set(pattern, y);
    return y;
  };
}

interface Curve {
  readonly place: PlacedParameter;
  readonly own: Track;
  readonly scale: (words: readonly number[]) => number | null;
}

/**
 * Reads reference, actual speed and status bits of one station from the entries of one session, which it is given once each, in order. Bits have the
 * names of the sheet that it begins with; what comes after `readBy` is read by another one.
 */
export class TrendReader {
  #places: PlaceLink;
  readonly #reference = new Track(SETTING_GAP_S);
  readonly #actual = new Track();
  readonly #current = new Track();
  readonly #bits: readonly { readonly bit: number; readonly name: string; readonly own: Track }[];
  #status: PlacedParameter | undefined;
  #curves: readonly Curve[] = [];
  readonly #sent: { x: number; text: string }[] = [];
  /** Requests that wait for their answer. */
  readonly #requests = new Map<number, TraceEntry>();
  #endS = 0;

  constructor(index: SheetIndex, places: PlaceLink) {
    this.#places = places;
    this.#bits = (index.words?.status.bits ?? [])
      .filter(({ ignored }) => !ignored)
      .map(({ bit, name }) => ({ bit, name, own: new Track() }));
    this.readBy(index, places);
  }

  /** From now on entries are read by this sheet: by the one of their time. */
  readBy(index: SheetIndex, places: PlaceLink): void {
    this.#places = places;
    this.#status = index.byRole.get('status-word');
    this.#curves = [
      { place: index.byRole.get('speed-reference'), own: this.#reference },
      { place: index.byRole.get('actual-speed'), own: this.#actual },
      { place: index.byRole.get('current'), own: this.#current },
    ].flatMap(({ place, own }) => (place ? [{ place, own, scale: scaler(index, place) }] : []));
  }

  take(entry: TraceEntry): void {
    const x = entry.atUs / 1e6;
    this.#endS = x;
    if (entry.direction === 'sent') {
      this.#requests.set(entry.exchange, entry);
      // Only what changes something is worth a mark; reads by hand would hide it.
      if (!NOT_BY_HAND.has(entry.cause) && this.#places.writes(entry.bytes)) this.#sent.push({ x, text: entry.cause });
      return;
    }
    if (entry.outcome === 'timeout') for (const own of this.#tracks) own.cut(x);
    const request = this.#requests.get(entry.exchange);
    this.#requests.delete(entry.exchange);
    if (entry.outcome !== 'answered' || !request) return;
    const told = new Map(this.#places.learned(request.bytes, entry.bytes));
    for (const { place, own, scale } of this.#curves) {
      const words = place.cells.map((cell) => told.get(cell));
      const value = words.every((word) => word !== undefined) ? scale(words) : null;
      if (value !== null) own.put(x, value);
    }
    const status = this.#status && patternIn(this.#status, (cell) => told.get(cell));
    if (status !== undefined) for (const { bit, own } of this.#bits) own.put(x, levelOf(status, bit));
  }

  /** What was read by now; it stays as it is while more is taken. */
  trend(): Trend {
    return {
      reference: this.#reference.points(),
      actual: this.#actual.points(),
      current: this.#current.points(),
      bits: this.#bits.map(({ bit, name, own }) => ({ bit, name, points: own.points() })),
      sent: [...this.#sent],
      endS: this.#endS,
      thinned: thinnedMost(this.#tracks),
    };
  }

  get #tracks(): readonly Track[] {
    return [this.#reference, this.#actual, this.#current, ...this.#bits.map(({ own }) => own)];
  }
}
