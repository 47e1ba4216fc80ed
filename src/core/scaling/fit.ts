import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import { add, compare, decimalText, divide, multiply, parseRational, ratio, subtract, type Rational } from './rational';

/** What a display showed beside the raw number that was on the wire; the display as typed, since its places tell how exact it is. */
export interface Observed {
  readonly display: string;
  readonly raw: bigint;
}

/** A full scale that explains all pairs. */
export interface FitScale {
  readonly value: Rational;
  readonly raw: Rational;
  /** How the scale would be said: `12287 = 55`, `0.01 a count`. */
  readonly text: string;
}

export interface Fit {
  /** Counts per unit, from least to most, that all pairs allow. */
  readonly low: Rational;
  readonly high: Rational;
  /** Counts at display 0; 0 where the scale goes through the origin. */
  readonly offset: Rational;
  /** Usual scales within these bounds, the roundest first. */
  readonly scales: readonly FitScale[];
  /** What the first of the scales makes of each pair's display, in counts, beside the counts that were seen. */
  readonly residuals: readonly { readonly display: string; readonly seen: bigint; readonly by: Rational }[];
  /** In a sentence: what the pairs prove, and what they leave open. */
  readonly sure: string;
}

/** Full scales in counts that drives use (common practice, no source). */
const USUAL_COUNTS: readonly bigint[] = [
  100n,
  255n,
  1000n,
  1023n,
  4000n,
  4095n,
  4096n,
  8192n,
  10_000n,
  12_287n,
  16_383n,
  16_384n,
  20_000n,
  30_000n,
  32_767n,
  32_768n,
  65_535n,
  0x4000_0000n,
  0x7fff_ffffn,
];
/**
 * The raw number that stands beside a display: a plain pattern beside a negative display is taken as the complement in the smallest word that
 * holds it, as people copy it from a trace.
 */
export function rawBeside(display: string, pattern: bigint): bigint {
  if (!/^\s*[-\u2212\u2013]/.test(display) || pattern <= 0n) return pattern;
  const bits = pattern < 1n << 16n ? 16 : 32;
  return pattern >> BigInt(bits - 1) === 1n ? BigInt.asIntN(bits, pattern) : pattern;
}

const MOST_SCALES = 6;
const MOST_DIGITS = 4;
const PLACES = 6;
const TWO = ratio(2n);
const ONE = ratio(1n);

interface Pair {
  readonly display: Rational;
  /** Half a unit of its last place. */
  readonly half: Rational;
  readonly raw: Rational;
}

/** Half of the last place of a decimal; a fraction is taken as exact. */
function halfPlace(text: string): Rational {
  const decimals = /^[^/]*[.,](\d+)\s*$/.exec(text)?.[1]?.length ?? 0;
  return text.includes('/') ? ratio(0n) : ratio(1n, 2n * 10n ** BigInt(decimals));
}

function pairOf({ display, raw }: Observed, i: number): Result<Pair, Fault> {
  const parsed = parseRational(display);
  if (!parsed.ok) return failed({ ...parsed.error, text: `pair ${i + 1}: ${parsed.error.text}` });
  return done({ display: parsed.value, half: halfPlace(display), raw: ratio(raw) });
}

interface Bounds {
  readonly low: Rational;
  readonly high: Rational;
}

const sizeOf = (value: Rational): Rational => (value.num < 0n ? multiply(value, ratio(-1n)) : value);
const lower = (a: Rational, b: Rational): Rational => (compare(a, b) < 0 ? a : b);
const higher = (a: Rational, b: Rational): Rational => (compare(a, b) > 0 ? a : b);

/** Slopes that a difference of counts over a difference of display allows: each count may be rounded either way, each display by half a place. */
function slopeOf(counts: Rational, display: Rational, countError: Rational, displayError: Rational): Bounds | null {
  const sign = display.num < 0n ? -1n : 1n;
  const [over, under] = [multiply(counts, ratio(sign)), multiply(display, ratio(sign))];
  const narrow = subtract(under, displayError);
  if (narrow.num <= 0n) return null;
  const wide = add(under, displayError);
  const ends = [subtract(over, countError), add(over, countError)].flatMap((c) => [divide(c, narrow), divide(c, wide)]);
  return { low: ends.reduce(lower), high: ends.reduce(higher) };
}

function meet(bounds: readonly Bounds[]): Bounds | null {
  const [first, ...others] = bounds;
  if (!first) return null;
  const met = others.reduce((a, b) => ({ low: higher(a.low, b.low), high: lower(a.high, b.high) }), first);
  return compare(met.low, met.high) <= 0 ? met : null;
}

/** Through the origin: every pair by itself. */
function proportional(pairs: readonly Pair[]): Bounds | null {
  const bounds: Bounds[] = [];
  for (const { display, half, raw } of pairs) {
    const own = slopeOf(raw, display, ONE, half);
    if (own) bounds.push(own);
  }
  const met = meet(bounds);
  if (!met) return null;
  // A display too near 0 for a slope of its own must still have next to no counts.
  const fits = pairs.every(({ display, half, raw }) => {
    const most = add(multiply(met.high, add(sizeOf(display), half)), ONE);
    return compare(sizeOf(raw), most) <= 0;
  });
  return fits ? met : null;
}

/** With an offset: the slopes between all pairs, and the offset of the one furthest from 0. */
function affine(pairs: readonly Pair[]): (Bounds & { readonly offset: Rational }) | null {
  const bounds: Bounds[] = [];
  for (const [i, a] of pairs.entries())
    for (const b of pairs.slice(i + 1)) {
      const own = slopeOf(subtract(b.raw, a.raw), subtract(b.display, a.display), ONE, add(a.half, b.half));
      if (own) bounds.push(own);
    }
  const met = meet(bounds);
  const [first] = pairs;
  if (!met || !first) return null;
  const middle = divide(add(met.low, met.high), TWO);
  return { ...met, offset: subtract(first.raw, multiply(middle, first.display)) };
}

/** The user's own pair furthest from 0 is the likeliest scale of all where its display is a full number: people note the end of a scale. */
function ownScale(pairs: readonly Pair[], bounds: Bounds): readonly FitScale[] {
  const [most] = [...pairs].sort((a, b) => compare(sizeOf(b.raw), sizeOf(a.raw)));
  if (!most || most.display.num <= 0n || most.raw.num <= 0n) return [];
  const slope = divide(most.raw, most.display);
  if (compare(slope, bounds.low) < 0 || compare(slope, bounds.high) > 0) return [];
  const text = `${decimalText(most.raw, 0, false)} = ${decimalText(most.display, PLACES, false)}`;
  return [{ value: most.display, raw: most.raw, text }];
}

const ceil = ({ num, den }: Rational): bigint => num / den + (num % den !== 0n && num > 0n ? 1n : 0n);

const powerOfTen = (power: number): Rational =>
  power >= 0 ? ratio(10n ** BigInt(power)) : ratio(1n, 10n ** BigInt(-power));

/** Powers of ten between which scales lie. */
const [LEAST_POWER, MOST_POWER] = [-9, 12];

function magnitudeOf(value: Rational): number {
  let power = MOST_POWER;
  while (power > LEAST_POWER && compare(powerOfTen(power), value) > 0) power--;
  return power;
}

/** The number with the fewest significant digits within bounds of positive numbers; null where that needs more than are usual. */
function roundest({ low, high }: Bounds): { readonly value: Rational; readonly digits: number } | null {
  const magnitude = magnitudeOf(high);
  for (let digits = 1; digits <= MOST_DIGITS; digits++) {
    const unit = powerOfTen(magnitude - digits + 1);
    const value = multiply(ratio(ceil(divide(low, unit))), unit);
    if (value.num > 0n && compare(value, high) <= 0) return { value, digits };
  }
  return null;
}

/** Usual scales within the bounds: a round size of one count, and round full scales at the usual counts. */
function scalesWithin(bounds: Bounds): readonly FitScale[] {
  if (bounds.low.num <= 0n) return [];
  const perCount = roundest({ low: divide(ONE, bounds.high), high: divide(ONE, bounds.low) });
  const full = USUAL_COUNTS.flatMap((counts) => {
    const raw = ratio(counts);
    const value = roundest({ low: divide(raw, bounds.high), high: divide(raw, bounds.low) });
    return value ? [{ ...value, raw, text: `${counts} = ${decimalText(value.value, PLACES, false)}` }] : [];
  });
  const one = perCount
    ? [{ ...perCount, raw: ONE, text: `${decimalText(perCount.value, PLACES, false)} a count` }]
    : [];
  return [...one, ...full]
    .sort((a, b) => a.digits - b.digits)
    .slice(0, MOST_SCALES)
    .map(({ value, raw, text }) => ({ value, raw, text }));
}

/**
 * The scale that explains observed pairs of display and raw number: bounds for the counts per unit, and the usual scales within them. A line
 * through the origin is tried first, then one with an offset. Faults: `missing-field` for fewer than two pairs, `value-out-of-range` where no
 * line explains them.
 */
export function fitScale(observed: readonly Observed[]): Result<Fit, Fault> {
  if (observed.length < 2)
    return failed(fault('missing-field', 0, 0, 'two pairs are needed at least: one alone fits every scale'));
  const pairs: Pair[] = [];
  for (const [i, own] of observed.entries()) {
    const pair = pairOf(own, i);
    if (!pair.ok) return pair;
    pairs.push(pair.value);
  }
  const straight = proportional(pairs);
  if (straight) return done(fitOf(straight, ratio(0n), pairs, observed, 1));
  const shifted = affine(pairs);
  if (shifted && pairs.length > 2) return done(fitOf(shifted, shifted.offset, pairs, observed, 2));
  return failed(
    fault(
      'value-out-of-range',
      0,
      0,
      shifted
        ? 'no scale through 0 explains these two pairs, and any two pairs fit one with an offset: observe a third'
        : 'no straight scale explains these pairs: one was misread, or it changes with something else',
    ),
  );
}

function fitOf(
  bounds: Bounds,
  offset: Rational,
  pairs: readonly Pair[],
  observed: readonly Observed[],
  free: number,
): Fit {
  const usual = scalesWithin(bounds);
  const own = offset.num === 0n ? ownScale(pairs, bounds) : [];
  const scales = [...usual, ...own.filter(({ text }) => !usual.some((one) => one.text === text))];
  const [first] = scales;
  const slope = first ? divide(first.raw, first.value) : divide(add(bounds.low, bounds.high), TWO);
  const residuals = pairs.map(({ display }, i) => ({
    display: observed[i]?.display ?? '',
    seen: observed[i]?.raw ?? 0n,
    by: add(multiply(slope, display), offset),
  }));
  const width = divide(subtract(bounds.high, bounds.low), bounds.high.num === 0n ? ONE : bounds.high);
  const spread = decimalText(multiply(width, ratio(100n)), 3, false).replace('−', '');
  const agree = pairs.length - free;
  const line =
    free === 1 ? 'a scale through 0' : `a scale with an offset of about ${decimalText(offset, 1, false)} counts`;
  const names =
    scales.length === 0
      ? 'no usual scale lies within'
      : scales.length === 1
        ? 'one usual scale lies within'
        : `${scales.length} usual scales lie within`;
  return {
    ...bounds,
    offset,
    scales,
    residuals,
    sure: `${pairs.length} pairs, ${line}; ${agree} of them ${agree === 1 ? 'confirms' : 'confirm'} it. The counts per unit are known to ${spread} %; ${names} that.`,
  };
}
