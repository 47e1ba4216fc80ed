/** A move along one axis as an exact function of time, in counts and seconds. */
export interface Move {
  /** Position `seconds` after the start. */
  readonly at: (seconds: number) => number;
  readonly speedAt: (seconds: number) => number;
  readonly seconds: number;
}

export type Profile = 'trapezoid' | 'soft';

/** How far and how long a ramp from 0 to `speed` goes, and the speed reached in the first `t` seconds of it. */
interface Ramp {
  readonly seconds: number;
  readonly distance: number;
  readonly travelled: (t: number) => number;
  readonly speed: (t: number) => number;
}

/** A straight ramp, or one like the first half of a sine whose steepest slope is the acceleration. */
function rampTo(speed: number, acceleration: number, profile: Profile): Ramp {
  if (profile === 'trapezoid') {
    const seconds = speed / acceleration;
    return {
      seconds,
      distance: (speed * seconds) / 2,
      travelled: (t) => (acceleration * t * t) / 2,
      speed: (t) => acceleration * t,
    };
  }
  const seconds = (Math.PI * speed) / (2 * acceleration);
  const turn = Math.PI / seconds;
  return {
    seconds,
    distance: (speed * seconds) / 2,
    travelled: (t) => (speed / 2) * (t - Math.sin(turn * t) / turn),
    speed: (t) => (speed / 2) * (1 - Math.cos(turn * t)),
  };
}

/** Highest speed that a move of this length can reach: a short one is all ramp. */
const peakSpeed = (distance: number, acceleration: number, profile: Profile): number =>
  Math.sqrt(profile === 'trapezoid' ? distance * acceleration : (2 * distance * acceleration) / Math.PI);

/** From rest to rest. `speed` and `acceleration` are positive, in counts per second and per second squared. */
export function planMove(from: number, to: number, speed: number, acceleration: number, profile: Profile): Move {
  const length = Math.abs(to - from);
  const sign = Math.sign(to - from);
  if (length === 0) return { at: () => to, speedAt: () => 0, seconds: 0 };
  const ramp = rampTo(Math.min(speed, peakSpeed(length, acceleration, profile)), acceleration, profile);
  const top = Math.min(speed, peakSpeed(length, acceleration, profile));
  const cruise = (length - 2 * ramp.distance) / top;
  const seconds = 2 * ramp.seconds + cruise;
  return {
    seconds,
    at: (t) => {
      if (t >= seconds) return to;
      if (t <= ramp.seconds) return from + sign * ramp.travelled(t);
      if (t <= ramp.seconds + cruise) return from + sign * (ramp.distance + top * (t - ramp.seconds));
      return to - sign * ramp.travelled(seconds - t);
    },
    speedAt: (t) => {
      if (t <= 0 || t >= seconds) return 0;
      if (t <= ramp.seconds) return sign * ramp.speed(t);
      return sign * (t <= ramp.seconds + cruise ? top : ramp.speed(seconds - t));
    },
  };
}

/** From a speed to rest along a straight ramp. */
export function planHalt(from: number, speed: number, acceleration: number): Move {
  const seconds = Math.abs(speed) / acceleration;
  const speedAt = (t: number): number => (t >= seconds ? 0 : speed - Math.sign(speed) * acceleration * t);
  return {
    seconds,
    speedAt,
    at: (t) => from + ((speed + speedAt(Math.min(t, seconds))) / 2) * Math.min(t, seconds),
  };
}
