import fc from 'fast-check';
import { ratio } from './rational';
import { jerkFromTime, rampFromAcceleration, rampFromTime, timeFromJerk } from './ramp';

it('is over the named reference speed: 55 Hz in 5 s are 11 Hz/s', () => {
  expect(rampFromTime(ratio(55n), ratio(5n))).toEqual({
    ok: true,
    value: { seconds: ratio(5n), acceleration: ratio(11n) },
  });
});

it('time to acceleration and back, and jerk, are exact', () => {
  const part = fc.tuple(fc.bigInt(1n, 10n ** 9n), fc.bigInt(1n, 10n ** 6n)).map(([num, den]) => ratio(num, den));
  fc.assert(
    fc.property(part, part, (reference, seconds) => {
      const there = rampFromTime(reference, seconds);
      if (!there.ok) throw new Error(there.error.text);
      expect(rampFromAcceleration(reference, there.value.acceleration)).toEqual(there);
      const jerk = jerkFromTime(reference, seconds);
      if (!jerk.ok) throw new Error(jerk.error.text);
      expect(timeFromJerk(reference, jerk.value)).toEqual({ ok: true, value: seconds });
    }),
    { seed: 6, numRuns: 300 },
  );
});

it.each([
  [() => rampFromTime(ratio(0n), ratio(1n)), /reference speed/],
  [() => rampFromTime(ratio(1n), ratio(0n)), /ramp time/],
  [() => rampFromAcceleration(ratio(1n), ratio(-1n)), /acceleration/],
  [() => jerkFromTime(ratio(1n), ratio(0n)), /time of the jerk/],
  [() => timeFromJerk(ratio(1n), ratio(0n)), /the jerk/],
])('%# names what must be more than 0', (make, text) => {
  const made = make();
  expect(!made.ok && made.error.text).toMatch(text);
});
