import { RTU } from '../modbus/framing';
import { k1, rtu } from '../../../tests/harness/line';
import { ternIndex } from '../../../tests/harness/sheets';
import { indexSheet, type SheetIndex } from '../sheet/index-sheet';
import type { Parameter } from '../sheet/parameter-section';
import type { Sheet } from '../sheet/sheet';
import type { TraceEntry } from './entry';
import { registerLink } from '../places/register-link';
import { TrendReader, type Trend } from './trend';

/** A trace as a real evening makes it: a fan that is watched, run, unplugged and plugged in again. */
async function evening(): Promise<readonly TraceEntry[]> {
  const line = await k1();
  line.master.setPoll([{ station: 3, bytes: rtu('03 03 0182 0004'), everyUs: 200_000 }]);
  line.ms(2_000);
  line.ask('03 06 02C3 0F45');
  line.ask('03 06 02C1 000D');
  line.ms(4_000);
  line.yard.bus.disturbance = { ...line.yard.bus.disturbance, loseReply: 1 };
  line.ms(3_000);
  line.yard.bus.disturbance = { ...line.yard.bus.disturbance, loseReply: 0 };
  line.ms(3_000);
  return line.entries.map((entry, sequence) => ({ ...entry, session: 's', line: 'K1', sequence }));
}

/** The trend of a session's station, of entries picked in the plainest way. */
function trendOf(entries: readonly TraceEntry[], line = 'K1', station = 3): Trend {
  const reader = new TrendReader(ternIndex(), registerLink(ternIndex(), RTU));
  for (const entry of entries) if (entry.line === line && entry.station === station) reader.take(entry);
  return reader.trend();
}

it('shows the ramp, the reference as written, and gaps as gaps', async () => {
  const trend = trendOf(await evening());
  const speeds = trend.actual.filter(({ y }) => y !== null).map(({ y }) => y!);
  expect(speeds[0]).toBe(0);
  expect(Math.max(...speeds)).toBeCloseTo(17.489, 3);
  expect(trend.reference[0]?.y).toBeCloseTo(17.498, 3);
  expect(trend.actual.some(({ y }) => y === null)).toBe(true);
  // Nothing is drawn through the three seconds without an answer.
  const times = trend.actual.filter(({ y }) => y !== null).map(({ x }) => x);
  const widest = Math.max(...times.slice(1).map((x, i) => x - times[i]!));
  expect(widest).toBeGreaterThan(2);
  const at = times.findIndex((x, i) => i > 0 && x - times[i - 1]! === widest);
  const between = trend.actual.filter(({ x }) => x > times[at - 1]! && x < times[at]!);
  expect(between.some(({ y }) => y === null)).toBe(true);
});

it('marks what a person sent, not what was polled or repeated', async () => {
  const trend = trendOf(await evening());
  expect(trend.sent.map(({ text }) => text)).toEqual(['test', 'test']);
});

it('has a track for every status bit that counts, and the turning bit rises once', async () => {
  const trend = trendOf(await evening());
  expect(trend.bits.map(({ name }) => name)).not.toContain('heartbeat');
  const turning = trend.bits.find(({ name }) => name === 'turning')!.points.filter(({ y }) => y !== null);
  const rises = turning.filter(({ y }, i) => y === 1 && turning[i - 1]?.y === 0);
  expect(rises).toHaveLength(1);
});

it('a value that stays is two points, however long it was read, and none is lost where it changes', async () => {
  const entries = await evening();
  const trend = trendOf(entries);
  const answers = entries.filter(({ outcome }) => outcome === 'answered').length;
  const turning = trend.bits.find(({ name }) => name === 'turning')!.points;
  expect(turning.length).toBeLessThan(20);
  expect(answers).toBeGreaterThan(30);
  for (const { points } of [...trend.bits, { points: trend.actual }])
    points.forEach(({ y }, i) => {
      const [before, after] = [points[i - 1], points[i + 1]];
      if (y !== null && before?.y === y) expect(after?.y).not.toBe(y);
    });
});

it('what was read stays as it is while more is taken', async () => {
  const entries = await evening();
  const reader = new TrendReader(ternIndex(), registerLink(ternIndex(), RTU));
  const half = entries.length >> 1;
  entries.slice(0, half).forEach((entry) => reader.take(entry));
  const first = reader.trend();
  const copy = structuredClone(first);
  entries.slice(half).forEach((entry) => reader.take(entry));
  expect(first).toEqual(copy);
  expect(reader.trend()).toEqual(trendOf(entries));
});

const SPEED_AT = { kind: 'register', table: 'holding-register', address: 500 } as const;

/** The fan as if its speed had another form. */
function withSpeed(form: Partial<Parameter>, scalings: Sheet['scalings'] = []): SheetIndex {
  const { sheet } = ternIndex();
  const speed = { role: 'actual-speed', type: 'uint16', unit: 'Hz', ...form, at: [SPEED_AT] } as const;
  return indexSheet({
    ...sheet,
    scalings: [...(sheet.scalings ?? []), ...scalings],
    parameters: (sheet.parameters ?? []).map((own): Parameter =>
      own.role === 'actual-speed' ? { number: own.number, name: own.name, ...speed, at: [...speed.at] } : own,
    ),
  });
}

/** Gives a reader one read of the speed and its answer, a second later. */
function seen(reader: TrendReader, exchange: number, quantity: string, words: string): void {
  const own = { session: 's', line: 'K1', station: 3, exchange, cause: 'poll', lineFaults: [] } as const;
  const [sequence, atUs] = [2 * exchange, 2e6 * exchange];
  const [bytes, reply] = [rtu(`03 03 01F4 ${quantity}`), rtu(`03 03 ${words}`)];
  reader.take({ ...own, sequence, atUs: atUs - 1e6, direction: 'sent', bytes, outcome: 'none' });
  reader.take({ ...own, sequence: sequence + 1, atUs, direction: 'received', bytes: reply, outcome: 'answered' });
}

/** What is drawn of the fan's speed where its entry has another form, from one answer. */
function speedDrawn(form: Partial<Parameter>, quantity: string, words: string, scalings: Sheet['scalings'] = []) {
  const index = withSpeed(form, scalings);
  const reader = new TrendReader(index, registerLink(index, RTU));
  seen(reader, 1, quantity, words);
  return reader.trend().actual;
}

it('a speed of 64 bits is drawn in its unit, as one of 16 is', () => {
  const scale = { kind: 'resolution', value: '0.01' } as const;
  // -1750 counts of a hundredth of a hertz.
  expect(speedDrawn({ type: 'int64', scale }, '0004', '08 FFFF FFFF FFFF F92A')).toEqual([{ x: 2, y: -17.5 }]);
});

it('what was seen under another sheet is drawn by that one: a newer scale moves nothing of it', () => {
  const [old, present] = ['0.01', '0.1'].map((value) => withSpeed({ scale: { kind: 'resolution', value } })) as [
    SheetIndex,
    SheetIndex,
  ];
  const reader = new TrendReader(present, registerLink(present, RTU));
  [old, present].forEach((index, i) => {
    reader.readBy(index, registerLink(index, RTU));
    seen(reader, 1 + i, '0001', '02 06D6');
  });
  expect(reader.trend().actual.map(({ y }) => y)).toEqual([17.5, null, 175]);
});

// By hand: counts of 0.1 from an offset of -20; sign and magnitude with 0x8000 as the sign; decimal digits in four bits each.
it.each<[string, Partial<Parameter>, string, number]>([
  ['an offset', { scale: { kind: 'chain', id: 'shifted' } }, '02 01F4', 30],
  ['a sign of its own', { scale: { kind: 'chain', id: 'signed' } }, '02 80AF', -17.5],
  ['decimal digits', { type: 'bcd16', scale: { kind: 'resolution', value: '0.1' } }, '02 1234', 123.4],
])('a speed with %s is drawn as it is read', (_, form, words, y) => {
  const steps = [{ kind: 'resolution', value: '0.1' }] as const;
  const word = { bits: 16, signed: true } as const;
  const scalings: Sheet['scalings'] = [
    {
      id: 'shifted',
      name: 'shifted',
      chain: { unit: 'Hz', steps: [{ kind: 'offset', add: '20' }, ...steps], rounding: 'nearestHalfUp', word },
    },
    {
      id: 'signed',
      name: 'signed',
      chain: { unit: 'Hz', steps: [...steps], rounding: 'nearestHalfUp', word: { ...word, form: 'sign-magnitude' } },
    },
  ];
  expect(speedDrawn(form, '0001', words, scalings)).toEqual([{ x: 2, y }]);
});
