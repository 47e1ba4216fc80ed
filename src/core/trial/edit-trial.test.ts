import { rtu } from '../../../tests/harness/line';
import { shippedIndex } from '../../../tests/harness/standin-line';
import { framingOf } from '../modbus/framing';
import { registerLink } from '../places/register-link';
import { pick, seededRandom } from '../random/random';
import type { TraceEntry } from '../trace/entry';
import { compileTrial } from './compile';
import {
  copyOfTrial,
  readTrialFile,
  stepWithField,
  withoutStep,
  withStep,
  withStepAdded,
  withStepMoved,
} from './edit-trial';
import { stepsOfExchanges, trialOfSteps } from './from-exchanges';
import { SHIPPED_TRIALS } from './shipped-trials';
import { fieldText, fieldValue, STEP_FORMS } from './step-forms';
import type { Trial, TrialStep } from './trial';

const [FIRST] = SHIPPED_TRIALS as readonly [Trial];
const KINDS = Object.keys(STEP_FORMS) as TrialStep['kind'][];
const TERN = shippedIndex('tern');
const WAY = {
  index: TERN,
  places: registerLink(TERN, framingOf('modbus-rtu')),
  station: 3,
  name: 'fan',
  here: ['ready'],
  known: () => undefined,
};
const idsOf = ({ steps }: Trial) => steps.map(({ id }) => id);

it.each(KINDS)('a new step “%s” is one that a file may hold, and each of its fields reads what it shows', (kind) => {
  const trial = withStepAdded(FIRST, kind, 0);
  expect(readTrialFile(JSON.stringify(trial))).toEqual({ ok: true, value: trial });
  const step = trial.steps[1]!;
  for (const { key, as } of STEP_FORMS[kind].fields) {
    const shown = fieldText(as, Object.entries(step).find(([own]) => own === key)?.[1]);
    expect(stepWithField(step, key, fieldValue(as, shown))).toEqual({ ok: true, value: step });
  }
  expect(idsOf(withStep(trial, 0, step))).toEqual([step.id, step.id, ...idsOf(FIRST).slice(1)]);
});

it.each<[string, string, TrialStep['kind'], RegExp]>([
  ['withinS', 'soon', 'stands', /number/i],
  ['withinS', '-1', 'stands', /./],
  ['to', '', 'reference', /./],
  ['to', 'Not A State', 'walk', /./],
  ['good', ' | ', 'ask', /./],
  ['times', '1', 'repeat', /./],
])('a field “%s” does not take “%s”', (key, text, kind, why) => {
  const field = STEP_FORMS[kind].fields.find((one) => one.key === key)!;
  const made = stepWithField(STEP_FORMS[kind].begin('a'), key, fieldValue(field.as, text));
  expect(made.ok ? '' : made.error).toMatch(why);
});

it('steps are moved as far as there are places, and one stays', () => {
  const ids = idsOf(FIRST);
  expect(idsOf(withStepMoved(FIRST, 1, -1))).toEqual([ids[1], ids[0], ...ids.slice(2)]);
  expect(withStepMoved(FIRST, 0, -1)).toBe(FIRST);
  expect(idsOf(withStepMoved(FIRST, 0, 99))).toEqual([...ids.slice(1), ids[0]]);
  const one = { ...FIRST, steps: FIRST.steps.slice(0, 1) };
  expect(withoutStep(one, 0)).toBe(one);
});

it('whatever is done to a trial, it can be compiled or says what stands against it; names stay apart (seeded)', () => {
  const random = seededRandom(7);
  let trial = copyOfTrial(FIRST, [FIRST.id], 'First contact');
  expect(trial.id).toBe('first-contact-2');
  for (let i = 0; i < 300; i++) {
    const at = pick(random, trial.steps.length);
    const act = pick(random, 3);
    if (act === 0 && trial.steps.length < 60) trial = withStepAdded(trial, KINDS[pick(random, KINDS.length)]!, at);
    else if (act === 1) trial = withStepMoved(trial, at, pick(random, 9) - 4);
    else if (trial.steps.length > 20) trial = withoutStep(trial, at);
    expect(new Set(idsOf(trial)).size).toBe(trial.steps.length);
    const compiled = compileTrial(trial, WAY);
    expect((compiled.procedure === null) === (compiled.why !== '')).toBe(true);
  }
});

it.each([
  ['{', 'it is no JSON'],
  ['{}', /^format: /],
  [JSON.stringify({ ...FIRST, steps: [{ id: 'x', kind: 'jump' }] }), /^steps\.0\.kind: /],
  [JSON.stringify({ ...FIRST, more: 1 }), /^more: /],
])('%s is no trial', (text, why) => {
  const read = readTrialFile(text);
  expect(read.ok ? '' : read.error).toMatch(why);
});

describe('compiling', () => {
  const compiled = (...steps: TrialStep[]) => compileTrial({ ...FIRST, steps }, WAY);

  it.each<[TrialStep, RegExp]>([
    [{ id: 'a', kind: 'write', what: { number: '99.99' }, to: '1' }, /^step 1: sheet Tern has no 99\.99/],
    [{ id: 'a', kind: 'write', what: { role: 'ramp-time' }, to: '5 V' }, /not the unit/],
    [{ id: 'a', kind: 'reference', to: 'fast' }, /^step 1: /],
    [{ id: 'a', kind: 'walk', to: 'asleep' }, /has no state asleep/],
    [{ id: 'a', kind: 'wait-state', states: ['asleep'], withinS: 1 }, /has no state asleep/],
    [{ id: 'a', kind: 'repeat', from: 'b', times: 2 }, /no step before it is called b/],
  ])('%j cannot be done, and says why', (step, why) => {
    expect(compiled(step)).toMatchObject({ procedure: null });
    expect(compiled(step).why).toMatch(why);
  });

  it('two steps of one name are not told apart, and so are refused', () => {
    const hold: TrialStep = { id: 'a', kind: 'hold', s: 1 };
    expect(compiled(hold, { ...hold, s: 2 }).why).toBe('step 2: another step is called a too');
  });

  it('a step that may be missing is left out with its reason', () => {
    const own = compiled(
      { id: 'a', kind: 'read', what: { number: '99.99' }, optional: true },
      { id: 'b', kind: 'hold', s: 1 },
    );
    expect(own.why).toBe('');
    expect(own.steps[0]).toMatchObject({ isLeftOut: true, from: 0, to: 0 });
    expect(own.procedure?.steps).toHaveLength(1);
  });

  it('a repeat does its steps so many times in all, and too many are refused before anything runs', () => {
    const steps: TrialStep[] = [
      { id: 'a', kind: 'hold', s: 1 },
      { id: 'b', kind: 'read', what: { role: 'actual-speed' } },
    ];
    const thrice = compiled(...steps, { id: 'c', kind: 'repeat', from: 'a', times: 3 });
    expect(thrice.steps.map(({ step, time }) => `${step.id} ${time}`)).toEqual([
      'a 1',
      'b 1',
      'a 2',
      'b 2',
      'a 3',
      'b 3',
    ]);
    const many = compiled(...steps, { id: 'c', kind: 'repeat', from: 'a', times: 1000 });
    expect(many.procedure === null ? many.why : many.procedure.steps.length).toBe(2000);
    const four = steps.flatMap((step) => [step, { ...step, id: `${step.id}-2` }]);
    expect(compiled(...four, { id: 'c', kind: 'repeat', from: 'a', times: 1000 }).why).toMatch(/at most 2000 steps/);
  });

  it('a repeat among repeated steps is done anew each time', () => {
    const own = compiled(
      { id: 'a', kind: 'hold', s: 1 },
      { id: 'b', kind: 'read', what: { role: 'actual-speed' } },
      { id: 'twice', kind: 'repeat', from: 'b', times: 2 },
      { id: 'all', kind: 'repeat', from: 'a', times: 2 },
    );
    expect(own.steps.map(({ step, time }) => `${step.id} ${time}`)).toEqual(['a 1', 'b 1', 'b 2', 'a 2', 'b 3', 'b 4']);
    const kept = own.procedure?.steps.flatMap((step) => (step.kind === 'request' ? [step.keeps] : []));
    expect(kept).toEqual(['b 1', 'b 2', 'b 3', 'b 4']);
  });

  it('a repeat that may end early looks before each time, and leaves out all that is left of it', () => {
    const own = compiled(
      { id: 'a', kind: 'hold', s: 1 },
      {
        id: 'c',
        kind: 'repeat',
        from: 'a',
        times: 3,
        forS: 5,
        untilWhat: { role: 'fault-code' },
        untilBit: 2,
        untilIs: true,
      },
      { id: 'z', kind: 'hold', s: 2 },
    );
    expect(own.steps.map(({ step, from }) => `${step.id} ${from}`)).toEqual(['a 0', 'c 1', 'a 3', 'c 4', 'a 6', 'z 7']);
    expect(own.steps[1]?.text).toBe(
      'again from a, until it was done 3 times, or 5 s are over, or bit 2 of 6.01 fault code is 1',
    );
    expect(
      own.procedure?.steps.map((step) =>
        step.kind === 'pause' ? step.leaves : step.kind === 'watch' ? step.leavesTo : null,
      ),
    ).toEqual([
      undefined,
      { since: 0, us: 5_000_000, to: 7 },
      7,
      undefined,
      { since: 0, us: 5_000_000, to: 7 },
      7,
      undefined,
      undefined,
    ]);
    expect(
      compiled(
        { id: 'a', kind: 'hold', s: 1 },
        { id: 'c', kind: 'repeat', from: 'a', times: 3, untilWhat: { number: '99.99' } },
      ).why,
    ).toMatch(/has no 99\.99/);
  });

  it('a question may wait for its answer where nothing after it sets a shaft in motion', () => {
    const ask = (id: string): TrialStep => ({ id, kind: 'ask', question: 'Is it free?', good: ['yes'], bad: ['no'] });
    const own = compiled(
      ask('before'),
      { id: 'go', kind: 'reference', to: '10 %' },
      ask('turning'),
      { id: 'stop', kind: 'stop' },
      ask('after'),
    );
    expect(own.procedure?.steps.flatMap((step) => (step.kind === 'person' ? [step.mayWait] : []))).toEqual([
      undefined,
      true,
      true,
    ]);
  });

  it('says from which step on the shaft may turn, and where it does not any more', () => {
    const stops = compileTrial(
      SHIPPED_TRIALS.find(({ id }) => id === 'stops')!,
      WAY,
    );
    expect(stops.steps.map(({ turns }) => turns)).toEqual([
      false,
      false,
      true,
      true,
      true,
      false,
      true,
      true,
      true,
      true,
    ]);
  });
});

it('what was done by hand becomes a trial: what was written, what was read, nothing that the bench did by itself', () => {
  const entry = (part: Partial<TraceEntry>): TraceEntry => ({
    session: 's',
    sequence: 0,
    line: 'k',
    station: 3,
    atUs: 0,
    direction: 'sent',
    bytes: new Uint8Array(0),
    lineFaults: [],
    exchange: 1,
    outcome: 'none',
    cause: 'Words, by hand',
    ...part,
  });
  const answered = (request: string, reply: string, exchange: number, cause = 'Words, by hand') => [
    entry({ bytes: rtu(request), exchange, cause }),
    entry({ bytes: rtu(reply), exchange, cause, direction: 'received', outcome: 'answered' }),
  ];
  const entries = [
    ...answered('03 06 02C3 0F45', '03 06 02C3 0F45', 1),
    ...answered('03 03 0181 0001', '03 03 02 0000', 2, 'poll'),
    ...answered('03 03 02C2 0001', '03 03 02 003E', 3, 'Frames'),
  ];
  const steps = stepsOfExchanges(TERN, WAY.places, entries, 'k', 3, 10);
  expect(steps.map(({ id: _, ...step }) => step)).toEqual([
    { kind: 'write', what: { role: 'speed-reference' }, to: '0x0F45' },
    { kind: 'read', what: { role: 'ramp-time' } },
  ]);
  expect(compileTrial(trialOfSteps(steps, 'own', 'Own')!, WAY).why).toBe('');
  expect(stepsOfExchanges(TERN, WAY.places, entries, 'k', 4, 10)).toEqual([]);
  expect(trialOfSteps([], 'own', 'Own')).toBeNull();
});
