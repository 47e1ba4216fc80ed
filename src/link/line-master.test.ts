import { bytesToHex } from '../core/bytes/hex';
import { K1, k1, rtu } from '../../tests/harness/line';
import { CALM } from '../standin/disturbance';

const ENABLE = '02C1 0005';
const RUN = '02C1 000D';
const STOP = '02C1 0004';

describe('a user’s exchange', () => {
  it('reads status, torque, current and speed of the fan, and pairs the reply', async () => {
    const line = await k1();
    const result = line.ask('03 03 0182 0004');
    expect(result?.outcome).toBe('answered');
    expect(bytesToHex(result?.reply ?? [])).toMatch(/^030308/);
    expect(line.entries.map(({ direction, outcome }) => `${direction} ${outcome}`)).toEqual([
      'event opened',
      'sent none',
      'received answered',
    ]);
  });

  it('opens without sending', async () => {
    const line = await k1();
    line.ms(60_000);
    expect(line.entries.map(({ outcome }) => outcome)).toEqual(['opened']);
  });

  it('tells an exception as certain', async () => {
    const line = await k1();
    const result = line.ask('03 06 0182 0001');
    expect(result?.outcome).toBe('exception');
    expect([...(result?.reply ?? [])].slice(0, 3)).toEqual([3, 0x86, 2]);
  });

  it('times out on a station that is not there, and stays quiet for one more time-out', async () => {
    const line = await k1();
    line.master.send(9, rtu('09 03 0182 0001'), 'test', 1);
    line.master.send(3, rtu('03 03 0182 0001'), 'test', 2);
    line.ms(1_000);
    const [silent, answered] = line.results;
    expect(silent?.outcome).toBe('timeout');
    expect(answered?.outcome).toBe('answered');
    const second = line.entries.filter(({ direction }) => direction === 'sent')[1];
    expect(second?.atUs).toBeGreaterThanOrEqual((silent?.endedUs ?? 0) + 200_000);
  });

  it('keeps requests in the order of the presses', async () => {
    const line = await k1();
    for (const value of ['0001', '0002', '0003']) line.master.send(3, rtu(`03 06 02C3 ${value}`), 'test', 0);
    line.ms(1_000);
    expect(line.results.map(({ reply }) => reply?.[5])).toEqual([1, 2, 3]);
  });

  it('sends nothing on a closed line and says so', async () => {
    const line = await k1({ open: false });
    expect(line.ask('03 03 0182 0001')?.outcome).toBe('closed');
    expect(line.entries).toEqual([]);
  });

  it('takes a broadcast as sent, and both drives obey', async () => {
    const line = await k1();
    expect(line.ask(`00 06 ${ENABLE}`, 0)?.outcome).toBe('sent');
    expect(line.ask('03 03 02C1 0001')?.reply?.[4]).toBe(5);
    expect(line.ask('07 03 02C1 0001')?.reply?.[4]).toBe(5);
  });
});

describe('a bit rate that waits for a restart', () => {
  it('answers at the old rate until the drive was off and on, then not at all', async () => {
    const line = await k1();
    line.ask('03 06 0142 0005');
    line.ask('03 06 02FC 0001');
    expect(line.ask('03 03 0182 0001')?.outcome).toBe('answered');
    line.drive(3).powerCycle();
    expect(line.ask('03 03 0182 0001')?.outcome).toBe('timeout');
    expect(line.ask('07 03 0182 0001')?.outcome).toBe('answered');
  });
});

it('a line that babbles without a pause is cut into pieces, and Stop gets through afterwards', async () => {
  const line = await k1();
  line.master.send(3, rtu('03 03 0182 0001'), 'test', 1);
  line.ms(8);
  line.yard.bus.transmit(
    { side: 'drives', settings: () => K1, hear: () => undefined },
    new Uint8Array(3000).fill(0x55),
  );
  line.ms(4_000);
  const junk = line.entries.filter(({ direction }) => direction === 'received').map(({ bytes }) => bytes.length);
  expect(junk.length).toBeGreaterThan(3);
  expect(Math.max(...junk)).toBeLessThanOrEqual(513);
  line.master.stop(3);
  line.ms(2_000);
  expect(line.stops[line.stops.length - 1]?.outcomes[0]?.outcome).toBe('stopped');
});

describe('keep-alive', () => {
  it('starts with the press that sends a run word and keeps the drive running beyond its watchdog time', async () => {
    const line = await k1();
    line.ask(`03 06 ${ENABLE}`);
    expect(line.master.snapshot().keepAlives).toEqual([]);
    line.ask(`03 06 ${RUN}`);
    expect(line.master.snapshot().keepAlives).toMatchObject([
      { station: 3, word: 0x000d, everyUs: 3_200_000 / 3, untilUs: null },
    ]);
    line.ms(20_000);
    expect(line.drive(3).isTurning()).toBe(true);
  });

  it('follows the drive’s own watchdog time once it was written', async () => {
    const line = await k1();
    line.ask('03 06 0144 0009');
    line.ask(`03 06 ${RUN}`);
    expect(line.master.snapshot().keepAlives[0]?.everyUs).toBe(300_000);
    line.ms(10_000);
    expect(line.drive(3).isTurning()).toBe(true);
  });

  it('is not starved by a silent station that is polled and by the other drive’s keep-alive', async () => {
    const line = await k1();
    line.ask(`03 06 ${RUN}`);
    line.ask(`07 06 ${RUN}`);
    line.master.setPoll([
      { station: 44, bytes: rtu('2C 03 0182 0001'), everyUs: 0 },
      { station: 3, bytes: rtu('03 03 0182 0004'), everyUs: 0 },
    ]);
    line.ms(60_000);
    expect([line.drive(3).isTurning(), line.drive(7).isTurning()]).toEqual([true, true]);
  });

  it('lets the word that stops take the place of the run word, and ends', async () => {
    const line = await k1();
    line.ask(`03 06 ${RUN}`);
    line.ask(`03 06 ${STOP}`);
    expect(line.master.snapshot().keepAlives).toMatchObject([{ word: 4 }]);
    line.ms(30_000);
    expect(line.master.snapshot().keepAlives).toEqual([]);
    expect(
      line.entries
        .filter(({ cause, direction }) => cause === 'keep-alive' && direction === 'sent')
        .every(({ bytes }) => bytes[5] === 4),
    ).toBe(true);
  });
});

describe('polling', () => {
  const read = (station: string) => ({
    station: parseInt(station, 16),
    bytes: rtu(`${station} 03 0182 0004`),
    everyUs: 0,
  });

  it('asks a silent station ever more rarely', async () => {
    const line = await k1();
    line.master.setPoll([read('2C')]);
    line.ms(60_000);
    expect(line.results.length).toBeLessThan(20);
    expect(line.results.every(({ outcome }) => outcome === 'timeout')).toBe(true);
  });

  it('shares the line between two stations', async () => {
    const line = await k1();
    line.master.setPoll([read('03'), read('07')]);
    line.ms(10_000);
    const count = (station: number) => line.results.filter(({ request }) => request.station === station).length;
    expect(Math.abs(count(3) - count(7))).toBeLessThanOrEqual(1);
    expect(count(3)).toBeGreaterThan(200);
  });

  it('lets a user’s request wait for one exchange at most', async () => {
    const line = await k1();
    line.master.setPoll([read('03')]);
    line.ms(1_003);
    const pressedUs = line.clock.now();
    line.master.send(7, rtu('07 03 0182 0001'), 'test', 5);
    line.ms(200);
    const sent = line.entries.find(({ station, direction }) => station === 7 && direction === 'sent');
    expect((sent?.atUs ?? Infinity) - pressedUs).toBeLessThan(30_000);
  });
});

describe('an adapter that hears what it sends', () => {
  it('a write whose echo is left out is answered by the drive only', async () => {
    const line = await k1();
    line.yard.disturb({ ...CALM, echo: true });
    line.master.setEcho(true);
    expect(line.ask('03 06 0144 0028')?.outcome).toBe('answered');
    expect(line.entries.filter(({ outcome }) => outcome === 'stray')).toEqual([]);
    line.drive(3).powerOff();
    // The echo of a write is the same bytes as its answer: nobody answers, and that is told.
    expect(line.ask('03 06 0144 0028')?.outcome).toBe('timeout');
  });

  it('bytes that differ from what was sent are no echo and are not lost', async () => {
    const line = await k1();
    line.master.setEcho(true);
    expect(line.ask('03 03 0182 0001')?.outcome).toBe('answered');
  });
});

describe('while a shaft turns by this bench', () => {
  it.each([
    ['new settings', (line: Awaited<ReturnType<typeof k1>>) => line.master.reconfigure({ ...K1, rate: 9600 })],
    ['a break', (line: Awaited<ReturnType<typeof k1>>) => line.master.sendBreak(300)],
    [
      'a sweep',
      (line: Awaited<ReturnType<typeof k1>>) =>
        line.master.startSweep({
          kind: 'settings',
          steps: [{ station: 3, bytes: rtu('03 03 0182 0001'), settings: { ...K1, rate: 9600 } }],
          from: 0,
          timeoutUs: 60_000,
          own: K1,
          untilFound: true,
        }),
    ],
  ])('%s is refused with a sentence, and Stop gets through', async (_, act) => {
    const line = await k1();
    line.ask(`03 06 ${ENABLE}`);
    line.ask(`03 06 ${RUN}`);
    act(line);
    line.ms(500);
    expect(line.entries.some(({ outcome, cause }) => outcome === 'trouble' && cause.includes('press Stop first'))).toBe(
      true,
    );
    line.master.stop(3);
    line.ms(20_000);
    expect(line.stops.at(-1)?.outcomes).toMatchObject([{ station: 3, outcome: 'stopped' }]);
    expect(line.master.snapshot().driven).toEqual([]);
  });
});

describe('functions that reach the control word in other ways', () => {
  it('a mask write that may set run counts as driving, and its guess is never sent again as a word', async () => {
    const line = await k1();
    line.ask('03 16 02C1 0000 000D');
    expect(line.master.snapshot().driven).toEqual([3]);
    expect(line.master.snapshot().keepAlives).toEqual([]);
    line.master.stop(3);
    line.ms(20_000);
    expect(line.stops.at(-1)).toMatchObject({ over: true, outcomes: [{ station: 3, outcome: 'stopped' }] });
  });

  it('17 with a run word starts its keep-alive like any other write', async () => {
    const line = await k1();
    line.ask('03 17 0182 0001 02C1 0001 02 000D');
    expect(line.master.snapshot().keepAlives).toMatchObject([{ station: 3, word: 0x0d }]);
  });
});
