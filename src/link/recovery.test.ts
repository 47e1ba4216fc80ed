import { CALM, type Disturbance } from '../standin/disturbance';
import { seededRandom, pick } from '../core/random/random';
import { k1, rtu } from '../../tests/harness/line';
import { isCertain } from './request';

/** Register 11.06, jog speed: each exchange first gives it a number of its own, so that a reply tells which request it answers. */
const JOG = 0x02c6;
/** Of sheet Tern: its reply time is the line's time-out. */
const TIMEOUT_US = 60_000;
const SEEDS = 10_000;
const RUN = '03 06 02C1 000D';

type Line = Awaited<ReturnType<typeof k1>>;

const disturbed = (random: () => number): Disturbance => ({
  ...CALM,
  loseReply: random() < 0.5 ? 0.3 * random() : 0,
  delayReplyUs: random() < 0.5 ? 3 * TIMEOUT_US * random() : 0,
  foreignReply: random() < 0.3 ? 0.2 : 0,
  doubleReply: random() < 0.3 ? 0.3 : 0,
  dropByte: random() < 0.3 ? 0.01 : 0,
});

const markIn = (reply: Uint8Array | null): number | null => (reply ? ((reply[3] ?? 0) << 8) | (reply[4] ?? 0) : null);

/** One read of a register that has just got a mark of its own; false where a certain answer brings another one. */
function readMarked(line: Line, station: number, mark: number): { certain: boolean; right: boolean; startUs: number } {
  line.drive(station).write(JOG, [mark]);
  const before = line.results.length;
  line.master.send(station, rtu(`0${station} 03 02C6 0001`), 'test', mark);
  for (let i = 0; i < 400 && line.results.length === before; i++) line.ms(10);
  const result = line.results[before];
  if (!result) throw new Error('a read that never ends');
  const certain = isCertain(result);
  return { certain, right: !certain || markIn(result.reply) === mark, startUs: result.sentUs };
}

describe(`the line is certain again, over ${SEEDS} seeds`, () => {
  it('no answer is ever another request’s, and the second exchange after the last disturbance is certain', async () => {
    const wrong: number[] = [];
    const doubtful: number[] = [];
    let uncertain = 0;
    for (let seed = 1; seed <= SEEDS; seed++) {
      const random = seededRandom(seed);
      const line = await k1({ seed });
      line.yard.bus.disturbance = disturbed(random);
      for (let i = 0; i < 5; i++) {
        const { certain, right } = readMarked(line, pick(random, 3) === 0 ? 7 : 3, i + 1);
        if (!right) wrong.push(seed);
        if (!certain) uncertain++;
      }
      line.yard.bus.disturbance = CALM;
      // A reply that was delayed may still be on its way for three time-outs.
      const quietUs = line.clock.now() + 3 * TIMEOUT_US + 20_000;
      let since = 0;
      for (let i = 0; since < 2; i++) {
        const { certain, right, startUs } = readMarked(line, 3, 100 + i);
        if (!right) wrong.push(seed);
        if (startUs > quietUs) since++;
        if (since === 2 && !certain) doubtful.push(seed);
      }
    }
    expect(wrong).toEqual([]);
    expect(doubtful).toEqual([]);
    // The law is worth something only where there was doubt.
    expect(uncertain).toBeGreaterThan(SEEDS / 2);
  }, 240_000);
});

it('with a twentieth of the replies lost, every read that was answered is certain, and a watch of four blocks goes on', async () => {
  const line = await k1({ seed: 8 });
  line.yard.bus.disturbance = { ...CALM, loseReply: 0.05 };
  line.master.setPoll(
    ['0182 0001', '02C1 0001', '02C3 0001', '02C6 0001'].map((at) => ({
      station: 3,
      bytes: rtu(`03 03 ${at}`),
      everyUs: 200_000,
    })),
  );
  let certain = 0;
  for (let i = 1; i <= 2000; i++) if (readMarked(line, 3, i).certain) certain++;
  expect(certain).toBeGreaterThan(1_860);
  const before = line.results.length;
  line.ms(10_000);
  const polls = line.results.slice(before).filter(isCertain);
  const perBlock = ['0182', '02C1', '02C3', '02C6'].map(
    (at) =>
      polls.filter(({ request }) => (((request.bytes[2] ?? 0) << 8) | (request.bytes[3] ?? 0)) === parseInt(at, 16))
        .length,
  );
  for (const count of perBlock) expect(count).toBeGreaterThan(25);
}, 60_000);

describe('Stop', () => {
  it('goes through with one lost reply, and what was driven blocks nothing afterwards', async () => {
    const line = await k1();
    line.ask(RUN);
    line.ms(1_000);
    line.yard.bus.disturbance = { ...CALM, loseReply: 1 };
    line.master.stop(3);
    line.ms(60);
    line.yard.bus.disturbance = CALM;
    line.ms(8_000);
    expect(line.stops[line.stops.length - 1]).toMatchObject({ over: true, outcomes: [{ outcome: 'stopped' }] });
    expect(line.master.snapshot()).toMatchObject({ driven: [], stopping: [], keepAlives: [] });
  });

  it('a second press during the third try begins anew', async () => {
    const line = await k1();
    line.ask(RUN);
    line.yard.bus.disturbance = { ...CALM, loseReply: 1 };
    line.master.stop(3);
    line.ms(270);
    const before = line.entries.length;
    line.master.stop(3);
    line.yard.bus.disturbance = CALM;
    line.ms(10_000);
    expect(
      line.entries.slice(before).filter(({ direction, cause }) => direction === 'sent' && cause === 'Stop').length,
    ).toBeGreaterThan(1);
    expect(line.stops[line.stops.length - 1]).toMatchObject({ over: true, outcomes: [{ outcome: 'stopped' }] });
  });

  it('tries a refused stop word three times, tells it as refused, and never as confirmed', async () => {
    const line = await k1();
    line.ask(RUN);
    line.ms(1_000);
    const drive = line.drive(3);
    jest.spyOn(drive, 'write').mockReturnValue(4);
    const before = line.entries.length;
    line.master.stop(3);
    line.ms(25_000);
    const tries = line.entries.slice(before).filter(({ direction, bytes }) => direction === 'sent' && bytes[1] === 6);
    expect(tries.length).toBeGreaterThanOrEqual(3);
    const [told] = line.stops[line.stops.length - 1]?.outcomes ?? [];
    expect(told?.outcome).toBe('refused');
    expect(told?.why).toMatch(/refused the stop word: exception 4/);
    expect(told?.why).not.toMatch(/confirmed/);
  });

  it('corrects what it told when a silent drive answers later', async () => {
    const line = await k1();
    line.ask(RUN);
    line.ms(1_000);
    line.yard.bus.disturbance = { ...CALM, open: 'everywhere' };
    line.master.stop(3);
    line.ms(3_000);
    expect(line.stops[line.stops.length - 1]).toMatchObject({ over: true, outcomes: [{ outcome: 'no-answer' }] });
    line.yard.bus.disturbance = CALM;
    line.ms(15_000);
    const told = line.stops[line.stops.length - 1]?.outcomes[0];
    expect(told?.outcome).toBe('stopped');
    expect(told?.atUs).toBeGreaterThan(4_000_000);
    expect(line.master.snapshot().driven).toEqual([]);
  });

  it('ends for a drive that never answers: later work is not blocked, a person’s word takes it off the list', async () => {
    const line = await k1();
    line.ask(RUN);
    line.yard.bus.disturbance = { ...CALM, open: 'everywhere' };
    line.master.stop(3);
    line.ms(1_000);
    expect(line.ask('03 03 0182 0001')?.outcome).toBe('timeout');
    expect(line.master.snapshot().driven).toEqual([3]);
    line.master.seenStanding(3);
    expect(line.master.snapshot().driven).toEqual([]);
    line.ms(70_000);
    const before = line.entries.length;
    line.ms(60_000);
    expect(line.entries.slice(before).filter(({ direction }) => direction === 'sent')).toEqual([]);
  });
});

describe('keep-alive', () => {
  it('no dead station starves a running drive’s watchdog, whoever asks it and at 5 % loss', async () => {
    for (let seed = 1; seed <= 20; seed++) {
      const line = await k1({ seed });
      // 5.04, the watchdog time: 0.5 s in tenths.
      line.drive(3).write(0x0144, [5]);
      line.ask('03 03 0144 0001');
      line.ask('03 06 02C2 1770');
      line.ask(RUN);
      line.ms(1_000);
      line.yard.bus.disturbance = { ...CALM, loseReply: 0.05 };
      line.master.setPoll(
        [99, 98].map((station) => ({ station, bytes: rtu(`${station.toString(16)} 03 0182 0001`), everyUs: 0 })),
      );
      for (let i = 0; i < 200; i++) {
        line.master.send(99, rtu('63 03 0182 0001'), 'test', 1);
        line.ms(100);
      }
      expect([seed, line.drive(3).isTurning(), line.master.snapshot().ended]).toEqual([seed, true, []]);
    }
  }, 60_000);

  it.each<[string, (line: Line) => void, RegExp]>([
    ['a drive that restarted', (line) => line.drive(3).powerCycle(), /does not hold the word|no sure answer/],
    ['a drive that reports a fault', (line) => line.drive(3).setHands({ selector: 'remote', liveFault: 12 }), /fault/],
    [
      'a cable that was open for longer than the drive waits',
      (line) => {
        line.yard.bus.disturbance = { ...CALM, open: 'everywhere' };
        line.ms(5_000);
        line.yard.bus.disturbance = CALM;
      },
      /no sure answer came for as long/,
    ],
  ])('%s is not set going again, and the reason stays', async (_, happen, why) => {
    const line = await k1();
    line.ask('03 06 02C2 1770');
    line.ask(RUN);
    line.ms(3_000);
    expect(line.drive(3).isTurning()).toBe(true);
    happen(line);
    line.ms(40_000);
    line.drive(3).setHands({ selector: 'remote', liveFault: 0 });
    line.ask('03 06 02C1 0200');
    line.ms(20_000);
    expect(line.drive(3).isTurning()).toBe(false);
    expect(line.master.snapshot()).toMatchObject({
      keepAlives: [],
      ended: [{ station: 3, why: expect.stringMatching(why) as unknown }],
    });
  });

  it('goes on after a lost reply, for the drive still holds the word', async () => {
    const line = await k1();
    line.ask(RUN);
    line.ms(3_000);
    line.yard.bus.disturbance = { ...CALM, loseReply: 1 };
    line.ms(700);
    line.yard.bus.disturbance = CALM;
    line.ms(20_000);
    expect(line.drive(3).isTurning()).toBe(true);
    expect(line.master.snapshot().keepAlives).toHaveLength(1);
  });
});

describe('sleep', () => {
  it('sends nothing from the past: what was due is dropped, the run word is not repeated, one entry says it', async () => {
    const line = await k1();
    line.ask(RUN);
    line.master.setPoll([{ station: 3, bytes: rtu('03 03 0182 0001'), everyUs: 200_000 }]);
    line.ms(2_000);
    const before = line.entries.length;
    line.master.fellAsleep(30);
    line.ms(30_000);
    expect(line.entries.slice(before).filter(({ direction }) => direction === 'sent')).toEqual([]);
    line.master.awoke();
    line.ms(300);
    const sent = line.entries.slice(before).filter(({ direction }) => direction === 'sent');
    expect(sent.every(({ cause }) => cause === 'poll')).toBe(true);
    expect(sent.length).toBeLessThan(4);
    expect(line.entries.filter(({ outcome }) => outcome === 'asleep')).toHaveLength(1);
    expect(line.master.snapshot().ended).toMatchObject([{ station: 3, why: 'asleep for 30 s' }]);
    line.ms(20_000);
    expect(line.drive(3).isTurning()).toBe(false);
  });
});
