import type { ScalingChain } from './chain';
import { add, divide, multiply, ratio, subtract, type Rational } from './rational';
import { toRaw, type Scaled } from './scale';

/** One row of a table for the test sheet. */
export interface ScalePoint {
  readonly wanted: Rational;
  readonly scaled: Scaled;
  /** sent - wanted, in the chain's unit: what rounding and limits cost. */
  readonly cost: Rational;
}

/** `count` values evenly from `low` to `high`, both included, and what the chain makes of each; none where the chain cannot be worked out. */
export function pointsOf(chain: ScalingChain, low: Rational, high: Rational, count: number): readonly ScalePoint[] {
  const gaps = Math.max(1, count - 1);
  const step = divide(subtract(high, low), ratio(BigInt(gaps)));
  return Array.from({ length: gaps + 1 }, (_, i) => add(low, multiply(step, ratio(BigInt(i))))).flatMap((wanted) => {
    const scaled = toRaw(chain, wanted);
    return scaled.ok ? [{ wanted, scaled: scaled.value, cost: subtract(scaled.value.sent, wanted) }] : [];
  });
}
