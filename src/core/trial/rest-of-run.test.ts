import * as v from 'valibot';
import { shippedIndex } from '../../../tests/harness/standin-line';
import { framingOf } from '../modbus/framing';
import { registerLink } from '../places/register-link';
import { beginRun, type RunState } from '../procedure/run-state';
import { compileTrial } from './compile';
import { restOfRun, wholeOf } from './rest-of-run';
import { TrialSchema, type Trial, type TrialStep } from './trial';

const FAN = shippedIndex('tern');
const read = (id: string): TrialStep => ({ id, kind: 'read', what: { role: 'status-word' } });
const repeat = (id: string, from: string, times: number, more: Partial<TrialStep> = {}): TrialStep =>
  ({ id, kind: 'repeat', from, times, ...more }) as TrialStep;

const trialOf = (...steps: readonly TrialStep[]): Trial => ({
  format: 1,
  id: 'own',
  name: 'Round and round',
  proves: '',
  leaves: '',
  steps: [...steps],
});

/** A run that ended at a step of the procedure; each step took a second. */
function ended(trial: Trial, at: number, end: RunState['end'] = 'reload') {
  const compiled = compileTrial(trial, {
    index: FAN,
    places: registerLink(FAN, framingOf('modbus-rtu')),
    station: 3,
    name: 'fan',
    here: ['ready'],
    known: () => undefined,
  });
  const records = Array.from({ length: at }, (_, step) => ({
    step,
    good: true,
    seen: null,
    fromUs: step * 1e6,
    toUs: (step + 1) * 1e6,
    notYetUs: null,
    exchange: step + 1,
    said: '',
  }));
  const run: RunState = { ...beginRun(compiled.procedure!, 'r', 0), at, phase: 'over', end, records };
  return restOfRun(compiled, run);
}
const timesIn = (trial: Trial | undefined): readonly (number | null)[] =>
  (trial?.steps ?? []).map((step) => (step.kind === 'repeat' ? step.times : null));

/** Each read is one request: a, then b and c five times, then d. */
const PLAIN = trialOf(read('a'), read('b'), read('c'), repeat('rounds', 'b', 5), read('d'));

it.each([
  [1, 0, 5],
  [2, 0, 5],
  [3, 1, 4],
  [8, 3, 2],
])('ended at request %i: %i rounds are done, %i are left', (at, count, left) => {
  const rest = ended(PLAIN, at)!;
  expect([rest.done, rest.of, timesIn(rest.trial)]).toEqual([count, 5, [null, null, null, left, null]]);
  expect([rest.trial.id, rest.trial.name]).toEqual(['own-rest', `Round and round, ${left} rounds left`]);
});

it('in its last round the steps are left, with no repeat; before, behind and at its end nothing is', () => {
  expect(ended(PLAIN, 10)!.trial.steps.map(({ id }) => id)).toEqual(['a', 'b', 'c', 'd']);
  expect([ended(PLAIN, 0), ended(PLAIN, 11), ended(PLAIN, 4, 'done')]).toEqual([null, null, null]);
});

it('a rest that is cut again is a rest of the same whole', () => {
  const again = ended(ended(PLAIN, 3)!.trial, 5)!;
  expect([again.done, again.of, again.trial.id, again.trial.name]).toEqual([
    2,
    4,
    'own-rest',
    'Round and round, 2 rounds left',
  ]);
  expect([wholeOf('own-rest'), wholeOf('own')]).toEqual(['own', 'own']);
  const long = ended({ ...PLAIN, id: `${'a'.repeat(54)}-bcde` }, 3)!.trial;
  expect(v.safeParse(TrialSchema, { ...long, proves: 'p', leaves: 'l' }).success).toBe(true);
});

it('of nested repeats the outermost is counted, and the inner one is done whole again', () => {
  const nested = trialOf(read('a'), read('b'), repeat('inner', 'b', 3), repeat('outer', 'a', 4), read('d'));
  // A round is a, b, b, b: request 9 is in the third.
  const rest = ended(nested, 9)!;
  expect([rest.done, rest.of, timesIn(rest.trial)]).toEqual([2, 4, [null, null, 3, 2, null]]);
});

it('a time that a repeat lasts is counted on, and is over when it is over', () => {
  const timed = trialOf(read('a'), read('b'), repeat('rounds', 'b', 100, { forS: 20 }), read('d'));
  // Rounds after the first begin with a look at the time.
  const rest = ended(timed, 6)!;
  expect([rest.done, rest.trial.steps[2]]).toEqual([3, expect.objectContaining({ times: 97, forS: 15 })]);
  expect(ended(timed, 25)).toBeNull();
});
