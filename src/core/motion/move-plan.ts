import { asNumber } from '../as-number';
import { done, failed, type Result } from '../result';
import { add, compare, divide, multiply, ratio, subtract, type Rational } from '../scaling/rational';

/** A move along one axis: lengths in one load unit, times in seconds. */
export interface MoveAsk {
  /** The sign is the direction. */
  readonly distance: Rational;
  /** More than nothing, as are the next two. */
  readonly speed: Rational;
  readonly acceleration: Rational;
  readonly deceleration: Rational;
  /** How fast the acceleration changes; absent: at once. */
  readonly jerk?: Rational | undefined;
  /** The speed that the axis has already, in the direction of the move: a change on the fly. Absent: it stands. */
  readonly startSpeed?: Rational | undefined;
}

/** A stretch of constant jerk: what holds at its begin, in the direction of the move. */
export interface MovePhase {
  readonly seconds: number;
  readonly jerk: number;
  readonly acceleration: number;
  readonly speed: number;
  readonly way: number;
}

export interface MovePlan {
  /** `triangle`: the speed is not reached, or only just. */
  readonly shape: 'trapezoid' | 'triangle';
  /** The highest speed of the move, without its sign. */
  readonly peak: number;
  readonly seconds: number;
  /** Those that have a length, in their order. */
  readonly phases: readonly MovePhase[];
  /** -1 backward, 0 where it goes nowhere. */
  readonly sign: -1 | 0 | 1;
}

const TWO = ratio(2n);
const NONE = ratio(0n);
/** A change of speed with limits of acceleration and jerk. */
interface Ramp {
  readonly seconds: number;
  /** Of each of its two ends, in which the acceleration comes and goes; 0 without a limit of jerk. */
  readonly bend: number;
  readonly distance: number;
}

/** Between two speeds; `limit` is the acceleration that it may have. A ramp is the same backwards, so its mean speed is the middle. */
function rampBetween(from: number, to: number, limit: number, jerk: number | null): Ramp {
  const change = Math.abs(to - from);
  const bend = jerk === null ? 0 : Math.min(limit / jerk, Math.sqrt(change / jerk));
  const reaches = jerk === null || change >= (limit * limit) / jerk;
  const seconds = reaches ? change / limit + bend : 2 * bend;
  return { seconds, bend, distance: ((from + to) / 2) * seconds };
}

/** The same distance exactly, where the ramp reaches its acceleration; null where a root comes in. */
function exactDistance(from: Rational, to: Rational, limit: Rational, jerk: Rational | undefined): Rational | null {
  const change = compare(to, from) < 0 ? subtract(from, to) : subtract(to, from);
  if (jerk && compare(multiply(change, jerk), multiply(limit, limit)) < 0 && change.num !== 0n) return null;
  const bend = jerk && change.num !== 0n ? divide(limit, jerk) : NONE;
  return multiply(divide(add(from, to), TWO), add(divide(change, limit), bend));
}

/** Halvings after which nothing of a double is left to be found. */
const HALVINGS = 200;

/**
 * The fastest move within its limits that ends at rest (constant acceleration, or constant jerk with seven phases). An error in words where there is
 * none: a limit that is not more than nothing, or a start so fast that the axis cannot come to rest within the distance.
 */
export function planMove(ask: MoveAsk): Result<MovePlan, string> {
  const { speed, acceleration, deceleration, jerk, startSpeed = NONE } = ask;
  for (const [name, value] of [
    ['speed', speed],
    ['acceleration', acceleration],
    ['deceleration', deceleration],
    ['jerk', jerk ?? speed],
  ] as const)
    if (value.num <= 0n) return failed(`${name}: more than 0 is expected`);
  if (startSpeed.num < 0n) return failed('startSpeed: the axis moves the other way; it must stop first');
  const length = ask.distance.num < 0n ? subtract(NONE, ask.distance) : ask.distance;
  const [s, v, a, d, v0] = [length, speed, acceleration, deceleration, startSpeed].map(asNumber) as [
    number,
    number,
    number,
    number,
    number,
  ];
  const j = jerk ? asNumber(jerk) : null;
  if (![s, v, a, d, v0, j ?? 0].every(Number.isFinite)) return failed('a number here is beyond any axis');
  if (s === 0 && v0 === 0) return done({ shape: 'triangle', peak: 0, seconds: 0, phases: [], sign: 0 });
  const sign = ask.distance.num < 0n ? -1 : 1;
  const over = stopsOver(ask, length, v0, s, d, j);
  if (over !== null) return failed(`it cannot come to rest within the distance: from ${v0} it needs ${over}`);
  const firstLimit = compare(startSpeed, speed) > 0 ? d : a;
  const first = (top: number): Ramp => rampBetween(v0, top, top < v0 ? d : a, j);
  const last = (top: number): Ramp => rampBetween(top, 0, d, j);
  const isReached = reaches(ask, length, s, first(v).distance + last(v).distance);
  const top = isReached ? v : topOf(v0, v, s, (one) => first(one).distance + last(one).distance);
  const [up, down] = [first(top), last(top)];
  const cruise = isReached ? Math.max(0, (s - up.distance - down.distance) / v) : 0;
  const phases = phasesOf(v0, top, up, top < v0 ? -firstLimit : a, cruise, down, d, j);
  const seconds = phases.reduce((sum, phase) => sum + phase.seconds, 0);
  return done({ shape: isReached ? 'trapezoid' : 'triangle', peak: Math.max(top, v0), seconds, phases, sign });
}

/** The distance that the axis needs to come to rest from its start speed, where that is more than it has; null where it is not. */
function stopsOver(ask: MoveAsk, length: Rational, v0: number, s: number, d: number, j: number | null): number | null {
  if (!ask.startSpeed || v0 === 0) return null;
  const exact = exactDistance(ask.startSpeed, NONE, ask.deceleration, ask.jerk);
  const { distance } = rampBetween(v0, 0, d, j);
  return (exact ? compare(exact, length) > 0 : distance > s) ? distance : null;
}

/** Whether some way is left at the speed itself; exactly, where no root comes in. */
function reaches(ask: MoveAsk, length: Rational, s: number, ramps: number): boolean {
  const start = ask.startSpeed ?? NONE;
  const limit = compare(start, ask.speed) > 0 ? ask.deceleration : ask.acceleration;
  const [up, down] = [
    exactDistance(start, ask.speed, limit, ask.jerk),
    exactDistance(ask.speed, NONE, ask.deceleration, ask.jerk),
  ];
  return up && down ? compare(length, add(up, down)) > 0 : s > ramps;
}

/** The speed at which both ramps together are as long as the way. */
function topOf(v0: number, v: number, s: number, ramps: (top: number) => number): number {
  // From above its speed the axis only slows down, and a longer way means a lower speed in between.
  const isFalling = v0 > v;
  let [low, high] = isFalling ? [v, v0] : [v0, v];
  for (let i = 0; i < HALVINGS && low < high; i++) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (ramps(middle) < s !== isFalling) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** The stretches of constant jerk, those without length left out. */
function phasesOf(
  v0: number,
  top: number,
  up: Ramp,
  first: number,
  cruise: number,
  down: Ramp,
  d: number,
  j: number | null,
): readonly MovePhase[] {
  const rise = Math.sign(first);
  const bends = (
    ramp: Ramp,
    limit: number,
    direction: number,
  ): readonly (readonly [seconds: number, jerk: number, from: number])[] => {
    const reached = j === null ? limit : Math.min(limit, j * ramp.bend);
    return [
      [ramp.bend, direction * (j ?? 0), 0],
      [Math.max(0, ramp.seconds - 2 * ramp.bend), 0, direction * reached],
      [ramp.bend, -direction * (j ?? 0), direction * reached],
    ];
  };
  const all = [...(top === v0 ? [] : bends(up, Math.abs(first), rise)), [cruise, 0, 0] as const, ...bends(down, d, -1)];
  const phases: MovePhase[] = [];
  let [speed, way] = [v0, 0];
  for (const [seconds, jerk, acceleration] of all) {
    if (!(seconds > SHORTEST_S)) continue;
    phases.push({ seconds, jerk, acceleration, speed, way });
    way += speed * seconds + (acceleration * seconds ** 2) / 2 + (jerk * seconds ** 3) / 6;
    speed += acceleration * seconds + (jerk * seconds ** 2) / 2;
  }
  return phases;
}

/** What is shorter is what rounding left. */
const SHORTEST_S = 1e-12;

/** Where the axis is so many seconds after the begin, and how fast; both in the direction that the distance has. */
export function moveAt(
  { phases, seconds, sign }: MovePlan,
  at: number,
): { readonly way: number; readonly speed: number } {
  let left = Math.min(Math.max(at, 0), seconds);
  for (const [i, phase] of phases.entries()) {
    if (left > phase.seconds && i + 1 < phases.length) {
      left -= phase.seconds;
      continue;
    }
    const { way, speed, acceleration, jerk } = phase;
    return {
      way: sign * (way + speed * left + (acceleration * left ** 2) / 2 + (jerk * left ** 3) / 6),
      speed: sign * (speed + acceleration * left + (jerk * left ** 2) / 2),
    };
  }
  return { way: 0, speed: 0 };
}
