import { CALM } from '../standin/disturbance';
import { k1, rtu } from '../../tests/harness/line';

const RUN_3 = '03 06 02C1 000D';
const RUN_7 = '07 06 02C1 000D';
const STOP_WORD = [0x02, 0xc1, 0x00, 0x04];

type Line = Awaited<ReturnType<typeof k1>>;
const last = (line: Line) => line.stops[line.stops.length - 1];
const outcomes = (line: Line) => last(line)?.outcomes.map(({ station, outcome }) => `${station} ${outcome}`);

describe('Stop, from every state of the line: the outcome shown is the true one', () => {
  it('idle: the running fan stands, and the drive says so', async () => {
    const line = await k1();
    line.ask(RUN_3);
    line.ms(2_000);
    expect(line.drive(3).isTurning()).toBe(true);
    line.master.stop(3);
    line.ms(10_000);
    expect(outcomes(line)).toEqual(['3 stopped']);
    expect(line.drive(3).isTurning()).toBe(false);
    expect(line.master.snapshot()).toMatchObject({ keepAlives: [], driven: [], stopping: [] });
  });

  it('polling at full rate: stops within a few exchanges, and polling goes on', async () => {
    const line = await k1();
    line.master.setPoll([{ station: 3, bytes: rtu('03 03 0182 0004'), everyUs: 0 }]);
    line.ask(RUN_3);
    const pressedUs = line.clock.now();
    line.master.stop(3);
    line.ms(10_000);
    const word = line.entries.find(({ cause, direction }) => cause === 'Stop' && direction === 'sent');
    expect((word?.atUs ?? Infinity) - pressedUs).toBeLessThan(60_000);
    expect(outcomes(line)).toEqual(['3 stopped']);
    expect(line.results[line.results.length - 1]?.request.priority).toBe('poll');
  });

  it('waiting for a silent station: does not wait for its time-out', async () => {
    const line = await k1();
    line.ask(RUN_3);
    line.master.send(99, rtu('63 03 0182 0001'), 'test', 1);
    line.ms(20);
    const pressedUs = line.clock.now();
    line.master.stop(3);
    line.ms(10_000);
    const word = line.entries.find(({ cause, direction }) => cause === 'Stop' && direction === 'sent');
    expect((word?.atUs ?? Infinity) - pressedUs).toBeLessThan(50_000);
    expect(outcomes(line)).toEqual(['3 stopped']);
  });

  it('while a request is leaving: the frame on the wire ends, what is queued is dropped', async () => {
    const line = await k1();
    line.ask(RUN_3);
    line.master.send(3, rtu('03 03 0182 0004'), 'test', 1);
    line.master.send(3, rtu(RUN_3), 'test', 2);
    line.ms(2);
    line.master.stop(3);
    line.ms(10_000);
    expect(line.results.find(({ request }) => request.ticket === 2)?.outcome).toBe('abandoned');
    expect(outcomes(line)).toEqual(['3 stopped']);
  });

  it('silent station: no answer is told after three tries; it is tried on ever more rarely, for a minute at most', async () => {
    const line = await k1();
    line.ask(RUN_3);
    line.yard.bus.disturbance = { ...line.yard.bus.disturbance, loseReply: 1 };
    const before = line.entries.length;
    line.master.stop(3);
    const tries = () =>
      line.entries.slice(before).filter(({ cause, direction }) => cause === 'Stop' && direction === 'sent').length;
    line.ms(500);
    expect(tries()).toBe(3);
    expect(last(line)?.over).toBe(true);
    expect(outcomes(line)).toEqual(['3 no-answer']);
    line.ms(10_000);
    expect(tries()).toBeLessThan(15);
    line.ms(100_000);
    const atTheEnd = tries();
    line.ms(100_000);
    expect(tries()).toBe(atTheEnd);
  });

  it('closed: not sent, and it says why', async () => {
    const line = await k1();
    line.ask(RUN_3);
    await line.master.close();
    line.master.stop(3);
    expect(last(line)).toEqual({
      over: true,
      outcomes: [{ station: 3, outcome: 'not-sent', why: 'the line is closed', atUs: null }],
    });
  });

  it('closed while it is under way: no answer', async () => {
    const line = await k1();
    line.ask(RUN_3);
    line.ms(2_000);
    line.master.stop(3);
    line.ms(300);
    await line.master.close();
    expect(outcomes(line)).toEqual(['3 no-answer']);
  });

  it('a station without a sheet: not sent', async () => {
    const line = await k1();
    line.master.stop(12);
    expect(outcomes(line)).toEqual(['12 not-sent']);
  });

  it('a drive in local that obeys nobody: answered but still turning is told only after its time', async () => {
    const line = await k1();
    line.ask('03 06 02C5 2BA2');
    line.ask('03 06 02C2 1770');
    line.ask(RUN_3);
    line.ask('03 06 02C3 2BA2');
    line.ms(30_000);
    line.master.stop(3);
    line.ms(15_000);
    expect(outcomes(line)).toEqual(['3 under-way']);
    line.ms(10_000);
    expect(outcomes(line)).toEqual(['3 still-turning']);
    expect(line.drive(3).isTurning()).toBe(true);
  });

  it('several drives: the current one first, then every one that this bench set in motion', async () => {
    const line = await k1();
    line.ask(RUN_7);
    line.ask(RUN_3);
    const before = line.entries.length;
    line.master.stop(3);
    line.ms(20_000);
    const words = line.entries
      .slice(before)
      .filter(({ direction, bytes }) => direction === 'sent' && STOP_WORD.every((byte, i) => bytes[2 + i] === byte));
    expect(words.slice(0, 2).map(({ station }) => station)).toEqual([3, 7]);
    expect([...(outcomes(line) ?? [])].sort()).toEqual(['3 stopped', '7 stopped']);
  });

  it('remembers a drive that was moved by a broadcast or by a frame made by hand', async () => {
    const line = await k1();
    line.ask('00 10 02C1 0001 02 000D', 0);
    expect(line.master.snapshot().driven).toEqual([3, 7]);
    line.master.stop(3);
    line.ms(20_000);
    expect([line.drive(3).isTurning(), line.drive(7).isTurning()]).toEqual([false, false]);
  });

  it('under noise: whatever it says, a drive told as stopped stands', async () => {
    for (let seed = 1; seed <= 40; seed++) {
      const line = await k1({ seed });
      line.ask(RUN_3);
      line.yard.bus.disturbance = {
        ...CALM,
        dropByte: 0.02,
        flipBits: 0.02,
        loseReply: 0.1,
        delayReplyUs: 90_000,
        foreignReply: 0.05,
      };
      line.ms(1_500);
      line.master.stop(3);
      for (let i = 0; i < 3_000 && !last(line)?.over; i++) line.ms(10);
      expect(last(line)?.over).toBe(true);
      if (last(line)?.outcomes[0]?.outcome === 'stopped')
        expect([seed, line.drive(3).isTurning()]).toEqual([seed, false]);
    }
  });

  it('takes no run word while it is under way', async () => {
    const line = await k1();
    line.ask(RUN_3);
    line.ms(2_000);
    line.master.stop(3);
    line.ms(50);
    expect(line.ask(RUN_3)?.outcome).toBe('abandoned');
    line.ms(10_000);
    expect(line.drive(3).isTurning()).toBe(false);
  });
});
