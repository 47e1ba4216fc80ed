import type { ScalingChain } from './chain';
import { compare, decimalText, divide, multiply, ratio, subtract, type Rational } from './rational';
import { round } from './rounding';
import { toValue } from './scale';
import { fromWire } from './wire';

/** What became of a number that was written. */
export interface ReadBack {
  readonly verdict: 'same' | 'within-resolution' | 'differs';
  /** Which step explains the difference; empty where there is none. */
  readonly text: string;
}

/** Steps that drives are known to round to inside, in counts: powers of two and of ten. */
const GRAINS: readonly bigint[] = [2n, 4n, 5n, 8n, 10n, 16n, 32n, 64n, 100n, 128n, 256n, 1000n];

const size = (value: bigint): bigint => (value < 0n ? -value : value);

/** The nearest number that a single-precision float holds: 24 bits of it (IEEE 754). Halves go to even. */
export function asSingle(value: bigint): bigint {
  const bits = BigInt(size(value).toString(2).length);
  if (bits <= 24n) return value;
  const unit = 1n << (bits - 24n);
  return round(ratio(value, unit), 'halfEven') * unit;
}

interface Explanation {
  readonly fits: (written: bigint, read: bigint) => boolean;
  readonly verdict: ReadBack['verdict'];
  readonly text: (written: bigint, read: bigint) => string;
}

/** One step of a grain away at most, and small against the number: else anything round would explain anything. */
const grainOf = (written: bigint, read: bigint): bigint | undefined =>
  100n * size(written - read) > size(written)
    ? undefined
    : GRAINS.find((grain) => read % grain === 0n && size(written - read) <= grain);

/** In the order of likelihood; the first that fits is told. */
const EXPLANATIONS: readonly Explanation[] = [
  {
    fits: (written, read) => asSingle(written) === read,
    verdict: 'within-resolution',
    text: (written, read) => `the drive keeps it as a single-precision float, which turns ${written} into ${read}`,
  },
  {
    fits: (written, read) => size(written - read) === 1n,
    verdict: 'within-resolution',
    text: () => 'one count: the drive rounds another way',
  },
  {
    fits: (written, read) => grainOf(written, read) !== undefined,
    verdict: 'within-resolution',
    text: (written, read) => `the drive keeps multiples of ${grainOf(written, read)} counts`,
  },
  {
    fits: (written, read) => BigInt.asUintN(16, written) === BigInt.asUintN(16, read),
    verdict: 'differs',
    text: () => 'the same 16 bits, read with another sign or a cut-off high half',
  },
  {
    fits: (written, read) => swapped(written) === BigInt.asUintN(32, read),
    verdict: 'differs',
    text: () => 'the two halves are swapped: another word order',
  },
  {
    fits: (written, read) => written === -read,
    verdict: 'differs',
    text: () => 'the sign is turned round: an inverted direction on the way',
  },
];

/** Factors between units that get mixed up: decades, seconds and minutes, per cent, poles, the sixteenths of some drives. */
const FACTORS: readonly bigint[] = [2n, 4n, 10n, 16n, 60n, 100n, 1000n, 10_000n];

const factorOf = (written: bigint, read: bigint): { readonly by: bigint; readonly up: boolean } | undefined => {
  if (written === 0n || read === 0n) return undefined;
  for (const by of FACTORS) {
    // Where counts were cut off on the way, the factor holds to the last of them.
    if (size(read - written * by) < by) return { by, up: true };
    if (size(written - read * by) < by) return { by, up: false };
  }
  return undefined;
};

/** Full scales between which a number may have been turned (published ones and rules of several makers). */
const FULL_SCALES: readonly bigint[] = [1000n, 4095n, 4096n, 10_000n, 16_384n, 20_000n, 32_767n, 32_768n, 65_535n];

const scalesOf = (written: bigint, read: bigint): readonly [bigint, bigint] | undefined => {
  // Of small numbers any two scales explain any two.
  if (size(written) < 200n || size(read) < 200n) return undefined;
  for (const from of FULL_SCALES)
    for (const to of FULL_SCALES) if (from !== to && size(written * to - read * from) < from) return [from, to];
  return undefined;
};

const bytesOf = (value: bigint, count: number): readonly bigint[] =>
  Array.from({ length: count }, (_, i) => (value >> BigInt(8 * (count - 1 - i))) & 0xffn);
const joined = (bytes: readonly bigint[]): bigint => bytes.reduce((value, byte) => (value << 8n) | byte, 0n);

/** Orders of the bytes of a word that controllers mix up; A is the highest. */
const ORDERS: Readonly<Record<number, readonly string[]>> = { 16: ['BA'], 32: ['BADC', 'DCBA'] };

/** The order in which the same bytes give the other number; undefined where none does. */
const orderOf = (written: bigint, read: bigint, bits: number): string | undefined => {
  const bytes = bytesOf(BigInt.asUintN(bits, written), bits / 8);
  return ORDERS[bits]?.find(
    (order) =>
      joined([...order].map((letter) => bytes[letter.charCodeAt(0) - 65] ?? 0n)) === BigInt.asUintN(bits, read),
  );
};

const swapped = (value: bigint): bigint => {
  const pattern = BigInt.asUintN(32, value);
  return ((pattern & 0xffffn) << 16n) | (pattern >> 16n);
};

/**
 * Compares what was written with what came back. `resolution` is the drive's own, in the chain's unit, where it is known; patterns as on the
 * wire.
 */
export function readBack(
  chain: ScalingChain,
  writtenWire: bigint,
  readWire: bigint,
  resolution: Rational | null = null,
): ReadBack {
  const [written, read] = [fromWire(writtenWire, chain.word), fromWire(readWire, chain.word)];
  if (written === read) return { verdict: 'same', text: '' };
  const [a, b] = [toValue(chain, writtenWire), toValue(chain, readWire)];
  if (a.ok && b.ok && resolution && resolution.num > 0n) {
    const steps = divide(subtract(a.value.value, b.value.value), resolution);
    if (compare(multiply(steps, steps), ratio(1n)) <= 0)
      return {
        verdict: 'within-resolution',
        text: `within the drive’s resolution of ${decimalText(resolution, 6, false)} ${chain.unit}`,
      };
  }
  const found = EXPLANATIONS.find(({ fits }) => fits(written, read));
  if (found) return { verdict: found.verdict, text: found.text(written, read) };
  return { verdict: 'differs', text: otherwise(chain, written, read) };
}

/** What the word and the numbers of the trade say of a difference that is no rounding; the first that fits. */
function otherwise(chain: ScalingChain, written: bigint, read: bigint): string {
  const { bits } = chain.word;
  const order = orderOf(written, read, bits);
  if (order)
    return `the same bytes in the order ${order}: ${bits === 16 ? 'the two bytes are swapped' : 'another order of bytes'}`;
  const sign = 1n << BigInt(bits - 1);
  if (written < 0n && BigInt.asUintN(bits, read) === (size(written) | sign))
    return 'the same size with the highest bit for the sign: one side means sign and magnitude, the other two’s complement';
  const limits = [sign - 1n, -sign, (1n << BigInt(bits)) - 1n, 0n, 32_767n, -32_768n, 65_535n];
  if (limits.includes(read) && size(read) < size(written))
    return `${read} is the end of a word or of a range: it was clamped`;
  const factor = factorOf(written, read);
  if (factor)
    return factor.up
      ? `${factor.by} times as much: another unit, or one place of the decimal point`
      : `a ${ordinal(factor.by)} of it: another unit, or one place of the decimal point`;
  const scales = scalesOf(written, read);
  if (scales) return `as ${scales[0]} is to ${scales[1]}: the other side has another full scale`;
  return clipText(chain, read);
}

const ordinal = (by: bigint): string => (by === 2n ? 'half' : by === 4n ? 'quarter' : `${by}th`);

function clipText(chain: ScalingChain, read: bigint): string {
  const isLimit = chain.steps.some((step) => step.kind === 'limit');
  return isLimit
    ? `no rounding explains ${read}; a limit of the drive may have cut it`
    : `no rounding explains ${read}`;
}
