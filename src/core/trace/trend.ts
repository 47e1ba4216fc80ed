import type { PlaceLink } from '../places/place-link';
import { chainOf, numberOf } from '../sheet/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { toValue } from '../scaling/scale';
import { levelOf } from '../words/read';
import type { TraceEntry } from './entry';

/** A point in seconds of the session; `y` is null where the line must not be drawn through. */
export interface TrendPoint {
  readonly x: number;
  readonly y: number | null;
}

export interface BitTrack {
  readonly bit: number;
  readonly name: string;
  readonly points: readonly TrendPoint[];
}

/** What a trace tells of one drive over time. */
export interface Trend {
  readonly reference: readonly TrendPoint[];
  readonly actual: readonly TrendPoint[];
  readonly bits: readonly BitTrack[];
  /** Moments of writing that a person caused, Stop included. */
  readonly sent: readonly { readonly x: number; readonly text: string }[];
  /** The newest moment that is covered, in seconds. */
  readonly endS: number;
}

/** A longer pause between two readings is a gap: nobody knows what was in between. */
const GAP_S = 1.5;
const NOT_BY_HAND = new Set(['poll', 'keep-alive']);

interface Track {
  readonly points: TrendPoint[];
  lastS: number;
}

const track = (): Track => ({ points: [], lastS: -Infinity });

function put(own: Track, x: number, y: number): void {
  if (x - own.lastS > GAP_S && own.points.length > 0) own.points.push({ x: own.lastS + GAP_S / 2, y: null });
  own.points.push({ x, y });
  own.lastS = x;
}

/** Breaks a track at once: what comes next is not joined to what was before. */
function cut(own: Track, x: number): void {
  if (own.points.length > 0 && own.points[own.points.length - 1]?.y !== null) own.points.push({ x, y: null });
}

/** Turns a register's words into its unit; a plain number where the sheet has no scale. One exact division, then floats: it is a picture. */
function scaler(index: SheetIndex, parameter: PlacedParameter): (word: number) => number {
  const chain = chainOf(index.sheet, parameter);
  const one = chain && toValue(chain, 1n);
  const perCount = one?.ok ? Number(one.value.value.num) / Number(one.value.value.den) : 1;
  return (word) => numberOf(parameter, word) * perCount;
}

/** Reads reference, actual speed and status bits of one station of one session from the trace, linear in its entries. */
export function trendOf(
  entries: readonly TraceEntry[],
  session: string,
  line: string,
  station: number,
  index: SheetIndex,
  places: PlaceLink,
): Trend {
  const [reference, actual] = [track(), track()];
  const status = index.byRole.get('status-word');
  const spec = index.words?.status;
  const bits = (spec?.bits ?? [])
    .filter(({ ignored }) => !ignored)
    .map(({ bit, name }) => ({ bit, name, own: track() }));
  const sent: { x: number; text: string }[] = [];
  const curves = new Map(
    [
      { place: index.byRole.get('speed-reference'), own: reference },
      { place: index.byRole.get('actual-speed'), own: actual },
    ].flatMap(({ place, own }) => (place ? [[place.address, { own, scale: scaler(index, place) }] as const] : [])),
  );
  const requests = new Map<number, TraceEntry>();
  let endS = 0;
  for (const entry of entries) {
    if (entry.session !== session || entry.line !== line || entry.station !== station) continue;
    const x = entry.atUs / 1e6;
    endS = x;
    if (entry.direction === 'sent') {
      requests.set(entry.exchange, entry);
      if (!NOT_BY_HAND.has(entry.cause) && places.writes(entry.bytes)) sent.push({ x, text: entry.cause });
    } else if (entry.outcome === 'timeout') {
      for (const own of [reference, actual, ...bits.map((bit) => bit.own)]) cut(own, x);
    } else if (entry.outcome === 'answered') {
      const request = requests.get(entry.exchange);
      if (!request) continue;
      for (const [address, word] of places.learned(request.bytes, entry.bytes)) {
        const curve = curves.get(address);
        if (curve) put(curve.own, x, curve.scale(word));
        if (address === status?.address) for (const { bit, own } of bits) put(own, x, levelOf(word, bit));
      }
    }
  }
  return {
    reference: reference.points,
    actual: actual.points,
    bits: bits.map(({ bit, name, own }) => ({ bit, name, points: own.points })),
    sent,
    endS,
  };
}

/** Only what changes something is worth a mark; reads by hand would hide it. */
