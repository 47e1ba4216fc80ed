/** A move along one axis as an exact function of time, in counts and seconds. */
export interface Move {
  /** Position `seconds` after the start; where it ends, from then on. */
  readonly at: (seconds: number) => number;
  readonly speedAt: (seconds: number) => number;
  readonly seconds: number;
}

export type Profile = 'trapezoid' | 'soft';

/**
 * Limits of a move, each more than 0, in counts per second, per second squared and cubed; without `jerk` the acceleration comes at once. `startSpeed` with its
 * direction, 0 from rest.
 */
export interface Pace {
  readonly speed: number;
  readonly acceleration: number;
  readonly deceleration: number;
  readonly jerk?: number;
  readonly startSpeed?: number;
}

/** A stretch of one jerk: so long, from that speed and acceleration on. */
interface Stretch {
  readonly seconds: number;
  readonly speed: number;
  readonly acceleration: number;
  readonly jerk: number;
}

const wayAfter = ({ speed, acceleration, jerk }: Stretch, t: number): number =>
  t * (speed + t * (acceleration / 2 + (t * jerk) / 6));
const speedAfter = ({ speed, acceleration, jerk }: Stretch, t: number): number =>
  speed + t * (acceleration + (t * jerk) / 2);
const lengthOf = (stretches: readonly Stretch[]): number =>
  stretches.reduce((sum, stretch) => sum + wayAfter(stretch, stretch.seconds), 0);

/** From one speed to another. Under a limit of jerk the acceleration comes and goes in two like bends. */
function ramp(from: number, to: number, rate: number, jerk: number | undefined): readonly Stretch[] {
  const change = Math.abs(to - from);
  const sign = Math.sign(to - from);
  if (jerk === undefined) return [{ seconds: change / rate, speed: from, acceleration: sign * rate, jerk: 0 }];
  const peak = Math.min(rate, Math.sqrt(change * jerk));
  const bend = peak / jerk;
  const bent = (sign * peak * bend) / 2;
  return [
    { seconds: bend, speed: from, acceleration: 0, jerk: sign * jerk },
    { seconds: peak > 0 ? change / peak - bend : 0, speed: from + bent, acceleration: sign * peak, jerk: 0 },
    { seconds: bend, speed: to - bent, acceleration: sign * peak, jerk: -sign * jerk },
  ];
}

/** Stretches one after the other in one direction, ending exactly at `to`. */
function along(from: number, to: number, sign: number, stretches: readonly Stretch[]): Move {
  const begins: { readonly at: number; readonly way: number; readonly stretch: Stretch }[] = [];
  let [at, way] = [0, 0];
  for (const stretch of stretches.filter(({ seconds }) => seconds > 0)) {
    begins.push({ at, way, stretch });
    at += stretch.seconds;
    way += wayAfter(stretch, stretch.seconds);
  }
  const seconds = at;
  const under = (t: number) => begins.findLast((begin) => begin.at <= t) ?? begins[0];
  return {
    seconds,
    at: (t) => {
      const begin = t <= 0 ? undefined : under(t);
      if (t >= seconds || !begin) return t >= seconds ? to : from;
      return from + sign * (begin.way + wayAfter(begin.stretch, t - begin.at));
    },
    speedAt: (t) => {
      const begin = t < 0 || t >= seconds ? undefined : under(t);
      return begin ? sign * speedAfter(begin.stretch, t - begin.at) : 0;
    },
  };
}

/** From rest to rest or, where there is a start speed, from that speed: a shaft that cannot stop before the target stops behind it and comes back. */
function trapezoid(from: number, to: number, pace: Pace): Move {
  const { speed, acceleration, deceleration, jerk, startSpeed = 0 } = pace;
  const sign = Math.sign(to - from) || Math.sign(startSpeed) || 1;
  const length = Math.abs(to - from);
  const start = startSpeed * sign;
  if (start < 0 || lengthOf(ramp(start, 0, deceleration, jerk)) > length) {
    const halt = planHalt(from, startSpeed, deceleration, jerk);
    return inTurn([halt, trapezoid(halt.at(Infinity), to, { ...pace, startSpeed: 0 })]);
  }
  const ramps = (top: number): readonly [first: readonly Stretch[], last: readonly Stretch[]] => [
    ramp(start, top, top < start ? deceleration : acceleration, jerk),
    ramp(top, 0, deceleration, jerk),
  ];
  const over = (top: number): number => length - lengthOf(ramps(top).flat());
  const top = over(speed) >= 0 ? speed : topBetween(start, speed, over);
  const [first, last] = ramps(top);
  const cruise = top > 0 ? Math.max(0, over(top)) / top : 0;
  return along(from, to, sign, [...first, { seconds: cruise, speed: top, acceleration: 0, jerk: 0 }, ...last]);
}

/** The speed at which both ramps take the whole way: `fits` leaves some of it over, `exceeds` needs more. */
function topBetween(fits: number, exceeds: number, over: (top: number) => number): number {
  let [low, high] = [fits, exceeds];
  for (let i = 0; i < 100; i++) {
    const middle = (low + high) / 2;
    if (over(middle) >= 0) low = middle;
    else high = middle;
  }
  return low;
}

/** Ramps like the first half of a sine, whose steepest slope is the acceleration; both of them alike. */
function soft(from: number, to: number, { speed, acceleration }: Pace): Move {
  const length = Math.abs(to - from);
  const sign = Math.sign(to - from);
  if (length === 0) return along(from, to, 1, []);
  const top = Math.min(speed, Math.sqrt((2 * length * acceleration) / Math.PI));
  const ramp = (Math.PI * top) / (2 * acceleration);
  const turn = Math.PI / ramp;
  const travelled = (t: number): number => (top / 2) * (t - Math.sin(turn * t) / turn);
  const cruise = (length - top * ramp) / top;
  const seconds = 2 * ramp + cruise;
  return {
    seconds,
    at: (t) => {
      if (t <= 0) return from;
      if (t >= seconds) return to;
      if (t <= ramp) return from + sign * travelled(t);
      if (t <= ramp + cruise) return from + sign * ((top * ramp) / 2 + top * (t - ramp));
      return to - sign * travelled(seconds - t);
    },
    speedAt: (t) => {
      if (t <= 0 || t >= seconds) return 0;
      if (t > ramp && t <= ramp + cruise) return sign * top;
      return sign * (top / 2) * (1 - Math.cos(turn * (t <= ramp ? t : seconds - t)));
    },
  };
}

/** To rest at `to`. A soft move begins at rest. */
export const planMove = (from: number, to: number, pace: Pace, profile: Profile = 'trapezoid'): Move =>
  profile === 'soft' && (pace.startSpeed ?? 0) === 0 ? soft(from, to, pace) : trapezoid(from, to, pace);

/** From a speed to rest; without `jerk` along a straight ramp. */
export function planHalt(from: number, speed: number, deceleration: number, jerk?: number): Move {
  const stretches = ramp(Math.abs(speed), 0, deceleration, jerk);
  const sign = Math.sign(speed);
  return along(from, from + sign * lengthOf(stretches), sign, stretches);
}

/** Moves one after the other, each beginning where the one before it ends. */
export function inTurn(moves: readonly Move[]): Move {
  const seconds = moves.reduce((sum, move) => sum + move.seconds, 0);
  const under = (t: number): { readonly move: Move | undefined; readonly left: number } => {
    let left = t;
    for (const move of moves) {
      if (left < move.seconds) return { move, left };
      left -= move.seconds;
    }
    return { move: moves[moves.length - 1], left: Infinity };
  };
  return {
    seconds,
    at: (t) => {
      const { move, left } = under(Math.max(0, t));
      return move?.at(left) ?? 0;
    },
    speedAt: (t) => {
      const { move, left } = under(t);
      return t < 0 || t >= seconds ? 0 : (move?.speedAt(left) ?? 0);
    },
  };
}
