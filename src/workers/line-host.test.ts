import { demoJob } from '../../tests/harness/shipped';
import { ternIndex } from '../../tests/harness/sheets';
import { K1, rtu } from '../../tests/harness/line';
import { BridgeClient } from '../link/bridge-client';
import { CALM, type LineCommand, type LinePlan, type StopReport } from '../messages/line';
import type { TraceEntry } from '../core/trace/entry';
import type { Procedure } from '../core/procedure/procedure';
import { cycleProcedure } from '../core/procedure/cycle-procedure';
import { LineHost } from './line-host';
import { LiveClock } from '../core/time/live-clock';
import type { TabMessage } from './tab-channel';

/** Two tabs of one browser: shared locks and channel, real time moved by hand. */
function browser() {
  const taken = new Set<string>();
  const ears: ((message: TabMessage) => void)[] = [];
  const tab = () => {
    let realMs = 0;
    let sleeping: (() => void) | null = null;
    const later: (() => void)[] = [];
    const kept: TraceEntry[] = [];
    const clock = new LiveClock(
      () => realMs,
      (action) => {
        sleeping = action;
        return 1;
      },
      () => (sleeping = null),
    );
    const own = ears.length;
    const host = new LineHost({
      clock,
      nowMs: () => realMs,
      keepRun: () => undefined,
      locks: {
        take: (line) => {
          if (taken.has(line)) return Promise.resolve(null);
          taken.add(line);
          return Promise.resolve(() => taken.delete(line));
        },
      },
      channel: {
        post: (message) => ears.forEach((hear, i) => (i === own ? undefined : hear(message))),
        listen: (take) => ears.push(take),
      },
      later: (action) => later.push(action),
      newId: () => `id ${own} ${later.length}`,
      keepTrace: (entries) => kept.push(...entries),
      loadKept: () => Promise.resolve(new Map()),
      saveKept: () => undefined,
      bridge: new BridgeClient(() => Promise.reject(new Error('no server here'))),
      serialPorts: null,
    });
    return {
      host,
      clock,
      kept,
      later,
      async begin(
        lines: readonly string[] = ['K1'],
        timeoutMs: number | null = null,
        protocol: LinePlan['protocol'] = 'modbus-rtu',
      ) {
        const sheet = ternIndex().sheet;
        const stations = [3, 7].map((station) => ({
          station,
          sheet,
          standin: null,
          factory: { '2.01': 2, '2.02': 2, '5.01': station },
        }));
        const plans = lines.map((id): LinePlan => ({
          id,
          protocol,
          settings: K1,
          far: { kind: 'yard' },
          echo: false,
          timeoutMs,
          stations,
        }));
        await host.obey({
          kind: 'begin',
          session: `session ${own}`,
          job: 'j',
          wallMs: 0,
          seed: 1,
          lines: plans,
          jobLines: [],
        });
      },
      send: (hex: string): Promise<void> =>
        host.obey({ kind: 'send', line: 'K1', station: 3, bytes: rtu(hex), cause: 'test', ticket: 1 }),
      do: (command: LineCommand) => host.obey(command),
      pass(ms: number) {
        realMs += ms;
        (sleeping ?? (() => clock.catchUp()))();
      },
    };
  };
  return { tab, mute: () => ears.splice(0, ears.length) };
}

const OPEN: LineCommand = { kind: 'open', line: 'K1' };
const STOP: LineCommand = { kind: 'stop', line: 'K1', station: 3 };

it('numbers entries over all lines without gaps and hands them to the keeper', async () => {
  const one = browser().tab();
  await one.begin();
  await one.do(OPEN);
  await one.send('03 03 0182 0004');
  one.pass(500);
  expect(one.kept.map(({ sequence }) => sequence)).toEqual([0, 1, 2]);
  expect(one.host.gather().entries.map(({ outcome }) => outcome)).toEqual(['opened', 'none', 'answered']);
  expect(one.host.gather().entries).toEqual([]);
});

it.each([
  [null, 200],
  [50, 50],
  [900, 900],
])('a time-out of %j ms is what a silent station is waited for', async (timeoutMs, waited) => {
  const one = browser().tab();
  await one.begin(['K1'], timeoutMs);
  await one.do(OPEN);
  await one.do({ kind: 'send', line: 'K1', station: 9, bytes: rtu('09 03 0182 0001'), cause: 'Line', ticket: 1 });
  for (let i = 0; i < 20; i++) one.pass(100);
  const [sent, over] = one.kept.slice(1);
  expect(over?.outcome).toBe('timeout');
  const ms = ((over?.atUs ?? 0) - (sent?.atUs ?? 0)) / 1000;
  expect([ms >= waited, ms < waited + 60]).toEqual([true, true]);
});

it('one tab at a time has a line; the other looks on and is told so', async () => {
  const two = browser();
  const [a, b] = [two.tab(), two.tab()];
  await a.begin();
  await b.begin();
  await a.do(OPEN);
  await b.do(OPEN);
  expect(b.host.gather().lines[0]).toMatchObject({ life: { kind: 'elsewhere' }, open: false });
  await a.do({ kind: 'close', line: 'K1' });
  await b.do(OPEN);
  expect(b.host.gather().lines[0]).toMatchObject({ life: { kind: 'open' }, open: true });
});

it('passes Stop on to the tab that has the line, and brings back the outcome', async () => {
  const two = browser();
  const [a, b] = [two.tab(), two.tab()];
  await a.begin();
  await b.begin();
  await a.do(OPEN);
  await b.do(OPEN);
  await a.send('03 06 02C1 000D');
  a.pass(1000);
  expect(a.host.turning()).toEqual([{ line: 'K1', station: 3 }]);
  await b.do(STOP);
  for (let i = 0; i < 50; i++) a.pass(100);
  b.later.forEach((action) => action());
  const reports: readonly StopReport[] = b.host.gather().stops;
  expect(reports[reports.length - 1]).toMatchObject({ over: true, outcomes: [{ station: 3, outcome: 'stopped' }] });
  expect(a.host.turning()).toEqual([]);
});

it('says no answer when the tab that has the line is silent', async () => {
  const two = browser();
  const [a, b] = [two.tab(), two.tab()];
  await a.begin();
  await b.begin();
  await a.do(OPEN);
  await b.do(OPEN);
  two.mute();
  await b.do(STOP);
  b.later.forEach((action) => action());
  expect(b.host.gather().stops[0]).toMatchObject({
    over: true,
    outcomes: [{ outcome: 'no-answer', why: 'the tab that has this line did not answer' }],
  });
});

it('the yard runs at the speed that is asked for, and events keep their due time', async () => {
  const one = browser().tab();
  await one.begin();
  await one.do({ kind: 'yard-speed', factor: 10 });
  one.pass(1000);
  expect(one.clock.now()).toBe(10_000_000);
  const seen: number[] = [];
  one.clock.at(12_345_678, () => seen.push(one.clock.now()));
  one.pass(5000);
  expect(seen).toEqual([12_345_678]);
});

it('hands at the drive and power are recorded as events of the yard', async () => {
  const one = browser().tab();
  await one.begin();
  await one.do({ kind: 'hands', line: 'K1', station: 3, hands: { selector: 'local', liveFault: 0 } });
  await one.do({ kind: 'power', line: 'K1', station: 3, turn: 'off-and-on' });
  expect(one.kept.map(({ outcome, cause }) => `${outcome}: ${cause}`)).toEqual([
    'yard: hand at the drive: local',
    'yard: hand at the drive: power off and on',
  ]);
});

it('Stop is answered also before the lines are built, and for a line that is not', async () => {
  const one = browser().tab();
  await one.do(STOP);
  expect(one.host.gather().stops).toEqual([
    {
      line: 'K1',
      cause: 'Stop',
      over: true,
      outcomes: [{ station: 3, outcome: 'not-sent', why: 'the line is closed', atUs: null }],
    },
  ]);
});

it('Stop reaches drives on other lines that this bench set in motion', async () => {
  const one = browser().tab();
  await one.begin(['K1', 'K9']);
  await one.do(OPEN);
  await one.do({ kind: 'open', line: 'K9' });
  await one.do({ kind: 'send', line: 'K9', station: 7, bytes: rtu('07 06 02C1 000D'), cause: 'test', ticket: 1 });
  one.pass(1000);
  expect(one.host.turning()).toEqual([{ line: 'K9', station: 7 }]);
  await one.do(STOP);
  for (let i = 0; i < 100; i++) one.pass(100);
  const told = one.host.gather().stops.filter(({ over }) => over);
  expect(
    told
      .map(({ line, outcomes }) => `${line} ${outcomes.map(({ station, outcome }) => `${station} ${outcome}`).join()}`)
      .sort(),
  ).toEqual(['K1 3 stopped', 'K9 7 stopped']);
  expect(one.host.turning()).toEqual([]);
});

it('Stop ends what is about to give orders on other lines too, and leaves alone what sets a line up again', async () => {
  const one = browser().tab();
  await one.begin(['K1', 'K8', 'K9']);
  for (const line of ['K1', 'K8', 'K9']) await one.do({ kind: 'open', line });
  const later = (kind: 'trial' | 'both-ends'): Procedure => ({
    kind,
    title: 'later',
    station: 7,
    steps: [
      { kind: 'pause', text: 'not yet', us: 5_000_000 },
      { kind: 'request', text: 'run', station: 7, bytes: rtu('07 06 02C1 000D'), needs: 'answer' },
    ],
    rounds: 1,
    standsStill: false,
  });
  await one.do({ kind: 'procedure', line: 'K9', procedure: later('trial'), id: 'trial' });
  await one.do({ kind: 'procedure', line: 'K8', procedure: later('both-ends'), id: 'ends' });
  one.pass(1000);
  await one.do(STOP);
  for (let i = 0; i < 30; i++) one.pass(100);
  const runs = one.host.gather().runs;
  expect(runs.filter(({ run }) => run.id === 'trial').at(-1)?.run).toMatchObject({ phase: 'over', end: 'stop' });
  expect(runs.filter(({ run }) => run.id === 'ends').at(-1)?.run).toMatchObject({ phase: 'running' });
  for (let i = 0; i < 60; i++) one.pass(100);
  expect(one.host.turning().filter(({ line }) => line === 'K9')).toEqual([]);
});

it('a change of how entries are read is told with the first number that it holds for, once', async () => {
  const one = browser().tab();
  await one.begin();
  const [kiln] = demoJob().lines;
  const lines = [{ ...kiln!, id: 'K1' }];
  await one.do({ kind: 'job-lines', lines });
  expect(one.host.gather().earlier).toEqual([{ before: 0, lines: [] }]);
  await one.do(OPEN);
  await one.send('03 03 0182 0004');
  one.pass(500);
  await one.do({ kind: 'job-lines', lines: lines.map((line) => ({ ...line, name: 'renamed' })) });
  expect(one.host.gather().earlier).toBeNull();
  await one.do({ kind: 'job-lines', lines: lines.map((line) => ({ ...line, stations: [] })) });
  expect(one.host.gather().earlier?.map(({ before }) => before)).toEqual([0, 3]);
  expect(one.host.earlier().at(-1)?.lines[0]?.stations).toHaveLength(kiln!.stations.length);
  expect(one.host.gather().earlier).toBeNull();
});

it('tells which stations are read over and over', async () => {
  const one = browser().tab();
  await one.begin();
  await one.do(OPEN);
  await one.do({ kind: 'poll', line: 'K1', items: [{ station: 7, bytes: rtu('07 03 0182 0001'), everyUs: 0 }] });
  expect(one.host.gather().lines[0]?.polled).toEqual([7]);
  await one.do({ kind: 'poll', line: 'K1', items: [] });
  expect(one.host.gather().lines[0]?.polled).toEqual([]);
});

describe('a page that hangs, sleeps or lets go', () => {
  const RUN_3 = '03 06 02C1 000D';
  type Tab = ReturnType<ReturnType<typeof browser>['tab']>;

  /** Time passes as in the worker: the page is looked after twenty times a second; `alive` pages answer. */
  const pass = (one: Tab, ms: number, alive: boolean, each: () => void = () => undefined): void => {
    for (let at = 0; at < ms; at += 50) {
      one.pass(50);
      if (alive) one.host.heardPage();
      each();
      one.host.watchPage();
    }
  };

  async function running(): Promise<Tab> {
    const one = browser().tab();
    await one.begin();
    await one.do(OPEN);
    await one.send('03 06 02C2 1770');
    await one.send(RUN_3);
    pass(one, 3_000, true);
    expect(one.host.turning()).toEqual([{ line: 'K1', station: 3 }]);
    return one;
  }

  it('a page that answers, however little it draws, keeps its shaft turning', async () => {
    const one = await running();
    pass(one, 20_000, true);
    expect(one.host.turning()).toHaveLength(1);
  });

  it('a page that does not answer for a second: stop words, no more keep-alive, and it is said', async () => {
    const one = await running();
    const before = one.kept.length;
    pass(one, 1_500, false);
    const pressed = one.kept.slice(before).find(({ outcome }) => outcome === 'stop-pressed');
    expect(pressed?.cause).toMatch(/the page did not answer for 1\.\d s/);
    pass(one, 20_000, false);
    expect(one.host.turning()).toEqual([]);
    expect(one.host.gather().stops.at(-1)).toMatchObject({
      over: true,
      outcomes: [{ station: 3, outcome: 'stopped' }],
    });
    const after = one.kept.length;
    pass(one, 20_000, false);
    expect(one.kept.slice(after).filter(({ direction }) => direction === 'sent')).toEqual([]);
  });

  it('a cycle that holds the run word is stopped with its page as well, and nothing of it goes out after that', async () => {
    const one = browser().tab();
    await one.begin();
    await one.do(OPEN);
    const requests = ['03 10 02C1 0003 06 0005 0014 0FA0', '03 03 0181 0005'].map((hex, i) => ({
      text: 'a block',
      inTurn: [rtu(hex)],
      isInput: i === 1,
    }));
    const cycle = (word: string) =>
      cycleProcedure(
        3,
        'cycle',
        requests.map((own, i) => (i === 0 ? { ...own, inTurn: [rtu(`03 10 02C1 0003 06 ${word} 0014 0FA0`)] } : own)),
        { everyMs: 100, lostMost: 2, turns: word === '000D', life: null },
      );
    await one.do({ kind: 'procedure', line: 'K1', procedure: cycle('0005'), id: 'ready' });
    pass(one, 1_000, true);
    await one.do({ kind: 'procedure', line: 'K1', procedure: cycle('000D'), id: 'run' });
    pass(one, 3_000, true);
    expect(one.host.turning()).toEqual([{ line: 'K1', station: 3 }]);
    expect(one.host.gather().lines[0]).toMatchObject({ cycled: 3, keepAlives: [] });
    const before = one.kept.length;
    pass(one, 1_500, false);
    expect(one.kept.slice(before).find(({ outcome }) => outcome === 'stop-pressed')?.cause).toMatch(
      /the page did not answer for 1\.\d s/,
    );
    pass(one, 20_000, false);
    expect(one.host.turning()).toEqual([]);
    const after = one.kept.length;
    pass(one, 20_000, true);
    expect(one.kept.slice(after).filter(({ direction }) => direction === 'sent')).toEqual([]);
  });

  it('a trial that says texts ends with its page: what a text sets in motion is seen by nobody', async () => {
    const one = browser().tab();
    await one.begin(['K1'], null, 'raw');
    await one.do(OPEN);
    const wait: Procedure = {
      kind: 'trial',
      title: 'menu',
      station: 1,
      steps: [
        { kind: 'say', text: 'wake', station: 1, bytes: Uint8Array.of(0x3f), hears: 'never', withinUs: 60_000_000 },
      ],
      rounds: 1,
      standsStill: false,
    };
    await one.do({ kind: 'procedure', line: 'K1', procedure: wait, id: 'menu' });
    pass(one, 5_000, true);
    expect(one.host.gather().runs.at(-1)?.run).toMatchObject({ phase: 'running' });
    pass(one, 1_500, false);
    expect(one.host.gather().runs.at(-1)?.run).toMatchObject({
      phase: 'over',
      end: 'stop',
      why: expect.stringMatching(/^stopped: the page did not answer for 1\.\d s$/) as string,
    });
  });

  it('a page that hangs while nothing turns stops nothing', async () => {
    const one = browser().tab();
    await one.begin();
    await one.do(OPEN);
    pass(one, 5_000, false);
    expect(one.kept.map(({ outcome }) => outcome)).toEqual(['opened']);
  });

  it('after 30 s of sleep nothing leaves that was due before, and one entry says it', async () => {
    const one = await running();
    await one.do({
      kind: 'poll',
      line: 'K1',
      items: [{ station: 3, bytes: rtu('03 03 0182 0001'), everyUs: 200_000 }],
    });
    const before = one.kept.length;
    one.pass(30_000);
    const sent = one.kept.slice(before).filter(({ direction }) => direction === 'sent');
    expect(sent.length).toBeLessThanOrEqual(1);
    expect(one.kept.filter(({ outcome }) => outcome === 'asleep')).toHaveLength(1);
    pass(one, 5_000, true);
    const words = one.kept.slice(before).filter(({ direction, bytes }) => direction === 'sent' && bytes[1] === 6);
    expect(words).toEqual([]);
    expect(one.host.turning()).toEqual([]);
  });

  const hold = (one: Tab): Promise<void> =>
    one.do({
      kind: 'hold',
      line: 'K1',
      station: 3,
      press: [rtu('03 06 02C1 0045')],
      release: [rtu('03 06 02C1 0005')],
    });
  const held = (one: Tab) => (): void => void one.do({ kind: 'held', line: 'K1', station: 3 });

  it('a key that is held turns the shaft; let go, it stands', async () => {
    const one = browser().tab();
    await one.begin();
    await one.do(OPEN);
    await hold(one);
    pass(one, 5_000, true, held(one));
    expect(one.host.turning()).toHaveLength(1);
    await one.do({ kind: 'let-go', line: 'K1', station: 3 });
    pass(one, 15_000, true);
    expect(one.host.turning()).toEqual([]);
    expect(one.kept.some(({ outcome }) => outcome === 'stop-pressed')).toBe(false);
  });

  it('a hold that is not said again for 300 ms ends by the worker alone', async () => {
    const one = browser().tab();
    await one.begin();
    await one.do(OPEN);
    await hold(one);
    pass(one, 3_000, true, held(one));
    const before = one.kept.length;
    // The page still answers: only the hold is not said any more.
    pass(one, 400, true);
    const stop = one.kept.slice(before).find(({ outcome }) => outcome === 'stop-pressed');
    expect(stop?.cause).toMatch(/held was not heard of any more/);
    pass(one, 15_000, true);
    expect(one.host.turning()).toEqual([]);
  });

  it('the end of a hold that is not confirmed is followed by Stop', async () => {
    const one = browser().tab();
    await one.begin();
    await one.do(OPEN);
    await hold(one);
    pass(one, 3_000, true, held(one));
    await one.do({ kind: 'disturb', line: 'K1', disturbance: { ...CALM, loseReply: 1 } });
    await one.do({ kind: 'let-go', line: 'K1', station: 3 });
    pass(one, 500, true);
    expect(one.kept.find(({ outcome }) => outcome === 'stop-pressed')?.cause).toMatch(
      /end of the jog was not confirmed/,
    );
  });
});
