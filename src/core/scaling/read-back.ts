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
  return { verdict: 'differs', text: clipText(chain, read) };
}

function clipText(chain: ScalingChain, read: bigint): string {
  const isLimit = chain.steps.some((step) => step.kind === 'limit');
  return isLimit
    ? `no rounding explains ${read}; a limit of the drive may have cut it`
    : `no rounding explains ${read}`;
}
