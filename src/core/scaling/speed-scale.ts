import { HEX_MARK, hexNumber } from '../bytes/hex';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import type { ScalingChain } from './chain';
import { parseQuantity } from './quantity';
import { decimalText, divide, multiply, parseRational, ratio, type Rational } from './rational';
import { toRaw, toValue, type Scaled } from './scale';
import { fromWire, rangeOf, toWire } from './wire';

/** The ways in which one value is said: in its own unit, in the one beside it, as a share of full scale, as the machine has it, on the wire. */
export const READINGS = ['unit', 'other', 'percent', 'machine', 'decimal', 'hex'] as const;
export type ReadingKind = (typeof READINGS)[number];

/** A unit that is a fixed multiple of the chain's. */
export interface SideUnit {
  readonly unit: string;
  /** So many of it are one of the chain's unit. */
  readonly factor: Rational;
}

/** A reference with everything that its parallel scales need. */
export interface SpeedScale {
  readonly chain: ScalingChain;
  /** Full scale in the chain's unit and in counts. */
  readonly fullValue: Rational;
  readonly fullRaw: Rational;
  /** Shaft speed beside a frequency, or the frequency beside a shaft speed; null for other units. */
  readonly other: SideUnit | null;
  /** What the machine does, where somebody said how much of it belongs to one unit. */
  readonly machine: SideUnit | null;
}

/** rpm = 120 f / poles, slip left out. */
function sideOf(unit: string, poles: number): SideUnit | null {
  if (poles < 2) return null;
  if (unit === 'Hz') return { unit: 'rpm', factor: ratio(120n, BigInt(poles)) };
  return unit === 'rpm' ? { unit: 'Hz', factor: ratio(BigInt(poles), 120n) } : null;
}

/**
 * The scales of a chain. Full scale is that of its full-scale step; a chain without one is shown up to `mostRaw` counts. Null for a chain that
 * cannot be worked out, or whose full scale is nothing.
 */
export function speedScaleOf(
  chain: ScalingChain,
  poles: number,
  mostRaw: bigint | null = null,
  machine: SideUnit | null = null,
): SpeedScale | null {
  const step = chain.steps.find((candidate) => candidate.kind === 'full-scale');
  const stated = step && parseRational(step.raw);
  const counts = stated?.ok ? stated.value : mostRaw === null ? null : ratio(mostRaw);
  if (!counts || counts.num <= 0n) return null;
  const back = toValue(chain, toWire(counts.num / counts.den, chain.word));
  if (!back.ok) return null;
  const { value } = back.value;
  if (value.num <= 0n) return null;
  return { chain, fullValue: value, fullRaw: counts, other: sideOf(chain.unit, poles), machine };
}

const HUNDRED = ratio(100n);

const unitOf = ({ chain, other, machine }: SpeedScale, kind: ReadingKind): string =>
  ({ unit: chain.unit, other: other?.unit ?? '', machine: machine?.unit ?? '', percent: '%', decimal: '', hex: '' })[
    kind
  ];

/** What was typed into one of the readings, as the wanted value in the chain's unit, exactly. */
export function wantedFrom(scale: SpeedScale, kind: ReadingKind, text: string): Result<Rational, Fault> {
  if (kind === 'hex') return wantedFromHex(scale, text);
  const typed = parseQuantity(text, unitOf(scale, kind));
  if (!typed.ok) return typed;
  const { value } = typed;
  switch (kind) {
    case 'unit':
      return typed;
    case 'other':
    case 'machine': {
      const side = scale[kind];
      return side
        ? done(divide(value, side.factor))
        : failed(fault('not-allowed', 0, text.length, 'there is no such scale'));
    }
    case 'percent':
      return done(divide(multiply(value, scale.fullValue), HUNDRED));
    case 'decimal':
      return value.den === 1n
        ? valueOfRaw(scale, value.num)
        : failed(fault('bad-token', 0, text.length, 'counts are whole numbers'));
  }
}

const HEX_NUMBER = new RegExp(String.raw`^\s*${HEX_MARK}?([0-9a-f]{1,8})h?\s*$`, 'i');

function wantedFromHex(scale: SpeedScale, text: string): Result<Rational, Fault> {
  const digits = HEX_NUMBER.exec(text)?.[1];
  if (digits === undefined) return failed(fault('bad-hex-digit', 0, text.length, `“${text}” is no hex number`));
  return valueOfRaw(scale, fromWire(BigInt(`0x${digits}`), scale.chain.word));
}

/** The value that a whole number of counts stands for. */
function valueOfRaw({ chain }: SpeedScale, raw: bigint): Result<Rational, Fault> {
  const { min, max } = rangeOf(chain.word);
  if (raw < min || raw > max)
    return failed(fault('value-out-of-range', 0, 0, `${raw} does not fit the word (${min} to ${max})`));
  const value = toValue(chain, toWire(raw, chain.word));
  return value.ok ? done(value.value.value) : value;
}

/** The text of a reading for the value that a raw number stands for. */
export function readingText(scale: SpeedScale, kind: ReadingKind, scaled: Scaled): string {
  const { sent, raw, wire } = scaled;
  switch (kind) {
    case 'unit':
      return decimalText(sent, 3, false);
    case 'other':
    case 'machine': {
      const side = scale[kind];
      return side ? decimalText(multiply(sent, side.factor), 2, false) : '';
    }
    case 'percent':
      return decimalText(divide(multiply(sent, HUNDRED), scale.fullValue), 2, false);
    case 'decimal':
      return `${raw}`.replace('-', '−');
    case 'hex':
      return hexNumber(wire, scale.chain.word.bits / 4);
  }
}

/** The wanted value moved by whole counts from what would be sent now. */
export function stepCounts(scale: SpeedScale, wanted: Rational, counts: bigint): Result<Rational, Fault> {
  const now = toRaw(scale.chain, wanted);
  return now.ok ? valueOfRaw(scale, now.value.raw + counts) : now;
}

/** A mark on a scale; `at` is its place in the scale's own unit. */
export interface Tick {
  readonly at: number;
  readonly text: string;
  readonly major: boolean;
}

/** Most decimals that a mark shows. */
const MOST_DECIMALS = 6;
/** Steps below this are not told apart by a number of 64 bits at any place of a scale. */
const SMALLEST_STEP = 1e-300;
/** Marks of one scale; more could not be told apart in any picture. */
const MOST_TICKS = 2_000;

/**
 * Round marks between two ends, for drawing only: steps of 1, 2 or 5 times a power of ten (of sixteen for hex, in halves), at most `most` major
 * ones, each with four or five minor steps between. Whole numbers only where `whole` says so.
 */
export function ticksBetween(
  low: number,
  high: number,
  most: number,
  base: 'ten' | 'sixteen',
  whole: boolean,
): readonly Tick[] {
  const span = high - low;
  if (!(span > 0) || !Number.isFinite(span) || most < 1) return [];
  const step = niceStep(span / most, base, whole);
  const parts = base === 'sixteen' ? 4 : 5;
  const minor = whole && step % parts !== 0 ? step : step / parts;
  const decimals = Math.min(MOST_DECIMALS, Math.max(0, -Math.floor(Math.log10(step) + 1e-9)));
  const ticks: Tick[] = [];
  const first = Math.ceil(low / minor - 1e-9);
  const count = Math.floor((high - first * minor) / minor + 1e-9) + 1;
  // Beyond 2^53 a step is lost in the number, and counting on would never end.
  if (!Number.isSafeInteger(first) || !Number.isSafeInteger(first + count) || count > MOST_TICKS) return [];
  for (let i = first; i < first + count; i++) {
    const at = i * minor;
    const share = at / step;
    const major = Math.abs(share - Math.round(share)) < 1e-6;
    ticks.push({ at, major, text: base === 'sixteen' ? hexText(Math.round(at)) : textOf(at, decimals) });
  }
  return ticks;
}

const textOf = (value: number, decimals: number): string => {
  const text = value.toFixed(decimals);
  return /^-0(?:\.0+)?$/.test(text) ? text.slice(1) : text.replace('-', '−');
};

const hexText = (value: number): string => {
  const digits = Math.abs(value).toString(16).toUpperCase().padStart(4, '0');
  return value < 0 ? `−${digits}` : digits;
};

function niceStep(least: number, base: 'ten' | 'sixteen', whole: boolean): number {
  const [factors, power] = base === 'ten' ? [[1, 2, 5], 10] : [[1, 2, 4, 8], 16];
  // A step so small that its power of ten is 0 would never grow.
  const smallest = Math.max(10 ** Math.floor(Math.log10(least)), SMALLEST_STEP);
  for (let unit = whole ? 1 : smallest; unit < Infinity; unit *= power)
    for (const factor of factors) if (unit * factor >= least * (1 - 1e-9)) return unit * factor;
  return Infinity;
}

/** Where a value is drawn, for drawing only. */
export const drawn = ({ num, den }: Rational): number => {
  const scaled = (num * 1_000_000n) / den;
  return parseInt(scaled.toString(), 10) / 1e6;
};

/**
 * The value under a hairline that was dragged to `value`: the nearest round value as fine as the hand can be (`finest` of the chain's unit), or
 * the nearest count where that is coarser.
 */
export function snapped(scale: SpeedScale, value: number, finest: number): Rational {
  const perCount = drawn(scale.fullValue) / drawn(scale.fullRaw);
  if (finest <= perCount || !(finest > 0)) {
    const counts = BigInt(Math.round(value / perCount));
    const exact = valueOfRaw(scale, counts);
    return exact.ok ? exact.value : scale.fullValue;
  }
  const step = niceStep(finest, 'ten', false);
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
  const parsed = parseRational((Math.round(value / step) * step).toFixed(decimals));
  return parsed.ok ? parsed.value : scale.fullValue;
}
