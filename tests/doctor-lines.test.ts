/** @jest-environment node */
import { diagnose } from '../src/core/doctor/diagnose';
import type { SerialSettings } from '../src/core/line/settings';
import { encodeUss } from '../src/core/uss/encode';
import { readTask, writeTask } from '../src/core/uss/parameter';
import { CALM, type Disturbance } from '../src/standin/disturbance';
import { ascii } from './harness/bytes';
import { standinLine } from './harness/standin-line';

/** The doctor on lines that do not speak Modbus: the same causes, in the words of their protocols. */
type Line = Awaited<ReturnType<typeof standinLine>>;

interface Condition {
  readonly name: string;
  /** Null where nothing is wrong. */
  readonly truth: string | null;
  /** What the first suspect must say, in its evidence or as the next step. */
  readonly says?: string;
  readonly end?: SerialSettings;
  readonly station?: number;
  readonly story: (line: Line) => void;
}

const K2: SerialSettings = { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 };
const S1: SerialSettings = { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 };
const MS = 700;

const told = (line: Line, station: number, settings: SerialSettings) =>
  diagnose(
    line.entries.map((draft, sequence) => ({ ...draft, line: 'L', session: 's', sequence })),
    {
      line: 'L',
      session: 's',
      station,
      index: line.index,
      protocol: line.protocol,
      medium: 'serial',
      settings,
      open: line.master.snapshot().open,
      troubleKind: null,
      trouble: '',
      nowUs: line.clock.now(),
    },
  );

const disturbed =
  (disturbance: Partial<Disturbance>, story: (line: Line) => void) =>
  (line: Line): void => {
    line.yard.disturb({ ...CALM, ...disturbance });
    line.clock.advanceBy(300_000);
    story(line);
  };

function send(line: Line, draft: Parameters<typeof encodeUss>[0], times = 3): void {
  const built = encodeUss(draft);
  if (!built.ok) throw new Error(built.error[0]?.text);
  // An answer to a parameter task may take several telegrams.
  for (let i = 0; i < times; i++) line.ask(built.value, MS);
}

const mirror =
  (times: number, station = 4) =>
  (line: Line): void => {
    for (let i = 0; i < times; i++) line.ask(line.protocol.harmless(station, line.index)!, MS);
  };

const read =
  (number: number) =>
  (line: Line): void => {
    const task = readTask(line.index.sheet.uss!, 4, { number, double: false, elements: 1 });
    if (task.ok) send(line, { ...task.value.draft, pzd: [0, 0] });
  };

const write =
  (number: number, value: number) =>
  (line: Line): void => {
    const task = writeTask(line.index.sheet.uss!, 4, { number, double: false, elements: 1 }, value, 'working');
    if (task.ok) send(line, { ...task.value.draft, pzd: [0, 0] });
  };

const USS: readonly Condition[] = [
  { name: 'a healthy line', truth: null, story: mirror(3) },
  {
    name: 'a number that the drive does not have',
    truth: 'register-missing',
    says: 'number 0, there is no parameter of this number',
    story: read(999),
  },
  { name: 'a value beyond its limit', truth: 'value-refused', says: 'double word', story: write(120, 6001) },
  { name: 'a parameter that is only told', truth: 'read-only', says: 'cannot be changed', story: write(12, 1) },
  { name: 'this end at another rate', truth: 'wrong-rate', end: { ...K2, rate: 19200 }, story: mirror(2) },
  { name: 'local echo', truth: 'echo', story: disturbed({ echo: true }, read(120)) },
  {
    name: 'the adapter turns around too late',
    truth: 'turnaround',
    says: 'missing',
    story: disturbed({ lateTurnaround: true }, mirror(3)),
  },
  { name: 'a noisy cable', truth: 'noise', story: disturbed({ flipBits: 0.01 }, mirror(25)) },
  { name: 'a number that nobody has', truth: 'wrong-station', station: 9, story: mirror(2, 9) },
  {
    name: 'the plug fell out after it had worked',
    truth: 'line-dead',
    story: (line) => {
      mirror(2)(line);
      line.yard.disturb({ ...CALM, open: 'everywhere' });
      mirror(2)(line);
    },
  },
  {
    name: 'keypad in command: it confirms run and stands',
    truth: 'run-not-taken',
    story: (line) => {
      write(110, 1)(line);
      for (const word of [0x047e, 0x047f]) send(line, { address: 4, pkwWords: 4, pzd: [word, 0x1000] }, 1);
      line.clock.advanceBy(1_500_000);
      send(line, { address: 4, pkwWords: 4, pzd: [0x047f, 0x1000] }, 1);
    },
  },
];

const say =
  (...bodies: readonly string[]) =>
  (line: Line): void => {
    for (const body of bodies) line.ask(line.protocol.seal(ascii(`${body}~00\r`)), MS);
  };

const DIALECT: readonly Condition[] = [
  { name: 'a healthy line', truth: null, story: say('05.pos?', '05.mot?') },
  { name: 'no such verb', truth: 'function-unknown', says: 'verb', story: say('05.xyz?') },
  { name: 'a value beyond its limit', truth: 'value-refused', says: 'error 3', story: say('05.spd=15') },
  { name: 'a move in a mode that holds nothing', truth: 'not-now', says: 'error 4', story: say('05.goa!') },
  { name: 'local echo', truth: 'echo', story: disturbed({ echo: true }, say('05.pos?', '05.pos?')) },
  { name: 'a number that nobody has', truth: 'wrong-station', station: 6, story: say('06.pos?', '06.pos?') },
  {
    name: 'this end at another rate',
    truth: 'wrong-rate',
    end: { ...S1, rate: 19200 },
    story: say('05.pos?', '05.pos?'),
  },
  {
    name: 'a noisy cable',
    truth: 'noise',
    story: disturbed({ flipBits: 0.01 }, say(...new Array<string>(25).fill('05.pos?'))),
  },
];

describe.each([
  ['USS', 'dunlin', 'uss', 4, K2, USS],
  ['a dialect', 'pipit', 'ascii', 5, S1, DIALECT],
] as const)('on a line of %s', (_, slug, protocol, station, settings, conditions) => {
  it.each(conditions.map((condition) => [condition.name, condition] as const))(
    '%s',
    async (_name, { truth, says, end = settings, station: asked = station, story }) => {
      const line = await standinLine(slug, protocol, [station], settings, 3, end);
      story(line);
      const [first, ...others] = told(line, asked, end);
      expect([first?.id ?? null, ...others.map(({ id }) => id)].slice(0, 2)).toContain(truth);
      const suspect = [first, ...others].find((one) => one?.id === truth);
      const words = suspect ? [suspect.title, ...suspect.evidence.map(({ text }) => text), suspect.next].join(' ') : '';
      if (says !== undefined) expect(words).toContain(says);
    },
  );
});
