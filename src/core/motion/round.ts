import { add, compare, divide, multiply, ratio, subtract, type Rational } from '../scaling/rational';

/** An axis that goes round, as a rotary table does: its positions count modulo one turn, from 0 to less than `turn`, in load units. */
export interface Round {
  readonly turn: Rational;
  /** The lowest of the two bits in which the setting of the role `round-way` has the way; 0 where it has nothing else. */
  readonly wayBit: number;
}

/**
 * By which way such an axis goes to a place, as the drive's setting numbers it: as a straight one, which does not pass its zero; downward or upward only; or
 * by the shorter way. IEC 61800-7-201, the two bits "rotary axis direction" of the positioning option code; from memory.
 */
export const ROUND_WAYS = ['straight', 'backward', 'forward', 'shortest'] as const;
export type RoundWay = (typeof ROUND_WAYS)[number];

export const ROUND_WAY_TEXT: Readonly<Record<RoundWay, string>> = {
  straight: 'as a straight axis, without passing its zero',
  backward: 'backward only',
  forward: 'forward only',
  shortest: 'by the shorter way',
};

const ZERO = ratio(0n);

/** The way that the setting holds; null where that is not known. */
export function roundWayOf({ wayBit }: Round, held: Rational | null): RoundWay | null {
  if (!held || held.den !== 1n || held.num < 0n) return null;
  return ROUND_WAYS[Number((held.num >> BigInt(wayBit)) & 3n)] ?? null;
}

/** A place as the drive shows it, whatever turn it is in. */
export function withinTurn(turn: Rational, place: Rational): Rational {
  const { num, den } = divide(place, turn);
  const whole = num / den - (num % den < 0n ? 1n : 0n);
  return subtract(place, multiply(ratio(whole), turn));
}

/** How far it goes from one place to another, both within the turn; of two ways of like length, forward. */
export function wayRound(turn: Rational, way: RoundWay, from: Rational, to: Rational): Rational {
  const straight = subtract(to, from);
  if (way === 'straight') return straight;
  const forward = withinTurn(turn, straight);
  const backward = forward.num === 0n ? ZERO : subtract(forward, turn);
  if (way !== 'shortest') return way === 'forward' ? forward : backward;
  return compare(add(forward, backward), ZERO) > 0 ? backward : forward;
}

/** Why a distance cannot be gone as a place is gone to: by its own way the drive would go elsewhere along. Empty where it comes to the same. */
export function whyOtherWay(
  turn: Rational,
  way: RoundWay | null,
  from: Rational,
  distance: Rational,
  text: (value: Rational) => string,
): string {
  if (way === null) return 'by which way it goes round was not read: a distance could be gone the other way';
  const own = wayRound(turn, way, from, withinTurn(turn, add(from, distance)));
  return compare(own, distance) === 0
    ? ''
    : `it goes to a place ${ROUND_WAY_TEXT[way]}: that would be ${text(own)}, not ${text(distance)}`;
}
