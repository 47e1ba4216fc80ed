import { RTU } from '../modbus/framing';
import { k1, rtu } from '../../../tests/harness/line';
import { ternIndex } from '../../../tests/harness/sheets';
import type { TraceEntry } from './entry';
import { registerLink } from '../places/register-link';
import { trendOf } from './trend';

/** A trace as a real evening makes it: a fan that is watched, run, unplugged and plugged in again. */
async function evening(): Promise<readonly TraceEntry[]> {
  const line = await k1();
  line.master.setPoll([{ station: 3, bytes: rtu('03 03 0182 0004'), everyUs: 200_000 }]);
  line.ms(2_000);
  line.ask('03 06 0243 0F45');
  line.ask('03 06 0241 000D');
  line.ms(4_000);
  line.yard.bus.disturbance = { ...line.yard.bus.disturbance, loseReply: 1 };
  line.ms(3_000);
  line.yard.bus.disturbance = { ...line.yard.bus.disturbance, loseReply: 0 };
  line.ms(3_000);
  return line.entries.map((entry, sequence) => ({ ...entry, session: 's', line: 'K1', sequence }));
}

it('shows the ramp, the reference as written, and gaps as gaps', async () => {
  const trend = trendOf(await evening(), 's', 'K1', 3, ternIndex(), registerLink(ternIndex(), RTU));
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
  const trend = trendOf(await evening(), 's', 'K1', 3, ternIndex(), registerLink(ternIndex(), RTU));
  expect(trend.sent.map(({ text }) => text)).toEqual(['test', 'test']);
});

it('has a track for every status bit that counts, and the turning bit rises once', async () => {
  const trend = trendOf(await evening(), 's', 'K1', 3, ternIndex(), registerLink(ternIndex(), RTU));
  expect(trend.bits.map(({ name }) => name)).not.toContain('heartbeat');
  const turning = trend.bits.find(({ name }) => name === 'turning')!.points.filter(({ y }) => y !== null);
  const rises = turning.filter(({ y }, i) => y === 1 && turning[i - 1]?.y === 0);
  expect(rises).toHaveLength(1);
});

it('leaves other sessions, lines and stations out', async () => {
  const entries = await evening();
  const shown = (session: string, line: string, station: number) =>
    trendOf(entries, session, line, station, ternIndex(), registerLink(ternIndex(), RTU)).actual;
  expect([shown('x', 'K1', 3), shown('s', 'K2', 3), shown('s', 'K1', 7)]).toEqual([[], [], []]);
});
