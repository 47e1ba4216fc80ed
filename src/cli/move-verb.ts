import * as v from 'valibot';
import { planMove } from '../core/motion/move-plan';
import { parseRational, type Rational } from '../core/scaling/rational';
import { Id, read } from './input';
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

const Numeric = v.union([v.string(), v.number()]);

function numberOf(name: string, value: string | number): Rational {
  const parsed = parseRational(String(value));
  if (!parsed.ok) throw new BadLine('bad-number', `${name}: ${parsed.error.text}`);
  return parsed.value;
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
      distance: numberOf('distance', distance),
      speed: numberOf('speed', speed),
      acceleration: numberOf('acceleration', acceleration),
      deceleration: numberOf('deceleration', deceleration),
      jerk: jerk === undefined ? undefined : numberOf('jerk', jerk),
      startSpeed: startSpeed === undefined ? undefined : numberOf('startSpeed', startSpeed),
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
