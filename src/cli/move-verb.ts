import * as v from 'valibot';
import { planMove } from '../core/motion/move-plan';
import { exactNumber, Id, Numeric, read } from './input';
import { BadLine, type Verb } from './protocol';

const DIGITS = 12;

/** Twelve digits, without zeros at the end and without an exponent. */
function digitsOf(value: number): string {
  if (value === 0) return '0';
  const before = Math.floor(Math.log10(Math.abs(value))) + 1;
  const text = value.toPrecision(DIGITS);
  const plain = text.includes('e') ? Number(text).toFixed(Math.min(100, Math.max(0, DIGITS - before))) : text;
  return plain.includes('.') ? plain.replace(/\.?0+$/, '') : plain;
}

export const MOVE_VERB: Verb = {
  help: 'a move along an axis within its limits: shape, highest speed, time and phases; lengths in one load unit, times in seconds; startSpeed is what the axis has already',
  example: '{"distance":"100","speed":"50","acceleration":"200","deceleration":"100"}',
  run: (input) => {
    const { distance, speed, acceleration, deceleration, jerk, startSpeed } = read(
      {
        ...Id,
        distance: Numeric,
        speed: Numeric,
        acceleration: Numeric,
        deceleration: Numeric,
        jerk: v.optional(Numeric),
        startSpeed: v.optional(Numeric),
      },
      input,
    );
    const plan = planMove({
      distance: exactNumber('distance', distance),
      speed: exactNumber('speed', speed),
      acceleration: exactNumber('acceleration', acceleration),
      deceleration: exactNumber('deceleration', deceleration),
      jerk: jerk === undefined ? undefined : exactNumber('jerk', jerk),
      startSpeed: startSpeed === undefined ? undefined : exactNumber('startSpeed', startSpeed),
    });
    if (!plan.ok) throw new BadLine('value-out-of-range', plan.error);
    const { shape, peak, seconds, phases } = plan.value;
    return {
      shape,
      peak: digitsOf(peak),
      seconds: digitsOf(seconds),
      phases: phases.map((phase) => ({ seconds: digitsOf(phase.seconds) })),
    };
  },
};
