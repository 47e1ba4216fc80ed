import { createStore } from 'zustand/vanilla';
import type { Bench } from '../src/bench/bench';
import { FIRST_STATE, type BenchState } from '../src/bench/bench-state';
import { walkRoute } from '../src/bench/walk';
import { RTU } from '../src/core/modbus/framing';
import { registerLink } from '../src/core/places/register-link';
import { RUNNING } from '../src/core/profile/profile';
import { routeTo } from '../src/core/profile/route';
import { VirtualClock } from '../src/core/time/clock';
import type { ExchangeOutcome, ExchangeResult } from '../src/link/request';
import { Cia402Drive } from '../src/standin/cia402-drive';
import { serveRtu } from '../src/standin/rtu-server';
import { shippedIndex } from './harness/sheets';

const END = { station: 7, settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } } as const;
const index = shippedIndex('wren');
const profile = index.profile!;
const places = registerLink(index, RTU);

/** A bench that answers from the stand-in at once; `change` sees every control word before it is sent, and may spoil its outcome. */
function bench(
  change: (word: number, parts: { drive: Cia402Drive; stop: () => void }) => ExchangeOutcome = () => 'answered',
) {
  const clock = new VirtualClock();
  const drive = new Cia402Drive(index, clock, { '13': 0, '10': 7 }, END, () => undefined);
  const open = { line: 'K1', open: true } as unknown as BenchState['lines'] extends ReadonlyMap<string, infer L>
    ? L
    : never;
  const state = createStore<BenchState>(() => ({
    ...FIRST_STATE,
    lineId: 'K1',
    station: 7,
    // Faster than life, so that no test waits.
    yardSpeed: 1000,
    lines: new Map([['K1', open]]),
  }));
  const stop = (): void => state.setState({ stops: [{ line: 'K1', outcomes: [], over: false }] });
  const words: number[] = [];
  let ticket = 0;
  const send = (station: number, bytes: Uint8Array): number => {
    const own = ++ticket;
    const asked = RTU.read(bytes, 'request').message;
    const isWord = asked?.fc === 6;
    const word = asked?.values?.[0] ?? 0;
    if (isWord) words.push(word);
    const outcome = isWord ? change(word, { drive, stop }) : 'answered';
    const reply = outcome === 'answered' ? serveRtu([...bytes], 7, drive) : null;
    const sentUs = clock.now();
    clock.advanceBy(100_000);
    const result: ExchangeResult = {
      request: { station, bytes, priority: 'user', cause: 'route', ticket: own },
      exchange: own,
      outcome,
      reply,
      asked,
      said: reply && RTU.read(reply, 'response').message,
      sentUs,
      endedUs: clock.now(),
    };
    setTimeout(() => state.setState(({ results }) => ({ results: new Map(results).set(own, result) })), 0);
    return own;
  };
  const walk = async (target: string, one = false): Promise<BenchState['walk']> => {
    const route = routeTo(profile, ['switch-on-disabled'], 0, target);
    if (route.kind === 'none') throw new Error(route.why);
    await walkRoute({ state, send } as unknown as Bench, { index, profile, places, route, target, one });
    return state.getState().walk;
  };
  return { walk, words, drive, state };
}

it('walks every word, each after the state that the one before led to', async () => {
  const own = bench();
  const walk = await own.walk(RUNNING);
  expect(own.words).toEqual([0x06, 0x07, 0x0f, 0x7f]);
  expect(walk).toMatchObject({ over: true, why: '' });
  expect(walk?.done.map(({ status }) => status & 0x6f)).toEqual([0x21, 0x23, 0x27, 0x27]);
});

it('one step sends one word', async () => {
  const own = bench();
  expect(await own.walk(RUNNING, true)).toMatchObject({ over: true, why: '' });
  expect(own.words).toEqual([0x06]);
});

it.each<[string, Parameters<typeof bench>[0], readonly number[], RegExp]>([
  ['a refusal', (word) => (word === 0x07 ? 'exception' : 'answered'), [0x06, 0x07], /refused 0x0007/],
  ['no answer', (word) => (word === 0x07 ? 'timeout' : 'answered'), [0x06, 0x07], /no sure answer came to 0x0007/],
  [
    'a fault on the way',
    (word, { drive }) => {
      if (word === 0x0f) drive.setHands({ selector: 'remote', liveFault: 12 });
      return 'answered';
    },
    [0x06, 0x07, 0x0f],
    /after 0x000F a fault came/,
  ],
  [
    'a selector turned to local',
    (word, { drive }) => {
      if (word === 0x07) drive.setHands({ selector: 'local', liveFault: 0 });
      return 'answered';
    },
    [0x06, 0x07],
    /should be “Switched on”, but for 12 s it is “Ready to switch on”.*does not look at its control word/,
  ],
  [
    'Stop',
    (word, { stop }) => {
      if (word === 0x0f) stop();
      return word === 0x0f ? 'abandoned' : 'answered';
    },
    [0x06, 0x07, 0x0f],
    /^Stop was pressed$/,
  ],
])('ends at %s, says what was seen, and sends nothing more', async (_, change, words, why) => {
  const own = bench(change);
  const walk = await own.walk(RUNNING);
  expect(own.words).toEqual(words);
  expect(walk?.over).toBe(true);
  expect(walk?.why).toMatch(why);
});

it('ends when another drive is chosen', async () => {
  const own = bench();
  const going = own.walk(RUNNING);
  own.state.setState({ station: 3 });
  expect((await going)?.why).toMatch(/another drive was chosen/);
});
