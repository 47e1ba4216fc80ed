import type { Rational } from './scaling/rational';

/** The nearest double, for pictures and for what was measured; NaN beyond what a double holds. What is sent stays exact. */
export const asNumber = ({ num, den }: Rational): number => {
  const number = Number(num) / Number(den);
  return Number.isFinite(number) ? number : NaN;
};
