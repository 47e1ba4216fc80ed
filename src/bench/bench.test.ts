import { batchOf } from '../../tests/harness/batch';
import { ternIndex } from '../../tests/harness/sheets';
import { rtu } from '../../tests/harness/line';
import { RTU } from '../core/modbus/framing';
import type { TraceEntry } from '../core/trace/entry';
import type { ExchangeOutcome, ExchangeResult } from '../link/request';
import { FIRST_STATE, takeBatch, TRACE_WINDOW, viewOf } from './state/bench-state';
import { createDrafts } from './state/drafts';
import { knownState, liveOf } from './state/known-state';
import { lineLoad } from './state/line-load';
import { changedPlans, whyKeptOpen } from './jobs/line-plans';
import { withLine, withStation, type Job } from '../core/job/job';
import { shelfOf } from '../core/sheet/shelf';
import { demoJob, shippedSheets } from '../../tests/harness/shipped';
import { learnedFrom } from '../link/learned';
import { afterExchange, UNKNOWN_STATION, type StationView } from './state/live-values';
import { begin, change, changedLeaf, redo, typedOn, undo } from './state/undo';

const index = ternIndex();

const result = (
  request: string,
  reply: string | null,
  outcome: ExchangeOutcome = 'answered',
  endedUs = 1_000_000,
): ExchangeResult => ({
  request: { station: 3, bytes: rtu(request), priority: 'user', cause: 'test', ticket: 4 },
  exchange: 1,
  outcome,
  reply: reply === null ? null : rtu(reply),
  asked: RTU.read(rtu(request), 'request').message,
  said: reply === null ? null : RTU.read(rtu(reply), 'response').message,
  sentUs: 0,
  endedUs,
});
const STATUS = result('03 03 0182 0004', '03 03 08 2A0D 0000 001C 0F43');

const after = (view: StationView, finished: ExchangeResult): StationView =>
  afterExchange(view, finished, learnedFrom(finished, null), index);

describe('live values', () => {
  it('come from certain answers only', () => {
    const view = after(UNKNOWN_STATION, STATUS);
    expect(liveOf(index, view, 'actual-speed')).toEqual({ word: 3907, atUs: 1_000_000 });
    const unsure = after(view, {
      ...result('03 03 0182 0004', '03 03 08 0000 0000 0000 0000', 'may-be-late'),
      endedUs: 2_000_000,
    });
    expect(liveOf(index, unsure, 'actual-speed')?.word).toBe(3907);
    expect(unsure.misses).toBe(1);
  });

  it('know the last other word, however long ago it was read', () => {
    const statusAt = (word: string, endedUs: number): ExchangeResult =>
      result('03 03 0182 0001', `03 03 02 ${word}`, 'answered', endedUs);
    let view = after(UNKNOWN_STATION, statusAt('2201', 1));
    expect(liveOf(index, view, 'status-word')).toEqual({ word: 0x2201, atUs: 1, change: undefined });
    view = after(view, statusAt('2A0D', 2));
    // Bit 15 of this sheet is a heartbeat.
    for (let atUs = 3; atUs < 2000; atUs++) view = after(view, statusAt(atUs % 2 === 0 ? '2A0D' : 'AA0D', atUs));
    expect(liveOf(index, view, 'status-word')).toEqual({
      word: 0xaa0d,
      atUs: 1999,
      change: { from: 0x2201, seenUs: 2 },
    });
  });

  it('take a confirmed write as what the register holds', () => {
    expect(
      liveOf(index, after(UNKNOWN_STATION, result('03 06 02C3 0F45', '03 06 02C3 0F45')), 'speed-reference')?.word,
    ).toBe(3909);
    expect(after(UNKNOWN_STATION, result('03 06 02C3 0F45', '03 86 03', 'exception')).values.size).toBe(0);
  });

  it('grey out and say so after two misses, or when they are old', () => {
    let view = after(UNKNOWN_STATION, STATUS);
    expect(knownState(index, view, 1_500_000)).toEqual({
      text: 'in remote, running forward, 17.489 Hz',
      ageUs: 500_000,
      stale: false,
    });
    expect(knownState(index, view, 60_000_000).stale).toBe(true);
    for (let i = 0; i < 2; i++) view = after(view, result('03 03 0182 0004', null, 'timeout'));
    expect(knownState(index, view, 1_500_000)).toMatchObject({
      text: 'no answer for 2 tries; was in remote, running forward, 17.489 Hz',
      stale: true,
    });
  });

  it('are unknown before anything was asked', () => {
    expect(knownState(index, UNKNOWN_STATION, 0).text).toBe('not asked yet');
  });
});

describe('the bench’s state', () => {
  const entry = (sequence: number, part: Partial<TraceEntry> = {}): TraceEntry => ({
    session: 's',
    sequence,
    line: 'K1',
    station: 3,
    atUs: sequence * 1000,
    direction: 'sent',
    bytes: new Uint8Array(8),
    lineFaults: [],
    exchange: sequence,
    outcome: 'none',
    cause: 'poll',
    ...part,
  });

  it('takes batches: views, results by ticket, and no more entries than its window', () => {
    const many = Array.from({ length: TRACE_WINDOW + 10 }, (_, i) => entry(i));
    const state = takeBatch(
      { ...FIRST_STATE, lineId: 'K1', station: 3 },
      batchOf({ entries: many, exchanges: [{ line: 'K1', result: STATUS, learned: learnedFrom(STATUS, null) }] }),
    );
    expect(state.entries).toHaveLength(TRACE_WINDOW);
    expect(state.entries[0]?.sequence).toBe(10);
    expect(viewOf(state).values.size).toBe(4);
    expect(state.results.get(4)).toBe(STATUS);
  });

  it('a batch that can keep the trace says nothing of what the page could not read', () => {
    const state = takeBatch({ ...FIRST_STATE, readTrouble: 'refused' }, batchOf({ keepTrouble: '' }));
    expect([state.readTrouble, state.keepTrouble]).toEqual(['refused', '']);
  });

  it('leaves what a batch does not speak of as the same object', () => {
    const state = takeBatch(FIRST_STATE, batchOf({ nowUs: 5 }));
    expect([
      state.views === FIRST_STATE.views,
      state.entries === FIRST_STATE.entries,
      state.lines === FIRST_STATE.lines,
    ]).toEqual([true, true, true]);
  });

  it('measures the line’s load over two seconds', () => {
    const settings = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } as const;
    const entries = Array.from({ length: 100 }, (_, i) =>
      entry(i, { atUs: i * 40_000, outcome: i === 99 ? 'timeout' : 'none' }),
    );
    const load = lineLoad(entries, 'K1', 's', settings, 4_000_000);
    expect(load.exchangesPerS).toBe(25);
    expect(load.faults).toBe(1);
    expect(load.share).toBeCloseTo((50 * 8 * 572.9) / 2_000_000, 2);
  });
});

describe('undo', () => {
  it.each([
    ['a text', { a: { b: 'x' } }, { a: { b: 'xy' } }, '.a.b'],
    ['a text in a list', { a: ['x', 'y'] }, { a: ['x', 'yz'] }, '.a.1'],
    ['two texts', { a: 'x', b: 'y' }, { a: 'xx', b: 'yy' }, null],
    ['another row', { a: ['x'] }, { a: ['x', 'y'] }, null],
    ['another key', { a: 1 }, { b: 1 }, null],
    ['nothing', { a: 1 }, { a: 1 }, null],
    ['a text that comes', { a: 'x' }, { a: 'x', b: 'y' }, null],
  ])('the leaf that is typed: %s', (_, before, after, leaf) => {
    expect(changedLeaf(before, after)).toBe(leaf);
  });

  it('letters typed into one field are one step, another field is the next', () => {
    const typed = [
      { verb: 'S', name: '' },
      { verb: 'SP', name: '' },
      { verb: 'SPD', name: '' },
      { verb: 'SPD', name: 'v' },
      { verb: 'SPD', name: 'velocity' },
    ].reduce(typedOn, begin({ verb: '', name: '' }));
    expect(typed.past).toEqual([
      { verb: '', name: '' },
      { verb: 'SPD', name: '' },
    ]);
    // After a step back typing begins a step of its own.
    const back = undo(typed);
    expect(typedOn(back, { verb: 'SPDX', name: '' }).past).toEqual([...back.past, back.present]);
  });

  it('goes back and forth, and a new change forgets the future', () => {
    const typed = change(change(begin('a'), 'ab'), 'abc');
    expect(undo(typed).present).toBe('ab');
    expect(redo(undo(typed)).present).toBe('abc');
    expect(undo(undo(undo(undo(typed)))).present).toBe('a');
    expect(redo(change(undo(typed), 'x')).present).toBe('x');
  });

  it('drafts of frames live per station and outlast a view', () => {
    const drafts = createDrafts();
    drafts.getState().startFrame('K1 3', Uint8Array.of(1));
    drafts.getState().editFrame('K1 3', Uint8Array.of(2));
    drafts.getState().startFrame('K1 3', Uint8Array.of(9));
    expect(drafts.getState().frames.get('K1 3')?.present).toEqual(Uint8Array.of(2));
    drafts.getState().undoFrame('K1 3');
    expect(drafts.getState().frames.get('K1 3')?.present).toEqual(Uint8Array.of(1));
  });

  it('after Stop no composed word waits', () => {
    const drafts = createDrafts();
    drafts.getState().setWord('K1 3', 13);
    drafts.getState().clearWords();
    expect(drafts.getState().words.size).toBe(0);
  });
});

it('no change closes a line on which a drive is in motion', () => {
  const lines = new Map([
    ['K1', { driven: [3] }],
    ['K2', { driven: [] }],
  ]);
  expect(whyKeptOpen({ job: null, lines }, ['K2', 'new'])).toBe('');
  expect(whyKeptOpen({ job: null, lines }, ['K1', 'K2'])).toBe(
    'Not done: it would close K1, on which this bench set a drive in motion. Press Stop first, or close the line.',
  );
});

describe('lines that a change builds anew', () => {
  const job = demoJob();
  const sheets = shelfOf(shippedSheets());
  const here = { job, sheets };
  const after = (change: (own: Job) => Job) => {
    const { plans, gone } = changedPlans(here, { job: change(job), sheets });
    return { plans: plans.map(({ id }) => id), gone };
  };
  const [first] = job.lines;
  const id = first!.id;

  it.each<[string, (own: Job) => Job, readonly string[]]>([
    ['a name', (own) => ({ ...own, name: 'other' }), []],
    ['a kept frame', (own) => ({ ...own, frames: [] }), []],
    ['a copy that says the same', (own) => structuredClone(own), []],
    ['a line’s name', (own) => withLine(own, id, (line) => ({ ...line, name: 'other' })), []],
    [
      'this end’s rate',
      (own) => withLine(own, id, (line) => ({ ...line, serial: { ...line.serial!, rate: 9600 } })),
      [],
    ],
    ['echo', (own) => withLine(own, id, (line) => ({ ...line, echo: true })), []],
    ['a station less', (own) => withLine(own, id, (line) => ({ ...line, stations: line.stations.slice(1) })), [id]],
    ['another sheet', (own) => withStation(own, id, 3, ({ sheet: _, ...station }) => station), [id]],
    ['what is spoken', (own) => withLine(own, id, (line) => ({ ...line, protocol: 'modbus-ascii' })), [id]],
    [
      'a stand-in’s setting',
      (own) => withStation(own, id, 3, (station) => ({ ...station, standin: { parameters: { '1.01': 7 } } })),
      [id],
    ],
  ])('%s', (_, change, plans) => {
    expect(after(change)).toEqual({ plans, gone: [] });
  });

  it('a line that goes, one that comes, and every line of a sheet that was kept anew', () => {
    expect(after((own) => ({ ...own, lines: own.lines.slice(1) }))).toEqual({ plans: [], gone: [id] });
    const fresh = { ...structuredClone(first!), id: 'new' };
    expect(after((own) => ({ ...own, lines: [...own.lines, fresh] }))).toEqual({ plans: ['new'], gone: [] });
    const tern = sheets.get('tern')!;
    const newer = shelfOf([{ ...tern.sheet, revision: tern.sheet.revision + 1 }], sheets);
    // A station goes by the revision that it pins, whatever comes later.
    expect(changedPlans(here, { job, sheets: newer }).plans).toEqual([]);
    const kept = shelfOf([{ ...tern.sheet }], sheets);
    const users = job.lines.filter(
      ({ far, stations }) => far !== 'not-built' && stations.some(({ sheet }) => sheet?.slug === 'tern'),
    );
    expect(changedPlans(here, { job, sheets: kept }).plans.map((plan) => plan.id)).toEqual(
      users.map((line) => line.id),
    );
  });
});
