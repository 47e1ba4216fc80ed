import { CALM } from '../standin/disturbance';
import { k1, rtu } from '../../tests/harness/line';
import { isCertain } from './request';

/** Register 11.06, jog speed: each exchange first gives it a number of its own, so that a reply tells which request it answers. */
const JOG = 0x02c6;
const EXCHANGES = 10_000;
const TIMEOUT_US = 60_000;

describe('pairing under delays of 0 to 3 time-outs, drops, corruption and foreign answers', () => {
  it(`never takes another request’s reply for a certain answer in ${EXCHANGES} exchanges`, async () => {
    const line = await k1({ seed: 4711 });
    line.yard.bus.disturbance = {
      ...CALM,
      dropByte: 0.002,
      flipBits: 0.004,
      loseReply: 0.05,
      delayReplyUs: 3 * TIMEOUT_US,
      foreignReply: 0.05,
    };
    const outcomes: Record<string, number> = {};
    const wrong: number[] = [];
    for (let i = 0; i < EXCHANGES; i++) {
      const station = i % 5 === 0 ? 7 : 3;
      const mark = (i % 12_000) + 1;
      line.drive(station).write(JOG, [mark]);
      const before = line.results.length;
      line.master.send(station, rtu(`0${station} 03 02C6 0001`), 'test', i);
      while (line.results.length === before) line.ms(20);
      const result = line.results[before];
      if (!result) throw new Error('no result');
      outcomes[result.outcome] = (outcomes[result.outcome] ?? 0) + 1;
      const told = result.reply ? ((result.reply[3] ?? 0) << 8) | (result.reply[4] ?? 0) : null;
      if (result.outcome === 'answered' && told !== mark) wrong.push(i);
    }
    expect(wrong).toEqual([]);
    // The test is worth something only when all kinds occurred.
    expect(Object.keys(outcomes).sort()).toEqual(['answered', 'damaged', 'foreign', 'timeout']);
    expect(outcomes.answered).toBeGreaterThan(2_000);
    expect(line.entries.some(({ outcome }) => outcome === 'late')).toBe(true);
  }, 120_000);

  it.each([0, 1, 2, 3])(
    'with a delay of %i time-outs for one reply, the next answer is certain only when it cannot be the old one',
    async (timeouts) => {
      const line = await k1({ seed: timeouts + 1 });
      line.drive(3).write(JOG, [111]);
      line.yard.bus.disturbance = {
        ...line.yard.bus.disturbance,
        delayReplyUs: timeouts === 0 ? 0 : timeouts * TIMEOUT_US,
      };
      line.master.send(3, rtu('03 03 02C6 0001'), 'test', 1);
      line.ms(8);
      line.yard.bus.disturbance = { ...line.yard.bus.disturbance, delayReplyUs: 0 };
      line.ms(1);
      line.drive(3).write(JOG, [222]);
      line.master.send(3, rtu('03 03 02C6 0001'), 'test', 2);
      line.ms(2_000);
      const certain = line.results.filter(isCertain).map(({ request, reply }) => [request.ticket, reply?.[4]]);
      for (const [ticket, value] of certain) expect(value).toBe(ticket === 1 ? 111 : 222);
    },
  );
});

describe('replies cut and joined', () => {
  it('takes a reply that comes after noise, and keeps the noise in the trace', async () => {
    const line = await k1();
    line.master.send(3, rtu('03 03 02C6 0001'), 'test', 1);
    // After the drive has seen its 3.5 characters of silence and before it answers.
    line.ms(8);
    line.yard.bus.transmit(
      { side: 'drives', settings: () => line.drive(3).link().settings, hear: () => undefined },
      Uint8Array.of(0xff),
    );
    line.ms(500);
    expect(line.results.map(({ outcome }) => outcome)).toEqual(['answered']);
    expect(
      line.entries.filter(
        ({ direction, bytes }) => direction === 'received' && bytes.length === 1 && bytes[0] === 0xff,
      ),
    ).toHaveLength(1);
  });
});
