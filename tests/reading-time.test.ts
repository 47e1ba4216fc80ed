import { readAll } from '../src/bench/registers/run-reading';
import { registersStore } from '../src/bench/registers/registers-store';
import type { LineRequest } from '../src/link/request';
import type { BenchState } from '../src/bench/state/bench-state';
import { CALM } from '../src/standin/disturbance';
import { benchOnLine, FAN, HOIST, type LinePlace } from './harness/bench-on-line';
import { rtu } from './harness/line';

/** What it takes until the page has an answer and its next request is at the line: two messages between threads, and drawing in between. */
const PAGE_US = 4_000;

/** A bench whose requests wait in the line while its answers come to the page late, as they do in a browser. */
async function lateAt(place: LinePlace, pollEveryUs: number | null = null) {
  const { own, bench, drive, index } = await benchOnLine(place);
  let ticket = 100;
  const sets = { set: () => Promise.resolve(undefined), keepSet: () => Promise.resolve() };
  Object.assign(bench, {
    sets,
    send: (_: unknown, bytes: Uint8Array, cause: string, options = {}) => {
      const mine = ++ticket;
      own.clock.at(own.clock.now() + PAGE_US / 2, () => own.master.send(place.station, bytes, cause, mine, options));
      return mine;
    },
  });
  const poll = own.protocol.placesOf(index)?.read(place.station, [...index.parameters.slice(0, 1)])[0];
  if (pollEveryUs !== null && poll) own.master.setPoll([{ station: place.station, bytes: poll, everyUs: pollEveryUs }]);
  let told = 0;
  /** Runs on until the reading is over; the page is told each result when it has come to it. */
  const done = async (): Promise<void> => {
    for (let i = 0; registersStore.getState().running.size > 0; i++) {
      if (i > 200_000) throw new Error('it does not end');
      own.clock.advanceBy(500);
      for (const result of own.results.slice(told))
        own.clock.at(own.clock.now() + PAGE_US / 2, () =>
          bench.state.setState(({ results }) => ({ results: new Map([...results, [result.request.ticket, result]]) })),
        );
      told = own.results.length;
      await new Promise((resolve) => setImmediate(resolve));
    }
  };
  registersStore.setState({ sets: new Map(), running: new Map(), said: new Map() });
  return { own, bench, drive, index, done };
}

const isReading = ({ cause }: LineRequest): boolean => cause === 'Registers';

/**
 * Silence before a request: 3.5 characters (MODBUS over Serial Line V1.02, 2.5.1.1), 2 characters of USS (the trade's description of that protocol,
 * from memory).
 */
it.each([
  ['Modbus, blocks', FAN, 3.5],
  ['USS, a telegram each', HOIST, 2],
] as const)(
  '%s: reading all takes at most 3 %% longer than its frames, the drive and the silence between them',
  async (_, place, silence) => {
    const { own, bench, drive, index, done } = await lateAt(place);
    void readAll(bench, drive, index);
    await done();
    const exchanges = own.results.filter(({ request }) => isReading(request));
    expect(exchanges.length).toBeGreaterThan(20);
    const { rate, parity } = place.settings;
    const charUs = ((1 + 8 + (parity === 'N' ? 0 : 1) + 1) * 1e6) / rate;
    const [first, last] = [exchanges[0]!, exchanges[exchanges.length - 1]!];
    const beganUs = first.sentUs - first.request.bytes.length * charUs;
    const leastUs = exchanges.reduce(
      (sum, { request, sentUs, endedUs }) => sum + (request.bytes.length + silence) * charUs + (endedUs - sentUs),
      0,
    );
    expect((last.endedUs - beganUs) / leastUs).toBeLessThan(1.03);
  },
);

it('what is watched comes to its turn between the requests of a long reading, and neither waits for ever', async () => {
  const { own, bench, drive, index, done } = await lateAt(FAN, 0);
  void readAll(bench, drive, index);
  await done();
  const causes = own.results.map(({ request }) => request.cause);
  const readings = own.results.filter(({ request }) => isReading(request)).length;
  expect(readings).toBeGreaterThan(20);
  // Always due, the watch takes every second exchange and no more while the reading goes on.
  const during = causes.slice(causes.indexOf('Registers'), causes.lastIndexOf('Registers') + 1);
  expect(during.filter((cause) => cause === 'poll').length).toBeGreaterThan(0.9 * (readings - 1));
  expect(during.filter((cause) => cause === 'poll').length).toBeLessThan(1.1 * readings);
});

/** Lets the line run for so long while a reading goes on. */
const turn = async (own: { clock: { advanceBy: (us: number) => void } }, turns: number): Promise<void> => {
  for (let i = 0; i < turns; i++) {
    own.clock.advanceBy(1_000);
    await new Promise((resolve) => setImmediate(resolve));
  }
};

it('a press goes before what of a reading lies ready, and the reading goes on', async () => {
  const { own, bench, drive, index, done } = await lateAt(FAN);
  void readAll(bench, drive, index);
  await turn(own, 30);
  const before = own.results.length;
  own.master.send(3, rtu('03 06 02C2 0028'), 'press', 1);
  await done();
  // The exchange under way ends first, no other.
  expect(own.results.slice(before, before + 2).map(({ request }) => request.cause)).toContain('press');
  expect(own.results.filter(({ request }) => isReading(request)).length).toBeGreaterThan(20);
});

it('Stop takes back what lies ready: the reading ends and says so, and nothing of it goes out after', async () => {
  const { own, bench, drive, index, done } = await lateAt(FAN);
  void readAll(bench, drive, index);
  await turn(own, 30);
  own.master.stop(3);
  // The page knows of its own press.
  bench.state.setState({ stops: [{ line: drive.line } as BenchState['stops'][number]] });
  await done();
  const sent = (): number =>
    own.entries.filter(({ cause, direction }) => cause === 'Registers' && direction === 'sent').length;
  const then = sent();
  expect([...registersStore.getState().said.values()]).toEqual(['Stop ended it']);
  await turn(own, 500);
  expect(sent()).toBe(then);
});

it('lost replies on the way: every value is told or named all the same, none twice', async () => {
  const { own, bench, drive, index, done } = await lateAt(FAN);
  own.yard.bus.disturbance = { ...CALM, loseReply: 0.2 };
  void readAll(bench, drive, index);
  await done();
  const [row] = [...registersStore.getState().sets.values()];
  expect(row?.reading.said.size).toBe(index.parameters.length);
  expect(row?.reading.waiting).toEqual([]);
});
