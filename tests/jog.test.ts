import { jogsOf, type Jog } from '../src/core/places/jog';
import type { SerialSettings } from '../src/core/line/settings';
import { bytesToHex } from '../src/core/bytes/hex';
import type { LinePlan } from '../src/messages/line';
import { K1 } from './harness/line';
import { shippedIndex } from './harness/sheets';
import { standinLine } from './harness/standin-line';

const K2: SerialSettings = { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 };
const S1: SerialSettings = { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 };

interface Case {
  readonly slug: string;
  readonly protocol: LinePlan['protocol'];
  readonly station: number;
  readonly settings: SerialSettings;
  readonly factory: Readonly<Record<string, number>>;
  readonly reference: number | null;
  /** What must be sent first, so that the drive is ready for a jog. */
  readonly ready: (line: Line) => void;
  readonly at: string;
}

type Line = Awaited<ReturnType<typeof standinLine>>;

const write = (line: Line, role: 'control-word' | 'mode', word: number): void => {
  const place = line.index.byRole.get(role);
  const bytes =
    place &&
    line.protocol.placesOf(line.index).write(line.yard.drives.keys().next().value ?? 0, place, word, () => undefined);
  if (bytes) line.ask(bytes);
};

const CASES: readonly Case[] = [
  {
    slug: 'tern',
    protocol: 'modbus-rtu',
    station: 3,
    settings: K1,
    factory: { '2.01': 2, '2.02': 2, '5.01': 3 },
    reference: null,
    ready: () => undefined,
    at: 'jog-speed',
  },
  {
    slug: 'wren',
    protocol: 'modbus-rtu',
    station: 7,
    settings: K1,
    factory: { '13': 0, '10': 7 },
    reference: 300,
    ready: (line) => [0x06, 0x07, 0x0f].forEach((word) => write(line, 'control-word', word)),
    at: 'reference',
  },
  ...['dunlin', 'dunlin-telegram-3'].map((slug): Case => ({
    slug,
    protocol: 'uss',
    station: 4,
    settings: K2,
    factory: {},
    reference: null,
    ready: () => undefined,
    at: 'jog-speed',
  })),
  {
    slug: 'pipit',
    protocol: 'ascii',
    station: 5,
    settings: S1,
    factory: {},
    reference: null,
    ready: (line) => write(line, 'control-word', 4),
    at: 'move-speed',
  },
];

async function jogging({ slug, protocol, station, settings, factory, reference, ready, at }: Case) {
  const line = await standinLine(slug, protocol, [station], settings, 1, settings, factory);
  ready(line);
  const jogs = jogsOf(line.index, line.protocol.placesOf(line.index), station, () => undefined, reference);
  if (jogs.kind === 'none') throw new Error(jogs.why);
  expect(jogs.at).toBe(at);
  return { line, jogs: jogs.jogs, drive: line.yard.drives.get(station)! };
}

describe.each(CASES)('a jog of $slug over $protocol', (one) => {
  it.each(['forward', 'backward'] as const)('%s: turns while it is held, and stands after it is let go', async (id) => {
    const { line, jogs, drive } = await jogging(one);
    const jog = jogs.find((each) => each.id === id)!;
    const send = (frames: Jog['press']): void =>
      frames.forEach((bytes) => line.master.send(one.station, bytes, 'jog', 1));
    send(jog.press);
    line.clock.advanceBy(4_000_000);
    expect(drive.isTurning()).toBe(true);
    // Without Stop knowing of it a jog would be out of its reach.
    expect(line.master.snapshot().driven).toEqual([one.station]);
    send(jog.release);
    line.clock.advanceBy(30_000_000);
    expect(drive.isTurning()).toBe(false);
  });

  it('the two directions are two requests', async () => {
    const { jogs } = await jogging(one);
    expect(jogs.map(({ id }) => id)).toEqual(['forward', 'backward']);
    const [forward, backward] = jogs.map(({ press }) => press.map((bytes) => bytesToHex(bytes)).join());
    expect(forward).not.toBe(backward);
  });
});

it('says why there is none: no speed typed, a mode without a speed reference', async () => {
  const line = await standinLine('wren', 'modbus-rtu', [7], K1);
  const places = line.protocol.placesOf(line.index);
  expect(jogsOf(line.index, places, 7, () => undefined, null)).toMatchObject({
    kind: 'none',
    why: expect.stringMatching(/type the speed/) as unknown,
  });
  const bare = { ...shippedIndex('linnet') };
  expect(jogsOf(bare, places, 7, () => undefined, null).kind).toBe('none');
});
