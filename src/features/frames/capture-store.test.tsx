import type { FramesAnswer, FramesQuestion } from '../../messages/frames';
import { NO_FILTER } from './capture-filter';
import { createCaptureStore } from './capture-store';

/** The frames worker as the store sees it. */
function fakeWorker() {
  const asked: FramesQuestion[] = [];
  let heard: (answer: FramesAnswer) => void = () => undefined;
  const saved: string[] = [];
  const store = createCaptureStore(
    {
      ask: (question) => void asked.push(question),
      listen: (listener) => {
        heard = listener;
        return () => undefined;
      },
    },
    (_, name) => void saved.push(name),
  );
  return { asked, saved, store, say: (answer: FramesAnswer) => heard(answer), state: () => store.getState() };
}

const FILE = new File(['0.1 > 01 03'], 'night.log');
const SAMPLE = { kind: 'sample', ask: 1, packets: false, printable: true } as const;
const none = () => undefined;

const opened = {
  kind: 'opened',
  frames: 2,
  notes: [],
  ms: 1,
  statistics: { frames: 2, junkBytes: 0, damaged: 0, spanUs: NaN, stations: [] },
} as unknown as Extract<FramesAnswer, { kind: 'opened' }>;

beforeEach(() => localStorage.clear());

it.each([
  ['a packet capture', { ...SAMPLE, packets: true, printable: false, lines: [] }, 'packets'],
  ['bytes that do not print', { ...SAMPLE, printable: false, lines: [] }, 'binary'],
  ['a dump', { ...SAMPLE, lines: ['0000: 01 03 00 00', '0010: 12 34 56 78'] }, 'hex-dump'],
  ['lines that begin with a colon', { ...SAMPLE, lines: [':010300000001FB', 'x'] }, 'binary'],
  ['a log', { ...SAMPLE, lines: ['12.5 > 01 03 00 00 00 01 84 0A'] }, 'text-log'],
] as const)('%s is told by its beginning and opened as such', (_, sample, form) => {
  const { asked, say, state, store } = fakeWorker();
  store.getState().choose(FILE, none);
  say(sample);
  expect(state().setup.form).toBe(form);
  expect(asked.map(({ kind }) => kind)).toEqual(['sample', 'open']);
});

it('an opened capture is filtered by what is typed, and the filter stays with it', () => {
  const { asked, say, state } = fakeWorker();
  say(opened);
  expect(asked).toEqual([{ kind: 'filter', number: 1, filter: {}, text: '' }]);
  const typed = { ...NO_FILTER, unit: '3', fc: '0x06', from: '1.5', only: 'faults', register: 'x', text: 'speed' };
  state().setTyped(typed);
  expect(asked[1]).toEqual({
    kind: 'filter',
    number: 2,
    filter: { unit: 3, fc: 6, fromUs: 1_500_000, only: 'faults' },
    text: 'speed',
  });
  say({ kind: 'filtered', number: 2, count: 1, looked: 2, over: true });
  expect([state().typed, state().found?.count]).toEqual([typed, 1]);
});

it('nothing is listed of an earlier filter, whether it was over or is still told of', () => {
  const { say, state } = fakeWorker();
  say(opened);
  say({ kind: 'filtered', number: 1, count: 2, looked: 2, over: true });
  state().setTyped({ ...NO_FILTER, unit: '3' });
  expect(state().found).toBeNull();
  say({ kind: 'filtered', number: 1, count: 2, looked: 2, over: true });
  expect(state().found).toBeNull();
  say({ kind: 'filtered', number: 2, count: 1, looked: 2, over: true });
  expect(state().found).toMatchObject({ count: 1, over: true });
});

it('a filter that could not read the file again says so until the next one is tried', () => {
  const { say, state } = fakeWorker();
  say(opened);
  state().setTyped({ ...NO_FILTER, unit: '3' });
  say({ kind: 'trouble', text: 'the file could not be read' });
  expect([state().found, state().trouble, state().opened]).toEqual([null, 'the file could not be read', opened]);
  state().setTyped({ ...NO_FILTER, unit: '4' });
  expect(state().trouble).toBe('');
  say({ kind: 'filtered', number: 3, count: 1, looked: 2, over: true });
  expect(state().found).toMatchObject({ count: 1 });
});

it('reading waits and goes on when it is told to; another file does not wait', () => {
  const { asked, say, state } = fakeWorker();
  state().choose(FILE, none);
  say({ ...SAMPLE, lines: ['12.5 > 01 03'] });
  say({ kind: 'progress', read: 5, size: 11 });
  state().hold(true);
  say({ kind: 'progress', read: 6, size: 11 });
  expect(state().progress).toEqual({ read: 6, size: 11, held: true });
  state().hold(false);
  state().hold(true);
  expect(asked.slice(2)).toEqual([true, false, true].map((held) => ({ kind: 'hold', held })));
  state().choose(FILE, none);
  say({ ...SAMPLE, ask: 2, lines: ['12.5 > 01 03'] });
  expect(state().progress?.held).toBe(false);
  state().hold(true);
  state().cancel();
  say({ kind: 'progress', read: 7, size: 11 });
  expect(state().progress).toBeNull();
});

it('a field that is wrong leaves what was read open; a right one reads the file anew without its filter', () => {
  const { asked, say, state } = fakeWorker();
  state().choose(FILE, none);
  say({ ...SAMPLE, lines: ['12.5 > 01 03'] });
  say(opened);
  state().setTyped({ ...NO_FILTER, unit: '3' });
  state().setSetup({ ...state().setup, ports: '99999' }, none);
  expect([state().opened, state().typed.unit]).toEqual([opened, '3']);
  state().setSetup({ ...state().setup, ports: '502 1502' }, none);
  expect([state().opened, state().typed]).toEqual([null, NO_FILTER]);
  const last = asked[asked.length - 1];
  expect(last?.kind === 'open' && last.plan.ports).toEqual([502, 1502]);
});

it('what was chosen is remembered for the next file of the kind, unless what was kept is broken', () => {
  const first = fakeWorker();
  first.state().setSetup({ ...first.state().setup, protocol: 'uss', gapMs: '7' }, none);
  const second = fakeWorker();
  second.state().choose(FILE, none);
  second.say({ ...SAMPLE, lines: ['12.5 > 01 03'] });
  expect([second.state().setup.protocol, second.state().setup.gapMs]).toEqual(['uss', '7']);
  localStorage.setItem('bujo capture mapping', '{"protocol":7}');
  const third = fakeWorker();
  third.state().choose(FILE, none);
  third.say({ ...SAMPLE, lines: ['12.5 > 01 03'] });
  expect(third.state().setup.protocol).toBe('modbus-rtu');
});

it('rows come to whom asked for them; a file is handed over; trouble ends the progress', async () => {
  const { asked, saved, say, state } = fakeWorker();
  const rows = state().rows(40, 20);
  const question = asked[0];
  say({ kind: 'rows', ask: question?.kind === 'rows' ? question.ask : -1, from: 40, rows: [] });
  expect(await rows).toEqual([]);
  say({ kind: 'file', blob: new Blob(), ending: 'csv', frames: 2 });
  expect(saved).toEqual(['capture.csv']);
  say({ kind: 'progress', read: 1, size: 2 });
  say({ kind: 'trouble', text: 'the file ended early' });
  expect([state().progress, state().trouble]).toEqual([null, 'the file ended early']);
});

it('of two files chosen one after the other the last one is opened, whichever is looked into first', () => {
  const { asked, say, state } = fakeWorker();
  const other = new File(['x'], 'other.bin');
  state().choose(FILE, none);
  state().choose(other, none);
  say({ ...SAMPLE, ask: 2, printable: false, lines: [] });
  say({ ...SAMPLE, ask: 1, lines: ['12.5 > 01 03'] });
  expect(asked.flatMap((question) => (question.kind === 'open' ? [question.file.name] : []))).toEqual(['other.bin']);
  expect([state().file, state().setup.form]).toEqual([other, 'binary']);
});
