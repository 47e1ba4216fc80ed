import { framingOf } from '../modbus/framing';
import { shippedIndex } from '../../../tests/harness/standin-line';
import { registerLink } from '../places/register-link';
import type { RunState, StepRecord } from '../procedure/run-state';
import { beginRun, endRun } from '../procedure/run-state';
import { compileTrial, type CompiledTrial } from './compile';
import { measured } from './measure';
import { reportOf } from './report';
import { csvOfReport } from './trial-csv';
import type { Measure, Trial, TrialStep } from './trial';

const TERN = shippedIndex('tern');
const compiled = (steps: readonly TrialStep[], measures: readonly Measure[] = []): CompiledTrial => {
  const trial: Trial = {
    format: 1,
    id: 'own',
    name: 'Own',
    proves: 'a',
    leaves: 'b',
    steps: [...steps],
    measures: [...measures],
  };
  return compileTrial(trial, {
    index: TERN,
    places: registerLink(TERN, framingOf('modbus-rtu')),
    station: 3,
    name: 'fan',
    here: ['ready'],
    known: () => undefined,
  });
};
/** A run with a record for each request, wait and answer; times in milliseconds. */
const ran = (
  { procedure }: CompiledTrial,
  records: readonly (Partial<StepRecord> & { readonly ms: readonly [from: number, to: number] })[],
  kept: RunState['kept'] = {},
): RunState => ({
  ...endRun(beginRun(procedure!, 'run', 0), 'done', ''),
  at: procedure!.steps.length,
  kept,
  records: records.map(({ ms: [from, to], ...record }, step) => ({
    step,
    good: true,
    seen: null,
    notYetUs: null,
    exchange: step + 1,
    said: '',
    fromUs: from * 1000,
    toUs: to * 1000,
    ...record,
  })),
});
const wordAt = (number: string, word: number): RunState['kept'][string] => [
  [TERN.byNumber.get(number)!.cells[0]!, word],
];

const SENT: TrialStep = { id: 'sent', kind: 'reference', to: '25 %' };
const CAME: TrialStep = {
  id: 'came',
  kind: 'wait',
  what: { role: 'actual-speed' },
  from: '20 %',
  to: null,
  withinS: 10,
};
const READ: TrialStep = { id: 'ramp', kind: 'read', what: { role: 'ramp-time' } };

describe('a time', () => {
  const time = (should?: Extract<Measure, { kind: 'time' }>['should']): Measure => ({
    kind: 'time',
    name: 'took',
    from: 'sent',
    to: 'came',
    ...(should ? { should } : {}),
  });
  const own = compiled([READ, SENT, CAME]);
  // Sent between 100 and 120 ms; not yet at 1000 ms, there at 1040 ms: so it took 0.88 to 0.94 s.
  const run = ran(own, [{ ms: [0, 100] }, { ms: [100, 120] }, { ms: [120, 1040], notYetUs: 1_000_000, seen: 1 }], {
    'ramp 1': wordAt('11.02', 10),
  });

  it('lies between what is surely before and surely after', () => {
    expect(measured(TERN, own, run, time())).toMatchObject({ text: '0.91 s, known to ± 0.030 s', verdict: 'passed' });
  });

  it.each([
    [0, 1, 'passed'],
    [0.88, 0.94, 'passed'],
    [0, 0.87, 'failed'],
    [0.95, 2, 'failed'],
    [0, 0.9, 'open'],
    [0.9, 2, 'open'],
  ])('between %d and %d s is wanted: %s', (leastS, mostS, verdict) => {
    expect(measured(TERN, own, run, time({ leastS, mostS }))).toMatchObject({ verdict });
  });

  it.each([
    // The ramp that was read is 1.0 s.
    ['1', '0.2', 'passed', '0.80 to 1.20 s'],
    ['1/2', '0.1', 'failed', '0.45 to 0.55 s'],
    ['1', '0.1', 'open', '0.90 to 1.10 s'],
  ])('%s of what was read, give or take %s: %s', (share, give, verdict, should) => {
    expect(measured(TERN, own, run, time({ read: 'ramp', share, give }))).toMatchObject({ verdict, should });
  });

  it('that nobody saw begin may have been over at once, and says so', () => {
    const atOnce = ran(own, [{ ms: [0, 100] }, { ms: [100, 120] }, { ms: [120, 1040] }], {});
    expect(measured(TERN, own, atOnce, time())).toMatchObject({
      text: expect.stringMatching(/^at most 0\.94 s/) as string,
    });
    expect(measured(TERN, own, atOnce, time({ read: 'ramp', share: '1', give: '0.1' }))).toMatchObject({
      verdict: 'open',
      should: 'what it should be was not read',
    });
  });

  it('of which nobody saw the beginning is known downwards only, and can still be too long', () => {
    const waits = compiled([
      { ...CAME, id: 'begins' },
      { ...CAME, id: 'ends', from: '40 %' },
    ]);
    const measure = (mostS: number): Measure => ({
      kind: 'time',
      name: 'took',
      from: 'begins',
      to: 'ends',
      should: { leastS: 0, mostS },
    });
    const late = ran(waits, [{ ms: [0, 40] }, { ms: [40, 1040], notYetUs: 1_000_000 }]);
    expect(measured(TERN, waits, late, measure(2))).toMatchObject({
      text: 'at least 0.96 s: its beginning was not seen',
      verdict: 'open',
    });
    expect(measured(TERN, waits, late, measure(0.9)).verdict).toBe('failed');
    const atOnce = ran(waits, [{ ms: [0, 40] }, { ms: [40, 60] }]);
    expect(measured(TERN, waits, atOnce, measure(2))).toMatchObject({
      text: 'it was so already when it was looked at first',
      verdict: 'open',
    });
  });

  it('of a step that failed or was not reached is not measured', () => {
    const failed = ran(own, [{ ms: [0, 100] }, { ms: [100, 120] }, { ms: [120, 1040], good: false }]);
    expect(measured(TERN, own, failed, time()).verdict).toBe('not-done');
    expect(measured(TERN, own, ran(own, [{ ms: [0, 100] }]), time()).verdict).toBe('not-done');
  });
});

it('two reads are the same, or say both', () => {
  const again: TrialStep = { ...READ, id: 'after' };
  const own = compiled([READ, again]);
  const same: Measure = { kind: 'same', name: 'ramp', a: 'ramp', b: 'after' };
  const records = [{ ms: [0, 1] }, { ms: [1, 2] }] as const;
  const of = (a: number, b: number) =>
    measured(TERN, own, ran(own, records, { 'ramp 1': wordAt('11.02', a), 'after 1': wordAt('11.02', b) }), same);
  expect(of(62, 62)).toMatchObject({ verdict: 'passed', text: '6.2 s' });
  expect(of(62, 63)).toMatchObject({ verdict: 'failed', text: '6.2 before, 6.3 s' });
  expect(measured(TERN, own, ran(own, records), same).verdict).toBe('not-done');
});

it('numbers of a repeated question have a mean and a spread', () => {
  const asked: TrialStep = { id: 'place', kind: 'ask-number', question: 'where?', unit: 'mm', least: null, most: null };
  const own = compiled([asked, { id: 'again', kind: 'repeat', from: 'place', times: 3 }]);
  const spread: Measure = { kind: 'spread', name: 'place', seen: 'place' };
  const run = ran(
    own,
    ['10.02', '10.05', '9.98'].map((said, i) => ({ ms: [i, i + 1] as const, said })),
  );
  expect(measured(TERN, own, run, spread).text).toBe('mean 10.016667 mm, 3 values within 0.07 mm');
  expect(measured(TERN, own, ran(own, [{ ms: [0, 1], said: '1' }]), spread).verdict).toBe('not-done');
});

it('a line needs all its points, in the unit that it is in', () => {
  const own = compiled([
    { ...SENT, id: 'a' },
    { id: 'x', kind: 'ask-number', question: '?', unit: 'rpm', least: null, most: null },
    { ...SENT, id: 'b', to: '50 %' },
    { id: 'y', kind: 'ask-number', question: '?', unit: 'rpm', least: null, most: null },
  ]);
  const line = (unit: string): Measure => ({
    kind: 'line',
    name: 'scale',
    unit,
    points: [
      { asked: 'a', seen: 'x' },
      { asked: 'b', seen: 'y' },
    ],
  });
  // Four poles: 55 Hz are 1650 rpm, so 25 % are 412.5 and 50 % are 825.
  const run = ran(own, [{ ms: [0, 1] }, { ms: [1, 2], said: '400' }, { ms: [2, 3] }, { ms: [3, 4], said: '812.5' }]);
  expect(measured(TERN, own, run, line('rpm')).text).toBe(
    '1.0000 × asked − 12.50 rpm; the furthest point lies 0.00 rpm off',
  );
  expect(measured(TERN, own, run, line('')).text).toBe('0 of 2 points are there');
  expect(measured(TERN, own, run, line('m/s')).text).toBe('the reference is in Hz, not in m/s');
});

it('a report goes out as rows that a spreadsheet opens, with nothing in them that it would run', () => {
  const own = compiled([READ, SENT, CAME], [{ kind: 'time', name: '=cmd', from: 'sent', to: 'came' }]);
  const run = ran(own, [{ ms: [0, 100] }, { ms: [100, 120] }, { ms: [120, 1040], notYetUs: 1_000_000, seen: 1000 }], {
    'ramp 1': wordAt('11.02', 62),
  });
  const rows = csvOfReport(reportOf(TERN, own, run)).split('\r\n');
  expect(rows[1]).toMatch(/^1,read 11\.02 ramp time,passed,/);
  expect(rows[1]).toContain('6.2 s');
  expect(rows[5]).toBe('measured,value,verdict,should be');
  expect(rows[6]).toMatch(/^'=cmd,/);
});

it('a run that was cut says at which step, and what is not reached is not done', () => {
  const own = compiled([READ, SENT, CAME]);
  const begun = beginRun(own.procedure!, 'run', 0);
  const cut = {
    ...endRun({ ...begun, at: 1 }, 'reload', 'this page was reloaded'),
    records: ran(own, [{ ms: [0, 1] }]).records,
  };
  const { steps, verdict } = reportOf(TERN, own, cut);
  expect(steps.map((step) => [step.verdict, step.why])).toEqual([
    ['passed', ''],
    ['not-done', 'this page was reloaded'],
    ['not-done', ''],
  ]);
  expect(verdict).toBe('not-done');
  expect(reportOf(TERN, own, null).steps.every((step) => step.verdict === 'not-done')).toBe(true);
});
