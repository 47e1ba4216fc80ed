import type { Rational } from './rational';

/** Names of the rounding rules; `down` is toward minus infinity, `up` toward plus infinity. */
export const ROUNDINGS = ['down', 'up', 'towardZero', 'nearestHalfUp', 'halfEven', 'halfAwayFromZero'] as const;
export type Rounding = (typeof ROUNDINGS)[number];

export const ROUNDING_TEXT: Readonly<Record<Rounding, string>> = {
  down: 'rounded down',
  up: 'rounded up',
  towardZero: 'cut toward zero',
  nearestHalfUp: 'rounded to nearest, halves up',
  halfEven: 'rounded to nearest, halves to even',
  halfAwayFromZero: 'rounded to nearest, halves away from zero',
};

const floor = (num: bigint, den: bigint): bigint => num / den - (num % den !== 0n && num < 0n ? 1n : 0n);
const ceil = (num: bigint, den: bigint): bigint => -floor(-num, den);

const RULES: Readonly<Record<Rounding, (value: Rational) => bigint>> = {
  down: ({ num, den }) => floor(num, den),
  up: ({ num, den }) => ceil(num, den),
  towardZero: ({ num, den }) => num / den,
  nearestHalfUp: ({ num, den }) => floor(2n * num + den, 2n * den),
  halfEven: ({ num, den }) => {
    const low = floor(num, den);
    const twice = 2n * (num - low * den);
    return twice < den || (twice === den && low % 2n === 0n) ? low : low + 1n;
  },
  halfAwayFromZero: ({ num, den }) => (num < 0n ? -floor(-2n * num + den, 2n * den) : floor(2n * num + den, 2n * den)),
};

/** The whole number that a rounding rule makes of an exact fraction. */
export const round = (value: Rational, rule: Rounding): bigint => RULES[rule](value);
