import type { SheetIndex } from '../../core/sheet/index-sheet';
import { maskOf } from '../../core/words/read';
import type { Told } from '../../core/places/place-link';
import type { Cell } from '../../core/sheet/place';
import { LIVE } from '../procedures/live-roles';
import { isHeard, type ExchangeResult } from '../../link/request';

/** A cell's word as it was last seen or confirmed, and when; line clock, microseconds. */
export interface LiveValue {
  readonly word: number;
  readonly atUs: number;
  /** The last other word, and when this one was first seen in its place; absent while no other was seen. A heartbeat makes no other word. */
  readonly change?: { readonly from: number; readonly seenUs: number } | undefined;
}

/** What is known of one station from certain exchanges only. */
export interface StationView {
  readonly values: ReadonlyMap<Cell, LiveValue>;
  /** Exchanges in a row without a certain answer. */
  readonly misses: number;
  readonly lastAnswerUs: number | null;
  /** What was last known of living values before the line went away; it says nothing of now. */
  readonly before: ReadonlyMap<Cell, LiveValue>;
}

export const UNKNOWN_STATION: StationView = { values: new Map(), misses: 0, lastAnswerUs: null, before: new Map() };

/** After so many misses what is shown is grey and says so. */
export const MISSES_UNTIL_STALE = 2;

const NO_ANSWER = new Set<ExchangeResult['outcome']>(['timeout', 'damaged', 'foreign', 'may-be-late']);

/** The view of a station after one more exchange, which told so much. An uncertain reply changes no value. */
export function afterExchange(
  view: StationView,
  result: ExchangeResult,
  learned: Told,
  index: SheetIndex | null,
): StationView {
  if (NO_ANSWER.has(result.outcome)) return { ...view, misses: view.misses + 1 };
  if (!isHeard(result)) return view;
  const answered = { ...view, misses: 0, lastAnswerUs: result.endedUs };
  if (learned.length === 0) return answered;
  const values = new Map(view.values);
  const atUs = result.endedUs;
  for (const [cell, word] of learned) {
    const known = values.get(cell);
    const isOther = known && ((known.word ^ word) & comparedBits(index, cell)) !== 0;
    const change = isOther ? { from: known.word, seenUs: atUs } : known?.change;
    values.set(cell, { word, atUs, change });
  }
  return { ...answered, values };
}

/**
 * The view of a station whose line went away or was closed: what lives is not known any more, nor what it was told to do. A restart and a hand at
 * the drive may have changed it, and nothing that is built from values of before may be sent.
 */
export function afterCut(view: StationView, index: SheetIndex | null): StationView {
  const places = new Set([...LIVE, 'speed-reference' as const].flatMap((role) => index?.byRole.get(role)?.cells ?? []));
  const isLiving = ([cell]: readonly [Cell, LiveValue]): boolean => places.has(cell);
  const living = [...view.values].filter(isLiving);
  return {
    values: new Map([...view.values].filter((entry) => !isLiving(entry))),
    misses: 0,
    lastAnswerUs: null,
    before: new Map([...view.before, ...living]),
  };
}

/** The bits of a place that count where two of its words are compared. */
function comparedBits(index: SheetIndex | null, cell: Cell): number {
  const status = index?.byRole.get('status-word');
  const isStatus = index?.words && status?.cells.length === 1 && status.cells[0] === cell;
  return isStatus ? maskOf(index.words.status) : -1;
}
