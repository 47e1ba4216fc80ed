import { BEFORE, AFTER, bothEndsProcedure, restartProcedure } from '../src/core/procedure/link-procedures';
import { listingProcedure, listProcedure } from '../src/core/procedure/list-procedures';
import { routeProcedure } from '../src/core/procedure/route-procedure';
import type { Procedure } from '../src/core/procedure/procedure';
import { routeTo } from '../src/core/profile/route';
import { RUNNING, statesOf } from '../src/core/profile/profile';
import { linkChange } from '../src/core/papers/link-change';
import { CALM } from '../src/messages/line';
import { bytesToHex } from '../src/core/bytes/hex';
import { Cia402Drive } from '../src/standin/cia402-drive';
import { K1 as SETTINGS, rtu } from './harness/line';
import { standinLine } from './harness/standin-line';

type Line = Awaited<ReturnType<typeof standinLine>>;

/** Line K1 with the infeed chain at station 7, its command source set to the line. */
async function chain(): Promise<Line & { drive: Cia402Drive }> {
  const line = await standinLine('wren', 'modbus-rtu', [7], SETTINGS, 1, SETTINGS, { '13': 0, '10': 7 });
  const drive = line.yard.drives.get(7);
  if (!(drive instanceof Cia402Drive)) throw new Error('no drive');
  return { ...line, drive };
}

function route(line: Line, target: string, here = ['switch-on-disabled'], one = false): Procedure {
  const { index, protocol } = line;
  const profile = index.profile!;
  const way = routeTo(profile, here, 0, target);
  if (way.kind === 'none') throw new Error(way.why);
  const made = routeProcedure({
    index,
    profile,
    places: protocol.placesOf(index),
    station: 7,
    here,
    steps: one ? way.steps.slice(0, 1) : way.steps,
    title: 'test',
    known: () => undefined,
  });
  if (!made.ok) throw new Error(made.error);
  return made.value;
}

const lastRun = (line: Line) => line.runs[line.runs.length - 1];

/** Control words that were sent by the route, in order. */
const words = (line: Line): readonly string[] =>
  line.entries
    .filter(({ direction, cause, bytes }) => direction === 'sent' && cause === 'route' && bytes[1] === 6)
    .map(({ bytes }) => bytesToHex(bytes.subarray(4, 6)));

const walk = (line: Line, ms = 20_000): void => {
  line.master.startProcedure(route(line, RUNNING), 'run');
  line.clock.advanceBy(ms * 1000);
};

describe('a route', () => {
  it('sends every word after the state that the one before led to', async () => {
    const line = await chain();
    walk(line);
    expect(words(line)).toEqual(['0006', '0007', '000f', '007f']);
    expect(lastRun(line)).toMatchObject({ phase: 'over', end: 'done', why: '' });
    const seen = lastRun(line)?.records.flatMap(({ seen: word }) => (word === null ? [] : [word & 0x6f]));
    expect(seen).toEqual([0x21, 0x23, 0x27, 0x27]);
  });

  it('one step sends one word', async () => {
    const line = await chain();
    line.master.startProcedure(route(line, RUNNING, undefined, true), 'run');
    line.clock.advanceBy(5_000_000);
    expect(words(line)).toEqual(['0006']);
    expect(lastRun(line)?.end).toBe('done');
  });

  it.each<[string, (line: Awaited<ReturnType<typeof chain>>) => void, string, RegExp]>([
    [
      'a fault on the way',
      ({ drive }) => drive.setHands({ selector: 'remote', liveFault: 12 }),
      'surprise',
      /a fault came/,
    ],
    [
      'a selector turned to local',
      ({ drive }) => drive.setHands({ selector: 'local', liveFault: 0 }),
      'surprise',
      /it should be “.*”, but for 12 s it is “.*does not look at its control word/,
    ],
    [
      'silence',
      ({ yard }) => (yard.bus.disturbance = { ...CALM, open: 'everywhere' }),
      'surprise',
      /no sure answer came|nothing was seen of it/,
    ],
    ['Stop', ({ master }) => master.stop(7), 'stop', /^Stop was pressed$/],
    ['closing', ({ master }) => void master.close(), 'lost', /closed by the user/],
    ['sleep', ({ master }) => master.fellAsleep(40), 'asleep', /asleep for 40 s/],
    ['a press', ({ master }) => master.tellProcedure('run', { kind: 'end' }), 'by-hand', /by hand/],
    ['another procedure', (line) => line.master.startProcedure(route(line, RUNNING), 'other'), 'replaced', /another/],
  ])('ends at %s, says why, and sends no further word', async (_, happen, end, why) => {
    const line = await chain();
    line.master.startProcedure(route(line, RUNNING), 'run');
    line.clock.advanceBy(60_000);
    happen(line);
    const sent = words(line).length;
    line.clock.advanceBy(30_000_000);
    const told = line.runs.filter(({ id }) => id === 'run').pop();
    expect(told).toMatchObject({ phase: 'over', end });
    expect(told?.why).toMatch(why);
    if (end !== 'replaced') expect(words(line).length).toBeLessThanOrEqual(sent + (end === 'surprise' ? 1 : 0));
  });

  it('a refused reset is told as refused, not as a fault that came', async () => {
    const line = await chain();
    line.drive.setHands({ selector: 'remote', liveFault: 12 });
    line.clock.advanceBy(1_000_000);
    const status = line.ask(line.protocol.placesOf(line.index).read(7, [line.index.byRole.get('status-word')!])[0]!)
      .said?.values?.[0];
    const here = statesOf(line.index.profile!, status ?? 0).map(({ id }) => id);
    expect(here).toEqual(['fault']);
    line.master.startProcedure(route(line, 'ready-to-switch-on', here), 'run');
    line.clock.advanceBy(30_000_000);
    expect(lastRun(line)?.why).toMatch(/the reset was refused/);
    expect(lastRun(line)?.why).not.toMatch(/a fault came/);
  });

  it('waits at a pause and goes on; a question is answered by a person, and “no” ends it', async () => {
    const line = await chain();
    const steps = route(line, RUNNING).steps;
    const asks: Procedure = {
      ...route(line, RUNNING),
      steps: [
        {
          kind: 'person',
          text: 'direction',
          question: 'Which way does it turn?',
          choices: [
            { name: 'as it should', goesOn: true },
            { name: 'the other way', goesOn: false },
          ],
        },
        ...steps.slice(0, 2),
      ],
    };
    line.master.startProcedure(asks, 'run');
    line.clock.advanceBy(60_000_000);
    expect(words(line)).toEqual([]);
    line.master.tellProcedure('run', { kind: 'answer', said: 'maybe' });
    expect(lastRun(line)?.at).toBe(0);
    line.master.tellProcedure('run', { kind: 'answer', said: 'as it should' });
    line.master.tellProcedure('run', { kind: 'pause' });
    const paused = words(line).length;
    line.clock.advanceBy(60_000_000);
    expect(words(line)).toHaveLength(paused);
    line.master.tellProcedure('run', { kind: 'resume' });
    line.clock.advanceBy(5_000_000);
    expect(lastRun(line)?.end).toBe('done');
    line.master.startProcedure(asks, 'again');
    line.master.tellProcedure('again', { kind: 'answer', said: 'the other way' });
    expect(lastRun(line)).toMatchObject({ end: 'surprise', why: 'direction: the other way' });
  });
});

describe('a list', () => {
  const frame = (name: string) => ({ station: 7, bytes: rtu('07 03 0001 0001'), name });

  it('sends each frame once, counts answers, and ends', async () => {
    const line = await chain();
    line.master.startProcedure(listProcedure([frame('a'), frame('b'), frame('c')], 50, false), 'run');
    line.clock.advanceBy(2_000_000);
    expect(lastRun(line)).toMatchObject({ end: 'done', sent: 3 });
    expect(line.entries.filter(({ cause }) => cause.startsWith('list: ')).length).toBeGreaterThanOrEqual(3);
  });

  it('repeats until it is ended, at its pause, and does not grow', async () => {
    const line = await chain();
    line.master.startProcedure(listProcedure([frame('a')], 100, true), 'run');
    line.clock.advanceBy(10_000_000);
    const run = lastRun(line);
    expect(run?.sent).toBeGreaterThan(70);
    expect(run?.records.length).toBeLessThan(3);
    line.master.tellProcedure('run', { kind: 'end' });
    const sent = line.entries.length;
    line.clock.advanceBy(5_000_000);
    expect(line.entries).toHaveLength(sent);
  });

  it('an empty one says so', async () => {
    const line = await chain();
    line.master.startProcedure(
      listingProcedure([], 1, () => new Uint8Array()),
      'run',
    );
    expect(lastRun(line)).toMatchObject({ phase: 'over', end: 'refused' });
  });
});

describe('work on the link', () => {
  const way = (line: Line) => ({ index: line.index, places: line.protocol.placesOf(line.index), station: 3 });
  const fan = () => standinLine('tern', 'modbus-rtu', [3], SETTINGS, 1, SETTINGS, { '2.01': 2, '2.02': 2, '5.01': 3 });

  it('changes both ends and finds the drive again', async () => {
    const line = await fan();
    const to = { ...SETTINGS, rate: 9600 };
    const change = linkChange(line.index, SETTINGS, to);
    if (!change.ok) throw new Error(change.error);
    const made = bothEndsProcedure(way(line), change.value, to);
    if (!made.ok) throw new Error(made.error);
    line.master.startProcedure(made.value, 'run');
    line.clock.advanceBy(20_000_000);
    expect(lastRun(line)).toMatchObject({ end: 'done' });
    expect(line.yard.drives.get(3)?.link().settings.rate).toBe(9600);
  });

  it('restarts a drive: what was read before and after is kept, the silence between is no surprise', async () => {
    const line = await fan();
    const made = restartProcedure(way(line));
    if (!made.ok) throw new Error(made.error);
    line.master.startProcedure(made.value, 'run');
    line.clock.advanceBy(60_000_000);
    const { end, kept } = lastRun(line) ?? {};
    expect(end).toBe('done');
    expect(kept?.[BEFORE]?.length).toBe(kept?.[AFTER]?.length);
    expect(kept?.[BEFORE]?.length).toBeGreaterThan(20);
  });

  it('is not begun while this bench has a drive in motion', async () => {
    const line = await fan();
    line.ask(rtu('03 06 02C1 000D'));
    const made = restartProcedure(way(line));
    if (!made.ok) throw new Error(made.error);
    line.master.startProcedure(made.value, 'run');
    line.clock.advanceBy(1_000_000);
    expect(lastRun(line)).toMatchObject({ end: 'refused' });
    expect(lastRun(line)?.why).toMatch(/press Stop first/);
  });

  it('ends where a drive does not come back', async () => {
    const line = await fan();
    const made = restartProcedure(way(line));
    if (!made.ok) throw new Error(made.error);
    line.master.startProcedure(made.value, 'run');
    for (let i = 0; i < 400 && made.value.steps[lastRun(line)?.at ?? 0]?.kind !== 'return'; i++)
      line.clock.advanceBy(50_000);
    line.yard.bus.disturbance = { ...CALM, open: 'everywhere' };
    line.clock.advanceBy(60_000_000);
    expect(lastRun(line)).toMatchObject({ end: 'surprise' });
    expect(lastRun(line)?.why).toMatch(/nothing answered within/);
  });
});
