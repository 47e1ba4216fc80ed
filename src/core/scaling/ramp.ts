import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import { divide, type Rational } from './rational';

/** A ramp said in both ways, over a named reference speed; speed in any unit u, acceleration in u/s, jerk in u/s². */
export interface Ramp {
  readonly seconds: Rational;
  readonly acceleration: Rational;
}

const notPositive = (what: string): Result<never, Fault> =>
  failed(fault('value-out-of-range', 0, 0, `${what} must be more than 0`));

/** a = v_ref / t, where v_ref is a named speed, usually the drive's maximum and not the set-point (common practice). */
export function rampFromTime(reference: Rational, seconds: Rational): Result<Ramp, Fault> {
  if (reference.num <= 0n) return notPositive('the reference speed');
  return seconds.num <= 0n ? notPositive('the ramp time') : done({ seconds, acceleration: divide(reference, seconds) });
}

/** t = v_ref / a. */
export function rampFromAcceleration(reference: Rational, acceleration: Rational): Result<Ramp, Fault> {
  if (reference.num <= 0n) return notPositive('the reference speed');
  return acceleration.num <= 0n
    ? notPositive('the acceleration')
    : done({ seconds: divide(reference, acceleration), acceleration });
}

/** The jerk that builds an acceleration up in a time, j = a / t, and the time that a jerk needs for it. */
export const jerkFromTime = (acceleration: Rational, seconds: Rational): Result<Rational, Fault> =>
  seconds.num <= 0n ? notPositive('the time of the jerk') : done(divide(acceleration, seconds));
/** Time in seconds in which a jerk builds up an acceleration; a fault for a jerk that is not above 0. */
export const timeFromJerk = (acceleration: Rational, jerk: Rational): Result<Rational, Fault> =>
  jerk.num <= 0n ? notPositive('the jerk') : done(divide(acceleration, jerk));
