import type { SayStep } from '../core/procedure/procedure';
import type { RunState } from '../core/procedure/run-state';
import { textToBytes } from '../core/bytes/text';
import { literalBytes } from '../core/dialect/literal';
import { done } from '../core/result';
import { VirtualClock } from '../core/time/clock';
import { Godwit } from '../standin/godwit';
import type { LinkPort, PortEvents } from './port';
import { RawLine } from './raw-line';

const S = 1e6;
const say = (text: string, hears: string, withinS = 3, ifNot?: 'go-on' | 'ask'): SayStep => ({
  kind: 'say',
  text: `say ${text}`,
  station: 1,
  bytes: literalBytes(text),
  hears,
  withinUs: withinS * S,
  ...(ifNot ? { ifNot } : {}),
});

/** The old debarker's menu at the other end of a line of plain text. */
async function atMenu(steps: readonly SayStep[]) {
  const clock = new VirtualClock();
  let heard: PortEvents | null = null;
  // Each character comes by itself, a millisecond after the one before.
  let due = 0;
  const menu = new Godwit(clock, (text) => {
    for (const char of text) {
      due = Math.max(due, clock.now()) + 1000;
      clock.at(due, () => heard?.bytes(Uint8Array.of(char.charCodeAt(0)), clock.now()));
    }
  });
  const port = {
    open: (listener: PortEvents) => {
      heard = listener;
      return Promise.resolve(done(undefined));
    },
    close: () => Promise.resolve(),
    write: (bytes: Uint8Array) => {
      menu.take(bytes);
      return clock.now();
    },
    reconfigure: () => undefined,
    sendBreak: () => null,
    setSignals: () => undefined,
  } as unknown as LinkPort;
  let run: RunState | null = null;
  const line = new RawLine(clock, port, {
    entry: () => undefined,
    exchange: () => undefined,
    changed: () => undefined,
    stop: () => undefined,
    procedure: (next) => (run = next),
    closed: () => undefined,
  });
  await line.open();
  line.startProcedure({ kind: 'trial', title: 'menu', station: 1, steps, rounds: 1, standsStill: false }, 'menu');
  return {
    line,
    /** What comes from a device that babbles, in one piece. */
    babble: (text: string): void => heard?.bytes(textToBytes(text), clock.now()),
    clock,
    onward: (seconds: number): RunState => {
      for (let i = 0; i < seconds * 100; i++) clock.advanceBy(S / 100);
      return run!;
    },
  };
}

it('says, waits for what must come, and goes on with the next', async () => {
  const { onward } = await atMenu([
    say('?<CR>', 'ready'),
    say('ru<CR>', 'drum speed wanted#rpm'),
    say('sp=200<CR>', 'sp = # set'),
    say('<CR>', 'drum speed wanted#rpm'),
  ]);
  const run = onward(5);
  expect(run).toMatchObject({ phase: 'over', end: 'done', sent: 4 });
  expect(run.records.map(({ said }) => said.replace(/ +/g, ' '))).toEqual([
    'ready',
    'drum speed wanted 180 rpm',
    'sp = 200 set',
    'drum speed wanted 200 rpm',
  ]);
});

it('what does not come ends it in its time, and says what came instead; what was there before a text was said does not count', async () => {
  const { onward } = await atMenu([say('?<CR>', 'ready'), say('zz<CR>', 'ready', 2)]);
  expect(onward(1)).toMatchObject({ phase: 'running', at: 1 });
  const run = onward(3);
  expect(run).toMatchObject({ phase: 'over', end: 'surprise' });
  expect(run.why).toMatch(
    /^say zz<CR>: “ready” did not come within 2 s; what came ends with “.*no such page<CR><LF>> ”$/,
  );
  const silent = await atMenu([say('x<CR>', '', 1, 'go-on'), say('?<CR>', 'ready')]);
  // It echoes what is typed, and that is an answer where any will do.
  expect(silent.onward(3)).toMatchObject({ phase: 'over', end: 'done' });
});

it('a device that babbles, half a megabyte in one piece, neither ends it nor hides what is waited for', async () => {
  const own = await atMenu([say('?', 'end # now', 5)]);
  for (const part of ['x', ' ', '7', '1.1 ', 'end 1']) own.babble(part.repeat(Math.floor(500_000 / part.length)));
  expect(own.onward(0.1)).toMatchObject({ phase: 'running' });
  own.babble(`end 12 now${'x'.repeat(500_000)}`);
  expect(own.onward(0.1)).toMatchObject({ phase: 'over', end: 'done', records: [{ said: 'end 12 now' }] });
});

it('a pause loses nothing that came meanwhile, Stop and closing end it at once, and a later text says nothing to it', async () => {
  const paused = await atMenu([say('?<CR>', 'ready', 2)]);
  paused.line.tellProcedure('menu', { kind: 'pause' });
  expect(paused.onward(10)).toMatchObject({ phase: 'paused' });
  paused.line.tellProcedure('menu', { kind: 'resume' });
  expect(paused.onward(0.1)).toMatchObject({ phase: 'over', end: 'done' });
  const stopped = await atMenu([say('?<CR>', 'never', 60)]);
  stopped.onward(1);
  stopped.line.stop(1);
  expect(stopped.onward(1)).toMatchObject({ phase: 'over', end: 'stop' });
  const closed = await atMenu([say('?<CR>', 'never', 60)]);
  await closed.line.close();
  expect(closed.onward(1)).toMatchObject({ phase: 'over', end: 'lost' });
});
