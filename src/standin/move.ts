/** A move along one axis as an exact function of time, in counts and seconds. */
export interface Move {
  /** Position `seconds` after the start; where it ends, from then on. */
  readonly at: (seconds: number) => number;
  readonly speedAt: (seconds: number) => number;
  readonly seconds: number;
}

export type Profile = 'trapezoid' | 'soft';

/** Limits of a move, each more than 0, in counts per second and per second squared; `startSpeed` with its direction, 0 from rest. */
export interface Pace {
  readonly speed: number;
  readonly acceleration: number;
  readonly deceleration: number;
  readonly startSpeed?: number;
}

/** A stretch at one acceleration: so long, from that speed on. */
interface Stretch {
  readonly seconds: number;
  readonly speed: number;
  readonly acceleration: number;
}

/** Stretches one after the other, ending exactly at `to`. */
function along(from: number, to: number, stretches: readonly Stretch[]): Move {
  const begins: { readonly at: number; readonly way: number; readonly stretch: Stretch }[] = [];
  let [at, way] = [0, from];
  for (const stretch of stretches.filter(({ seconds }) => seconds > 0)) {
    begins.push({ at, way, stretch });
    at += stretch.seconds;
    way += stretch.speed * stretch.seconds + (stretch.acceleration * stretch.seconds ** 2) / 2;
  }
  const seconds = at;
  const under = (t: number) => begins.findLast((begin) => begin.at <= t) ?? begins[0];
  return {
    seconds,
    at: (t) => {
      const begin = t <= 0 ? undefined : under(t);
      if (t >= seconds || !begin) return t >= seconds ? to : from;
      const { speed, acceleration } = begin.stretch;
      const gone = t - begin.at;
      return begin.way + speed * gone + (acceleration * gone * gone) / 2;
    },
    speedAt: (t) => {
      const begin = t < 0 || t >= seconds ? undefined : under(t);
      return begin ? begin.stretch.speed + begin.stretch.acceleration * (t - begin.at) : 0;
    },
  };
}

/** From rest to rest or, where there is a start speed, from that speed: a shaft that cannot stop before the target stops behind it and comes back. */
function trapezoid(from: number, to: number, { speed, acceleration, deceleration, startSpeed = 0 }: Pace): Move {
  const sign = Math.sign(to - from) || Math.sign(startSpeed) || 1;
  const length = Math.abs(to - from);
  const start = startSpeed * sign;
  const stopsOver = start ** 2 / (2 * deceleration);
  if (start < 0 || stopsOver > length) {
    const rest = from + Math.sign(startSpeed) * stopsOver;
    return inTurn([
      planHalt(from, startSpeed, deceleration),
      trapezoid(rest, to, { speed, acceleration, deceleration }),
    ]);
  }
  const reached = Math.sqrt(
    (2 * acceleration * deceleration * length + deceleration * start ** 2) / (acceleration + deceleration),
  );
  const top = start > speed ? speed : Math.min(speed, reached);
  const rate = top < start ? -deceleration : acceleration;
  const first = Math.abs(top - start) / Math.abs(rate);
  const last = top / deceleration;
  const ramps = ((start + top) / 2) * first + (top / 2) * last;
  return along(from, to, [
    { seconds: first, speed: sign * start, acceleration: sign * rate },
    { seconds: top > 0 ? Math.max(0, length - ramps) / top : 0, speed: sign * top, acceleration: 0 },
    { seconds: last, speed: sign * top, acceleration: -sign * deceleration },
  ]);
}

/** Ramps like the first half of a sine, whose steepest slope is the acceleration; both of them alike. */
function soft(from: number, to: number, { speed, acceleration }: Pace): Move {
  const length = Math.abs(to - from);
  const sign = Math.sign(to - from);
  if (length === 0) return along(from, to, []);
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

/** From a speed to rest along a straight ramp. */
export function planHalt(from: number, speed: number, deceleration: number): Move {
  const seconds = Math.abs(speed) / deceleration;
  return along(from, from + (speed * seconds) / 2, [
    { seconds, speed, acceleration: -Math.sign(speed) * deceleration },
  ]);
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
