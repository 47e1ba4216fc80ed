import fc from 'fast-check';
import { planMove as standinMove } from '../../standin/move';
import { parseRational, type Rational } from '../scaling/rational';
import { moveAt, planMove, type MovePlan } from './move-plan';

const exact = (text: string): Rational => {
  const read = parseRational(text);
  if (!read.ok) throw new Error(text);
  return read.value;
};
type Texts = readonly [distance: string, speed: string, up: string, down: string, jerk?: string, start?: string];
const ask = ([distance, speed, up, down, jerk, start]: Texts) =>
  planMove({
    distance: exact(distance),
    speed: exact(speed),
    acceleration: exact(up),
    deceleration: exact(down),
    jerk: jerk === undefined ? undefined : exact(jerk),
    startSpeed: start === undefined ? undefined : exact(start),
  });
const plan = (...texts: Texts): MovePlan => {
  const made = ask(texts);
  if (!made.ok) throw new Error(made.error);
  return made.value;
};

// Kinematics of constant acceleration, as any text book of mechanics has it: s = v²/2a + v t + v²/2d, and for a triangle the peak is √(2 s a d / (a + d)).
it.each<[Texts, MovePlan['shape'], number, readonly number[]]>([
  [['100', '50', '200', '100'], 'trapezoid', 50, [0.25, (100 - 6.25 - 12.5) / 50, 0.5]],
  [['10', '50', '200', '100'], 'triangle', Math.sqrt((2 * 10 * 200 * 100) / 300), [0.1825741858, 0.3651483717]],
  // It just reaches its speed: v²/2a + v²/2d = 6.25 + 12.5.
  [['18.75', '50', '200', '100'], 'triangle', 50, [0.25, 0.5]],
  [['-100', '50', '200', '100'], 'trapezoid', 50, [0.25, 1.625, 0.5]],
  // Constant jerk, symmetric, all seven: bends of a/j, v/a - a/j between, and (s - v (v/a + a/j)) / v at speed.
  [['100', '50', '200', '200', '2000'], 'trapezoid', 50, [0.1, 0.15, 0.1, 1.65, 0.1, 0.15, 0.1]],
  // So little jerk that the acceleration is not reached: four bends of ∛(s / 2j), and a peak of j times its square.
  [['16', '50', '200', '200', '8'], 'triangle', 8, [1, 1, 1, 1]],
  // On the fly: from 30 to 50 the rest of the ramp, (v² - v0²) / 2a.
  [['100', '50', '200', '100', undefined, '30'], 'trapezoid', 50, [0.1, (100 - 4 - 12.5) / 50, 0.5]],
  // From above its speed it slows down first.
  [['100', '50', '200', '100', undefined, '80'], 'trapezoid', 80, [0.3, (100 - 19.5 - 12.5) / 50, 0.5]],
])('%j is a %s with a peak of %d', (texts, shape, peak, phases) => {
  const made = plan(...texts);
  expect(made.shape).toBe(shape);
  expect(made.peak).toBeCloseTo(peak, 9);
  expect(made.phases.map(({ seconds }) => seconds)).toEqual(phases.map((one) => expect.closeTo(one, 9) as number));
  expect(made.sign).toBe(texts[0].startsWith('-') ? -1 : 1);
});

it.each<[Texts, RegExp]>([
  [['1', '0', '1', '1'], /^speed: more than 0/],
  [['1', '1', '-1', '1'], /^acceleration: more than 0/],
  [['1', '1', '1', '0'], /^deceleration: more than 0/],
  [['1', '1', '1', '1', '0'], /^jerk: more than 0/],
  [['1', '1', '1', '1', undefined, '-1'], /moves the other way/],
  [['1', '10', '10', '10', undefined, '10'], /cannot come to rest within the distance: from 10 it needs 5$/],
])('%j cannot be: %s', (texts, why) => {
  const made = ask(texts);
  expect(made.ok ? '' : made.error).toMatch(why);
});

it('going nowhere takes no time', () => {
  expect(plan('0', '1', '1', '1')).toMatchObject({ seconds: 0, phases: [], sign: 0, peak: 0 });
});

const positive = fc.integer({ min: 1, max: 100_000 }).map((n) => `${n}/100`);
const optional = fc.option(positive, { nil: undefined });

it('any move ends at rest at its distance, within its limits, and integrates to that', () => {
  fc.assert(
    fc.property(positive, positive, positive, positive, optional, (s, v, a, d, j) => {
      const made = plan(s, v, a, d, j);
      const [way, most, limit] = [s, v, `${Math.max(numberIn(a), numberIn(d))}`].map(numberIn) as [
        number,
        number,
        number,
      ];
      // Numerical integration by the middle of each stretch: nothing of the plan's own formulas but its speed.
      const steps = 2000;
      const speeds = Array.from({ length: steps }, (_, i) => moveAt(made, ((i + 0.5) / steps) * made.seconds).speed);
      const sum = speeds.reduce((total, one) => total + (one * made.seconds) / steps, 0);
      expect(Math.max(...speeds)).toBeLessThanOrEqual(most * (1 + 1e-9));
      expect(Math.min(...speeds)).toBeGreaterThanOrEqual(-1e-6 * most);
      expect(Math.abs(sum - way) / way).toBeLessThan(1e-3);
      const end = moveAt(made, made.seconds);
      expect(Math.abs(end.way - way) / way).toBeLessThan(1e-9);
      expect(Math.abs(end.speed)).toBeLessThan(1e-6 * made.peak + 1e-9);
      for (const phase of made.phases) expect(Math.abs(phase.acceleration)).toBeLessThanOrEqual(limit * (1 + 1e-9));
    }),
    { numRuns: 150 },
  );
});
const numberIn = (text: string): number => {
  const [a, b = '1'] = text.split('/');
  return Number(a) / Number(b);
};

it('agrees with the motion of the stand-ins, which is worked out another way', () => {
  fc.assert(
    fc.property(positive, positive, positive, positive, (s, v, a, d) => {
      const pace = { speed: numberIn(v), acceleration: numberIn(a), deceleration: numberIn(d) };
      const [own, other] = [plan(s, v, a, d), standinMove(0, numberIn(s), pace)];
      expect(own.seconds).toBeCloseTo(other.seconds, 6);
      for (const share of [0.1, 0.5, 0.9])
        expect(moveAt(own, share * own.seconds).way / numberIn(s)).toBeCloseTo(
          other.at(share * own.seconds) / numberIn(s),
          6,
        );
    }),
  );
});
