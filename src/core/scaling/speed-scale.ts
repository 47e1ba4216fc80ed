import { hexNumber } from '../bytes/hex';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import type { ScalingChain } from './chain';
import { decimalText, divide, multiply, parseRational, ratio, type Rational } from './rational';
import { synchronousSpeedRpm, toRaw, toValue, type Scaled } from './scale';
import { fromWire, rangeOf, toWire } from './wire';

/** The ways in which one speed is said: at the terminals, at the shaft, as a share of full scale, and on the wire in two bases. */
export const READINGS = ['unit', 'rpm', 'percent', 'decimal', 'hex'] as const;
export type ReadingKind = (typeof READINGS)[number];

/** A speed reference with everything that its parallel scales need. */
export interface SpeedScale {
  readonly chain: ScalingChain;
  /** Full scale in the chain's unit and in counts. */
  readonly fullValue: Rational;
  readonly fullRaw: Rational;
  readonly poles: number;
}

/** The scales of a chain with one full-scale step; null for a chain that has none, or one that cannot be worked out. */
export function speedScaleOf(chain: ScalingChain, poles: number): SpeedScale | null {
  const step = chain.steps.find((candidate) => candidate.kind === 'full-scale');
  const fullValue = step && parseRational(step.value);
  const fullRaw = step && parseRational(step.raw);
  if (!fullValue?.ok || !fullRaw?.ok || fullValue.value.num <= 0n || fullRaw.value.num <= 0n || poles < 2) return null;
  return { chain, fullValue: fullValue.value, fullRaw: fullRaw.value, poles };
}

const HUNDRED = ratio(100n);

/** What was typed into one of the readings, as the wanted value in the chain's unit, exactly. */
export function wantedFrom(scale: SpeedScale, kind: ReadingKind, text: string): Result<Rational, Fault> {
  if (kind === 'hex') return wantedFromHex(scale, text);
  const typed = parseRational(text);
  if (!typed.ok) return typed;
  const { value } = typed;
  switch (kind) {
    case 'unit':
      return typed;
    case 'rpm':
      return done(divide(multiply(value, ratio(BigInt(scale.poles))), ratio(120n)));
    case 'percent':
      return done(divide(multiply(value, scale.fullValue), HUNDRED));
    case 'decimal':
      return value.den === 1n
        ? valueOfRaw(scale, value.num)
        : failed(fault('bad-token', 0, text.length, 'counts are whole numbers'));
  }
}

function wantedFromHex(scale: SpeedScale, text: string): Result<Rational, Fault> {
  const digits = /^\s*(?:0x|16#)?([0-9a-f]{1,8})h?\s*$/i.exec(text)?.[1];
  if (digits === undefined) return failed(fault('bad-hex-digit', 0, text.length, `“${text}” is no hex number`));
  return valueOfRaw(scale, fromWire(BigInt(`0x${digits}`), scale.chain.word));
}

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
    case 'rpm':
      return decimalText(synchronousSpeedRpm(sent, scale.poles), 2, false);
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

export interface Tick {
  readonly value: bigint;
  readonly major: boolean;
}

/**
 * Round marks from 0 to `end`: steps of 1, 2 or 5 times a power of ten (of sixteen for hex, in halves), at most `most` major ones, each
 * with four minor ones between.
 */
export function ticksOf(end: bigint, most: number, base: 'ten' | 'sixteen'): readonly Tick[] {
  if (end <= 0n || most < 1) return [];
  const step = niceStep(end, BigInt(most), base);
  const minor = step % 4n === 0n ? step / 4n : step % 5n === 0n ? step / 5n : step;
  const ticks: Tick[] = [];
  for (let value = 0n; value <= end; value += minor) ticks.push({ value, major: value % step === 0n });
  return ticks;
}

function niceStep(end: bigint, most: bigint, base: 'ten' | 'sixteen'): bigint {
  const [factors, power] = base === 'ten' ? [[1n, 2n, 5n], 10n] : [[1n, 2n, 4n, 8n], 16n];
  for (let unit = 1n; ; unit *= power)
    for (const factor of factors) if (end / (unit * factor) <= most) return unit * factor;
}
