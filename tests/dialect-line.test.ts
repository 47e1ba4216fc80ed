import type { SerialSettings } from '../src/core/line/settings';
import { planHalt, planMove } from '../src/standin/move';
import { ascii } from './harness/bytes';
import { standinLine } from './harness/standin-line';

/** Line S1 and its fence axis, byte for byte: the stand-in shares the dialect with the bench, so what counts is what stands here. */
const S1: SerialSettings = { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 };
const COUNTS_PER_MM = 57_344;

const checked = (body: string): string => {
  const xor = [...body].reduce((total, char) => total ^ char.charCodeAt(0), 0);
  return `${body}~${xor.toString(16).toUpperCase().padStart(2, '0')}\r`;
};

async function s1() {
  const line = await standinLine('pipit', 'ascii', [5], S1);
  const say = (body: string): string => {
    const { outcome, reply } = line.ask(ascii(checked(body)), 400);
    return reply ? String.fromCharCode(...reply) : outcome;
  };
  return { ...line, say };
}

it.each([
  ['05.pos?', checked('05.pos=0')],
  ['05.spd?', checked('05.spd=9175040')],
  ['05.acc:=200000', checked('05.ok')],
  ['05.spd=15', checked('05.no03')],
  ['05.goa!', checked('05.no04')],
  ['05.pos=1', checked('05.no02')],
  ['05.xyz?', checked('05.no01')],
  ['05.mot?', checked('05.mot=00000000')],
  ['05.who?', checked('05.who=Pipit 1.04')],
])('%s is answered %j', async (body, answer) => {
  const { say } = await s1();
  expect(say(body)).toBe(answer);
});

it('another station and a wrong check get no answer', async () => {
  const line = await s1();
  const { say } = line;
  expect(say('06.pos?')).toBe('timeout');
  expect(line.ask(ascii('05.pos?~00\r'), 400).outcome).toBe('timeout');
});

it('mode 4 holds the shaft; an absolute move ends at its target, with its bits on the way', async () => {
  const { say, clock, yard } = await s1();
  expect(say('05.mod=4')).toBe(checked('05.ok'));
  expect(say('05.mot?')).toContain('mot=00000201');
  say(`05.tgt=${20 * COUNTS_PER_MM}`);
  expect(say('05.goa!')).toContain('ok');
  expect(say('05.mot?')).toContain('mot=00000021');
  expect(say('05.goa!')).toContain('no06');
  expect(yard.anyTurning()).toBe(true);
  clock.advanceBy(5_000_000);
  expect(say('05.pos?')).toContain(`pos=${20 * COUNTS_PER_MM}`);
  expect(say('05.mot?')).toContain('mot=00000201');
  say('05.dst=-57344');
  say('05.gor!');
  clock.advanceBy(3_000_000);
  expect(say('05.pos?')).toContain(`pos=${19 * COUNTS_PER_MM}`);
});

it('Stop halts a move, and the motion word says so', async () => {
  const { say, master, stops, clock } = await s1();
  say('05.mod=4');
  say('05.spd=917504');
  say(`05.tgt=${500 * COUNTS_PER_MM}`);
  say('05.goa!');
  expect(master.snapshot().driven).toEqual([5]);
  master.stop(5);
  clock.advanceBy(4_000_000);
  expect(stops.at(-1)).toMatchObject({ over: true, outcomes: [{ station: 5, outcome: 'stopped' }] });
  expect(say('05.vel?')).toBe(checked('05.vel=0'));
});

it('working values are lost with power, kept ones are not, and a new limit waits for the restart', async () => {
  const { say, clock, kept } = await s1();
  say('05.spd=917504');
  say('05.acc:=3584');
  say('05.lim:=458752');
  expect(kept[5]).toMatchObject({ 'acceleration.0': 3584, 'speed-limit.0': 458_752 });
  say('05.mod=4');
  say('05.tgt=5734400');
  say('05.goa!');
  clock.advanceBy(2_000_000);
  expect(say('05.vel?')).toContain('vel=917504');
  say('05.rst!');
  expect(say('05.pos?')).toBe('timeout');
  clock.advanceBy(1_500_000);
  expect(say('05.spd?')).toContain('spd=9175040');
  expect(say('05.acc?')).toContain('acc=3584');
  say('05.mod=4');
  say('05.tgt=5734400');
  say('05.goa!');
  clock.advanceBy(3_000_000);
  expect(say('05.vel?')).toContain('vel=458752');
});

it('a fault leaves the shaft free until its cause is gone and it is cleared', async () => {
  const { say, yard } = await s1();
  say('05.mod=4');
  yard.drives.get(5)?.setHands({ selector: 'remote', liveFault: 31 });
  expect(say('05.flt?')).toContain('flt=031');
  expect(say('05.mot?')).toContain('mot=00004000');
  expect(say('05.clr!')).toContain('no04');
  yard.drives.get(5)?.setHands({ selector: 'remote', liveFault: 0 });
  expect(say('05.clr!')).toContain('ok');
  expect(say('05.flt?')).toContain('flt=000');
});

describe('moves (kinematics: s = v t - v^2 / a for a trapezoid)', () => {
  it.each([
    ['trapezoid', 1000, 100, 200, 10 + 0.5],
    ['trapezoid, too short for its speed', 50, 1000, 200, 1],
    ['there and back', -1000, 100, 200, 10.5],
  ] as const)('%s', (_, to, speed, acceleration, seconds) => {
    const move = planMove(0, to, { speed, acceleration, deceleration: acceleration });
    expect(move.seconds).toBeCloseTo(seconds, 9);
    expect(move.at(seconds / 2)).toBeCloseTo(to / 2, 6);
    expect(move.at(seconds)).toBe(to);
    expect(Math.abs(move.speedAt(seconds / 2))).toBeCloseTo(Math.min(speed, Math.sqrt(Math.abs(to) * acceleration)), 9);
  });

  it.each(['trapezoid', 'soft'] as const)(
    '%s: speed is the slope of the position, never above its limits',
    (profile) => {
      const [speed, acceleration, step] = [120, 300, 1e-5];
      const move = planMove(10, 200, { speed, acceleration, deceleration: acceleration }, profile);
      for (let t = 0.01; t < move.seconds - 0.01; t += 0.01) {
        const slope = (move.at(t + step) - move.at(t - step)) / (2 * step);
        expect(move.speedAt(t)).toBeCloseTo(slope, 2);
        expect(slope).toBeLessThanOrEqual(speed + 1e-6);
        expect(Math.abs(move.speedAt(t + step) - move.speedAt(t - step)) / (2 * step)).toBeLessThanOrEqual(
          acceleration + 0.01,
        );
      }
    },
  );

  it('a halt takes v / a seconds and v^2 / 2a of way', () => {
    const halt = planHalt(100, -60, 30);
    expect(halt.seconds).toBe(2);
    expect(halt.at(2)).toBeCloseTo(100 - 60, 9);
    expect(halt.speedAt(1)).toBe(-30);
  });
});

it('what is typed key by key goes out at the pace of the line, and the answer is heard', async () => {
  const line = await standinLine('pipit', 'ascii', [5], { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 });
  const whole = line.protocol.harmless(5, line.index)!;
  const startUs = line.clock.now();
  for (const byte of whole) line.master.send(5, Uint8Array.of(byte), 'Terminal', 1);
  line.clock.advanceBy(1_000_000);
  const sent = line.entries.filter(({ direction }) => direction === 'sent');
  expect(sent).toHaveLength(whole.length);
  // 1.04 ms a character at 9600 bit/s, and some silence after each: far from a time-out a key.
  expect((sent[sent.length - 1]?.atUs ?? Infinity) - startUs).toBeLessThan(whole.length * 10_000);
  expect(line.results.every(({ outcome }) => outcome === 'sent')).toBe(true);
});
