import { indexSheet } from '../sheet/index-sheet';
import { emptySheet } from '../sheet/empty-sheet';
import type { IfNot, Procedure, ProcedureStep } from './procedure';
import { beginRun, endRun, type RunState } from './run-state';
import {
  afterAct,
  afterPerson,
  afterPostponed,
  answeredLater,
  afterReport,
  pauseRun,
  resumeRun,
  retryRun,
  wants,
  type ExchangeReport,
} from './run';

const INDEX = indexSheet({
  ...emptySheet('own', 'Own'),
  parameters: [
    {
      number: '1',
      name: 'speed',
      type: 'int16',
      at: [{ kind: 'register', table: 'holding-register', address: 1 }],
    },
  ],
});
const SPEED = INDEX.byNumber.get('1')!;
const BYTES = Uint8Array.of(1, 3);

const trial = (...steps: readonly ProcedureStep[]): Procedure => ({
  kind: 'trial',
  title: 'a trial',
  station: 3,
  steps,
  rounds: 1,
  standsStill: false,
});
const watch = (
  least: number,
  most: number,
  more: { readonly ifNot?: IfNot; readonly withinUs?: number } = {},
): ProcedureStep => ({
  kind: 'watch',
  text: 'the speed is right',
  station: 3,
  bytes: BYTES,
  everyUs: 100,
  withinUs: 1000,
  until: { place: SPEED, any: [], range: { type: 'int16', least, most } },
  overdue: 'it should be right',
  names: [],
  hints: [],
  width: 16,
  ...more,
});
const request = (ifNot?: IfNot): ProcedureStep => ({
  kind: 'request',
  text: 'the word',
  station: 3,
  bytes: BYTES,
  needs: 'answer',
  ...(ifNot ? { ifNot } : {}),
});
const HOLD: ProcedureStep = { kind: 'pause', text: 'wait', us: 500 };

const report = (endedUs: number, word?: number, outcome: ExchangeReport['outcome'] = 'answered'): ExchangeReport => ({
  outcome,
  refusal: outcome === 'refused' ? 'not now' : '',
  words: word === undefined ? [] : [[SPEED.cells[0]!, word & 0xffff]],
  exchange: endedUs,
  sentUs: endedUs - 20,
  endedUs,
});
const after = (procedure: Procedure, ...reports: readonly ExchangeReport[]): RunState =>
  reports.reduce((run, one) => afterReport(procedure, run, one), beginRun(procedure, 'run', 0));

describe('a watch over a number', () => {
  const procedure = trial(watch(-20, -10), HOLD);

  it('is met by a number with its sign, and remembers when it was last not so', () => {
    const run = after(procedure, report(100, 0), report(200, -9), report(300, -15));
    expect(run.at).toBe(1);
    expect(run.records[0]).toMatchObject({ good: true, seen: 0xfff1, notYetUs: 180, toUs: 300 });
  });

  it('knows of no time before it where it was so at once', () => {
    expect(after(procedure, report(100, -15)).records[0]?.notYetUs).toBeNull();
  });

  it('does not count a look that told nothing', () => {
    const run = after(procedure, report(100, 0), report(200, undefined, 'silent'), report(300, -10));
    expect(run.records[0]).toMatchObject({ notYetUs: 80, toUs: 300 });
  });

  it('begins anew with the next step', () => {
    const twice = trial(watch(0, 5), watch(10, 15));
    const run = after(twice, report(100, 90), report(200, 3), report(300, 12));
    expect(run.records.map(({ notYetUs }) => notYetUs)).toEqual([80, null]);
    expect(run.end).toBe('done');
  });
});

describe.each<[string, Procedure, readonly ExchangeReport[], string]>([
  [
    'a request that is refused',
    trial(request('ask'), HOLD),
    [report(100, 0, 'refused')],
    'the word: the drive refused it: not now',
  ],
  [
    'a request without an answer',
    trial(request('ask'), HOLD),
    [report(100, 0, 'silent')],
    'the word: no sure answer came',
  ],
  [
    'a value that does not come',
    trial(watch(5, 6, { ifNot: 'ask' }), HOLD),
    [report(600, 0), report(1200, 0)],
    'it should be right, but it did not come within 0.001 s',
  ],
])('%s', (_, procedure, reports, why) => {
  const withIfNot = (ifNot: IfNot): Procedure => ({
    ...procedure,
    steps: procedure.steps.map((step, i) => (i === 0 ? { ...step, ifNot } : step)),
  });

  it('ends the run where nothing else is said', () => {
    expect(after(withIfNot('end'), ...reports)).toMatchObject({ phase: 'over', end: 'surprise', why });
  });

  it('is noted, and the run goes on', () => {
    const run = after(withIfNot('go-on'), ...reports);
    expect(run).toMatchObject({ phase: 'running', at: 1 });
    expect(run.records[0]).toMatchObject({ good: false, said: expect.stringMatching(/./) as string });
  });

  it('waits for a person, and wants nothing of the line meanwhile', () => {
    const run = after(procedure, ...reports);
    expect(run).toMatchObject({ phase: 'paused', asks: why, at: 0, records: [] });
    expect(wants(procedure, run, 1e9)).toEqual({ kind: 'nothing' });
  });

  it('is done again on purpose, with all its time', () => {
    const again = retryRun(procedure, after(procedure, ...reports), 5000);
    expect(again).toMatchObject({ phase: 'running', asks: '', at: 0, sinceUs: 5000, seen: null, notYetUs: null });
    expect(wants(procedure, again, 5000)).toMatchObject({ kind: 'request', station: 3 });
  });

  it('stays noted as failed where a person lets it go on', () => {
    const on = resumeRun(procedure, after(procedure, ...reports), 5000);
    expect(on).toMatchObject({ phase: 'running', asks: '', at: 1, sinceUs: 5000 });
    expect(on.records[0]).toMatchObject({ good: false, said: why, toUs: 5000 });
  });
});

it('a pause of a person’s own goes on where it was, and is not done again', () => {
  const procedure = trial(watch(5, 6), HOLD);
  const paused = pauseRun(after(procedure, report(100, 0)));
  expect(retryRun(procedure, paused, 500)).toBe(paused);
  expect(resumeRun(procedure, paused, 500)).toMatchObject({ phase: 'running', at: 0, records: [] });
});

describe('a person', () => {
  const asks = (more: Partial<Extract<ProcedureStep, { kind: 'person' }>>): Procedure =>
    trial({ kind: 'person', text: 'looks', question: 'What is it?', choices: [], ...more }, HOLD);
  const said = (procedure: Procedure, text: string): RunState =>
    afterPerson(procedure, beginRun(procedure, 'run', 0), text, 900);

  it.each([
    ['100', 100, 200, true],
    ['200', 100, 200, true],
    ['99.9', 100, 200, false],
    ['-3', null, 0, true],
    ['1e3', 100, null, true],
  ])('who says %s between %p and %p: %p', (text, least, most, good) => {
    const run = said(asks({ number: { unit: 'rpm', least, most } }), text);
    expect(run.records[0]).toMatchObject({ good, said: text });
    expect(run.phase).toBe(good ? 'running' : 'over');
  });

  it.each(['', ' ', 'fast', 'NaN', 'Infinity'])('who says %j instead of a number is asked on', (text) => {
    expect(said(asks({ number: { unit: '', least: null, most: null } }), text)).toMatchObject({ at: 0, records: [] });
  });

  it('may put an answer off only where the question says so, and gives it when the run is over', () => {
    const number = { unit: 'rpm', least: 100, most: 200 };
    const firm = asks({ number });
    expect(afterPostponed(firm, beginRun(firm, 'run', 0), 900).at).toBe(0);
    const procedure = asks({ number, mayWait: true });
    const over = afterAct(procedure, afterPostponed(procedure, beginRun(procedure, 'run', 0), 900), 2000);
    expect(over).toMatchObject({ phase: 'over', end: 'done' });
    expect(over.records[0]).toMatchObject({ good: true, said: '', waits: true });
    expect(answeredLater(procedure, over, 0, 'fast')).toBe(over);
    expect(answeredLater(procedure, over, 1, '150')).toBe(over);
    for (const [text, good] of [
      ['150', true],
      ['99', false],
    ] as const) {
      const told = answeredLater(procedure, over, 0, text);
      expect(told.records[0]).toMatchObject({ good, said: text, waits: false });
      // It is given once.
      expect(answeredLater(procedure, told, 0, '101')).toBe(told);
    }
  });

  it('whose answer is not one of those that can be given is asked on', () => {
    const procedure = asks({ choices: [{ name: 'yes', goesOn: true }] });
    expect(said(procedure, 'no').at).toBe(0);
    expect(said(procedure, 'yes').at).toBe(1);
  });
});

it('a word that is withheld is an act of its own, and the step after it begins with its end', () => {
  const procedure = trial({ kind: 'withhold', text: 'no more', station: 3 }, { ...HOLD, silent: true });
  const begun = beginRun(procedure, 'run', 0);
  expect(wants(procedure, begun, 0)).toEqual({ kind: 'withhold', station: 3 });
  const next = afterAct(procedure, begun, 70);
  expect(next).toMatchObject({ at: 1, sinceUs: 70 });
  expect(wants(procedure, next, 70)).toEqual({ kind: 'wait', untilUs: 570 });
});

it('what is over stays over', () => {
  const procedure = trial(watch(5, 6), HOLD);
  const over = endRun(after(procedure, report(100, 0)), 'stop', 'Stop was pressed');
  expect(afterReport(procedure, over, report(200, 5))).toBe(over);
  expect(resumeRun(procedure, over, 300)).toBe(over);
  expect(retryRun(procedure, over, 300)).toBe(over);
  expect(endRun(over, 'done', '')).toBe(over);
});

describe('steps that are one act', () => {
  const act = { from: 0, to: 3 };
  const one = (step: ProcedureStep, ifNot: IfNot): ProcedureStep => ({ ...step, act, ifNot });
  const walk = (ifNot: IfNot): Procedure =>
    trial(one(request(), ifNot), one(watch(5, 6), ifNot), one(request(), ifNot), watch(0, 9));

  it('are left out from where one did not come: no further word of a way goes out', () => {
    const run = after(walk('go-on'), report(100), report(2000, 0));
    expect(run).toMatchObject({ phase: 'running', at: 3 });
    expect(run.records.map(({ step, good }) => [step, good])).toEqual([
      [0, true],
      [1, false],
    ]);
  });

  it('are done again from the first, and what was noted of them before goes', () => {
    const asks = after(walk('ask'), report(100), report(2000, 0));
    expect(asks).toMatchObject({ phase: 'paused', at: 1 });
    expect(retryRun(walk('ask'), asks, 3000)).toMatchObject({ phase: 'running', at: 0, records: [], sinceUs: 3000 });
    expect(resumeRun(walk('ask'), asks, 3000)).toMatchObject({ phase: 'running', at: 3 });
  });

  it('end the run where they are its last', () => {
    const last = trial(one(request(), 'go-on'), one(watch(5, 6), 'go-on'), one(request(), 'go-on'));
    expect(after(last, report(100, 0, 'refused'))).toMatchObject({ phase: 'over', end: 'done' });
  });
});

it('a silence that was paused begins anew: the station was spoken to meanwhile', () => {
  const procedure = trial({ ...HOLD, silent: true }, HOLD);
  const resumed = resumeRun(procedure, pauseRun(beginRun(procedure, 'run', 0)), 450);
  expect(resumed.dueUs).toBe(950);
  const plain = trial(HOLD, HOLD);
  expect(resumeRun(plain, pauseRun(beginRun(plain, 'run', 0)), 450).dueUs).toBe(500);
});

it('waits before the steps at which it stops, and the time of the wait does not count', () => {
  const procedure: Procedure = { ...trial(request(), request(), HOLD), stopsAt: [1] };
  const waits = after(procedure, report(100));
  expect(waits).toMatchObject({ phase: 'paused', at: 1, asks: '' });
  expect(wants(procedure, waits, 9000)).toEqual({ kind: 'nothing' });
  const on = resumeRun(procedure, waits, 9000);
  expect(on).toMatchObject({ phase: 'running', at: 1, sinceUs: 9000 });
  expect(afterReport(procedure, on, report(9100))).toMatchObject({ phase: 'running', at: 2 });
});
