import { onceFor } from '../once-for';
import { hexNumber } from '../bytes/hex';
import { fault, type Fault } from '../fault';
import { done, type Result } from '../result';
import type { ScalingChain, WireWord } from './chain';
import { ratio, readableFraction, subtract, type Rational } from './rational';
import { round, ROUNDING_TEXT } from './rounding';
import { show, stageOf, type Stage } from './steps';
import { fromWire, rangeOf, signText, toWire } from './wire';

/** A value turned into the number on the wire, with everything that happened on the way. */
export interface Scaled {
  /** The integer before it is put into the word; may be negative. */
  readonly raw: bigint;
  /** The pattern on the wire, 0 to 2^bits - 1. */
  readonly wire: bigint;
  readonly hex: string;
  /** What the counts would be before rounding. */
  readonly exact: Rational;
  /** raw - exact, in counts. */
  readonly error: Rational;
  /** The value that the raw number stands for. */
  readonly sent: Rational;
  readonly working: readonly string[];
  readonly faults: readonly Fault[];
}

/** All steps of a chain ready to run, or the first fault; a sheet's cross-field check calls this before anyone scales. */
export const stagesOf = onceFor((chain: ScalingChain): Result<readonly Stage[], Fault> => {
  const stages: Stage[] = [];
  for (const step of chain.steps) {
    const stage = stageOf(step);
    if (!stage.ok) return stage;
    stages.push(stage.value);
  }
  return done(stages);
});

/** A pattern of at most 32 bits as links carry it, which a double holds exactly; wider ones are put into words by `wideWords`. */
export const patternOnWire = ({ wire }: Pick<Scaled, 'wire'>): number =>
  parseInt(BigInt.asUintN(32, wire).toString(), 10);

/**
 * From the value that was said to the number on the wire. A result that the word cannot hold is a `value-out-of-range` fault,
 * and `wire` then shows what a careless cut would send; what a limit cuts off is `clipped`.
 */
export function toRaw(chain: ScalingChain, value: Rational): Result<Scaled, Fault> {
  const stages = stagesOf(chain);
  if (!stages.ok) return stages;
  const sums: (() => string)[] = [];
  const faults: Fault[] = [];
  let exact = value;
  for (const { forward } of stages.value) {
    const { value: next, sum, fault: found } = forward(exact);
    sums.push(sum);
    if (found) faults.push(found);
    exact = next;
  }
  const raw = round(exact, chain.rounding);
  const error = subtract(ratio(raw), exact);
  const { word } = chain;
  const wire = toWire(raw, word);
  const hex = hexNumber(wire, word.bits / 4);
  return done({
    raw,
    wire,
    hex,
    exact,
    error,
    sent: scaleBack(stages.value, raw),
    // Texts are made when somebody looks.
    get working() {
      return [
        ...sums.map((sum) => sum()),
        error.num === 0n ? `${raw}, nothing to round` : `${show(exact)} ${ROUNDING_TEXT[chain.rounding]} = ${raw}`,
        raw < 0n ? `${raw} as ${word.bits}-bit ${signText(word)} = ${hex}` : `${raw} = ${hex}`,
      ];
    },
    faults: [...faults, ...faultsOfRange(raw, word)],
  });
}

function faultsOfRange(raw: bigint, word: WireWord): readonly Fault[] {
  const { min, max } = rangeOf(word);
  if (raw >= min && raw <= max) return [];
  const why =
    raw < 0n && !word.signed
      ? `${raw} is negative, and this word has no sign`
      : `${raw} does not fit a ${word.signed ? 'signed' : 'plain'} ${word.bits}-bit word`;
  return [fault('value-out-of-range', 0, word.bits / 8, `${why} (${min} to ${max})`)];
}

const scaleBack = (stages: readonly Stage[], raw: bigint): Rational =>
  stages.reduceRight((value, { back }) => back(value), ratio(raw));

/** From a pattern on the wire to the value that it stands for, with the working. */
export function toValue(
  chain: ScalingChain,
  wire: bigint,
): Result<{ readonly value: Rational; readonly raw: bigint; readonly working: readonly string[] }, Fault> {
  const stages = stagesOf(chain);
  if (!stages.ok) return stages;
  const raw = fromWire(wire, chain.word);
  const value = scaleBack(stages.value, raw);
  return done({
    value,
    raw,
    get working() {
      const hex = hexNumber(BigInt.asUintN(chain.word.bits, wire), chain.word.bits / 4);
      const sign = raw < 0n ? [`${hex} as ${signText(chain.word)} = ${raw}`] : [];
      return [...sign, `${raw} = ${show(value)} ${chain.unit}${fractionNote(value)}`];
    },
  });
}

const fractionNote = (value: Rational): string => {
  const exact = readableFraction(value);
  return show(value).startsWith('≈') && exact.includes('/') ? `, exactly ${exact}` : '';
};

/**
 * Why a pattern is not one that this chain makes, in a sentence; empty where it is the one: raw to value to raw gives it back. Others are a
 * negative zero, what lies beyond a limit, whole turns of a rotary table.
 */
export function notCanonical(chain: ScalingChain, wire: bigint): string {
  const back = toValue(chain, wire);
  if (!back.ok) return back.error.text;
  const again = toRaw(chain, back.value.value);
  if (!again.ok) return again.error.text;
  const pattern = BigInt.asUintN(chain.word.bits, wire);
  const hex = (value: bigint): string => hexNumber(value, chain.word.bits / 4);
  if (again.value.wire === pattern) return '';
  if (back.value.raw === 0n) return `${hex(pattern)} is a negative zero; this chain sends ${again.value.hex}`;
  const why = again.value.faults[0]?.text ?? 'it comes back as another number';
  return `${hex(pattern)} stands for ${show(back.value.value)} ${chain.unit}, which this chain sends as ${again.value.hex}: ${why}`;
}

/** What a signed word reads as when somebody takes it for a plain one, and a plain one when it is taken for signed; empty where both are alike. */
export function signTrouble(chain: ScalingChain, wire: bigint): string {
  const { word } = chain;
  const other = { bits: word.bits, signed: !word.signed } as const;
  if (fromWire(wire, word) === fromWire(wire, other)) return '';
  const read = toValue({ ...chain, word: other }, wire);
  return read.ok
    ? `Read as ${other.signed ? 'signed' : 'a plain number'} it would be ${read.value.raw}, ${show(read.value.value)} ${chain.unit}.`
    : '';
}
