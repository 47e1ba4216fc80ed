import * as v from 'valibot';
import { hexNumber } from '../core/bytes/hex';
import { fault } from '../core/fault';
import type { ScalingChain } from '../core/scaling/chain';
import { decimalText, fractionText, isShortDecimal, ratio, type Rational } from '../core/scaling/rational';
import { ROUNDINGS } from '../core/scaling/rounding';
import { notCanonical, toRaw, toValue } from '../core/scaling/scale';
import { rangeOf, toWire } from '../core/scaling/wire';
import { ChainSchema } from '../core/sheet/scaling-section';
import { exactNumber, Id, Numeric, read } from './input';
import { BadLine, type Answer, type Verb } from './protocol';

const FIELDS = {
  ...Id,
  chain: v.optional(ChainSchema),
  unitFullScale: v.optional(Numeric),
  rawFullScale: v.optional(Numeric),
  bits: v.optional(v.picklist([8, 16, 32])),
  signed: v.optional(v.boolean()),
  rounding: v.optional(v.picklist(ROUNDINGS)),
  value: v.optional(Numeric),
  raw: v.optional(Numeric),
};

/** Decimal where it ends within this many places, else a fraction: both are exact. */
const PLACES = 20;
const exactText = (value: Rational): string =>
  isShortDecimal(value, PLACES) ? decimalText(value, PLACES).replace('−', '-') : fractionText(value);

/** Whole numbers are numbers in JSON as far as those are exact. */
const jsonInteger = (value: bigint): number | string =>
  value >= -(2n ** 53n) && value <= 2n ** 53n ? Number(value) : String(value);

function run(input: unknown): Answer {
  const {
    chain,
    unitFullScale,
    rawFullScale,
    bits = 16,
    signed = false,
    rounding = 'nearestHalfUp',
    value,
    raw,
  } = read(FIELDS, input);
  if ((value === undefined) === (raw === undefined))
    throw new BadLine('missing-field', 'give value or raw, one of them');
  const used: ScalingChain = chain ?? {
    unit: '',
    steps: [
      {
        kind: 'full-scale',
        value: fractionText(exactNumber('unitFullScale', unitFullScale)),
        raw: fractionText(exactNumber('rawFullScale', rawFullScale)),
      },
    ],
    rounding,
    word: { bits, signed },
  };
  return raw === undefined ? fromValue(used, exactNumber('value', value)) : fromRaw(used, exactNumber('raw', raw));
}

function fromValue(chain: ScalingChain, value: Rational): Answer {
  const scaled = toRaw(chain, value);
  if (!scaled.ok) throw new BadLine(scaled.error.code, scaled.error.text);
  const { raw, hex, sent, exact, error, working, faults } = scaled.value;
  return {
    raw: jsonInteger(raw),
    hex: hex.slice(2).toLowerCase(),
    value: exactText(sent),
    exact: fractionText(exact),
    error: fractionText(error),
    working,
    faults,
  };
}

function fromRaw(chain: ScalingChain, raw: Rational): Answer {
  if (raw.den !== 1n) throw new BadLine('bad-number', 'raw is a whole number');
  // A number of the word's range, or the pattern that stands for one.
  const { min } = rangeOf(chain.word);
  const max = (1n << BigInt(chain.word.bits)) - 1n;
  if (raw.num > max || raw.num < min)
    throw new BadLine('value-out-of-range', `raw ${raw.num} does not fit the word (${min} to ${max})`);
  const wire = toWire(raw.num, chain.word);
  const other = notCanonical(chain, wire);
  const back = toValue(chain, wire);
  if (!back.ok) throw new BadLine(back.error.code, back.error.text);
  const { value, raw: held, working } = back.value;
  const hex = hexNumber(Number(wire), chain.word.bits / 4)
    .slice(2)
    .toLowerCase();
  return {
    raw: jsonInteger(held),
    hex,
    value: exactText(value),
    exact: fractionText(ratio(held)),
    error: '0',
    working,
    faults: other === '' ? [] : [fault('not-canonical', 0, chain.word.bits / 8, other)],
  };
}

export const SCALE_VERB: Verb = {
  help: 'a value to the number on the wire, or a raw number to its value; exact, with the working',
  example: '{"unitFullScale":55,"rawFullScale":12287,"bits":16,"signed":false,"rounding":"down","value":"17.5"}',
  run,
};
