import fc from 'fast-check';
import { axisOf } from '../src/core/motion/axis';
import { checkMove, type CheckedMove, type MoveWish } from '../src/core/motion/check-move';
import { ratio, type Rational } from '../src/core/scaling/rational';
import { valueIn } from '../src/core/drive/describe';
import type { ParameterRole } from '../src/core/sheet/parameter-section';
import { VirtualClock } from '../src/core/time/clock';
import { Cia402Drive } from '../src/standin/cia402-drive';
import { DialectDrive } from '../src/standin/dialect-drive';
import { registerOf, shippedIndex } from './harness/sheets';

/** The shaft is behind its profile by this, and the drive looks at it in whole microseconds. */
const LAG_US = 6000;
const SLACK_US = 2;
const END = { station: 1, settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } } as const;

interface Asked {
  /** All in counts as the drive's fields hold them. */
  readonly target: number;
  readonly speed: number;
  readonly acceleration: number;
  readonly deceleration: number;
  /** 0: the acceleration comes at once. */
  readonly jerk: number;
}

const wish = (to: string): MoveWish => ({
  to,
  relative: false,
  speed: '',
  acceleration: '',
  deceleration: '',
  jerk: '',
});
const textOf = ({ num, den }: Rational): string => `${num}/${den}`;

/** The move as the bench works it out: from what the drive's fields hold, in millimetres. */
function workedOut(
  slug: 'curlew' | 'pipit',
  held: Partial<Record<ParameterRole, number>>,
  target: number,
): CheckedMove {
  const index = shippedIndex(slug);
  const known = (role: ParameterRole): Rational | null => {
    const place = index.byRole.get(role);
    const raw = held[role];
    return place && raw !== undefined ? valueIn(index.sheet, place, raw >>> 0) : null;
  };
  const to = valueIn(index.sheet, index.byRole.get('target-position')!, target >>> 0)!;
  return checkMove(axisOf(index)!, wish(textOf(to)), known);
}

/** When the shaft stands, in microseconds after the start; by halving the clock's step. */
function standsAfterUs(clock: VirtualClock, isTurning: () => boolean, aboutUs: number): number {
  const startUs = clock.now();
  clock.advanceBy(Math.max(0, Math.floor(aboutUs) - 50));
  expect(isTurning()).toBe(true);
  while (isTurning() && clock.now() - startUs < aboutUs + 1e6) clock.advanceBy(1);
  return clock.now() - startUs;
}

const onLift = fc.record({
  target: fc.integer({ min: -32_000, max: 3_980_000 }),
  speed: fc.integer({ min: 100_000, max: 3_276_800 }),
  acceleration: fc.integer({ min: 500, max: 256_000 }),
  deceleration: fc.integer({ min: 500, max: 256_000 }),
  jerk: fc.oneof(fc.constant(0), fc.integer({ min: 200, max: 4_000_000 })),
});

it('the lift arrives where and when the bench says, to the count: its motion is a second implementation', () => {
  fc.assert(
    fc.property(onLift, ({ target, speed, acceleration, deceleration, jerk }: Asked) => {
      const index = shippedIndex('curlew');
      const clock = new VirtualClock();
      // A watch over the link would end a move that takes longer.
      const drive = new Cia402Drive(index, clock, { '23': 0, '76': 0 }, END, () => undefined);
      const write = (role: ParameterRole, raw: number): void => {
        const place = index.byRole.get(role)!;
        const words = place.cells.length === 2 ? [(raw >>> 16) & 0xffff, raw & 0xffff] : [raw & 0xffff];
        expect(drive.write(registerOf(place), words)).toBe(0);
      };
      const start = index.byRole.get('actual-position')!.default!;
      fc.pre(Math.abs(target - start) > 10);
      write('mode', 1);
      write('move-speed', speed);
      write('move-acceleration', acceleration);
      write('move-deceleration', deceleration);
      write('move-jerk', jerk);
      for (const word of [0x06, 0x07, 0x0f]) write('control-word', word);
      write('target-position', target);
      const held = {
        'actual-position': start,
        'move-speed': speed,
        'move-acceleration': acceleration,
        'move-deceleration': deceleration,
        'move-jerk': jerk,
      };
      const { plan, written } = workedOut('curlew', held, target);
      expect(written?.counts).toBe(BigInt(target));
      write('control-word', 0x1f);
      const tookUs = standsAfterUs(clock, () => drive.isTurning(), plan!.seconds * 1e6 + LAG_US);
      expect(Math.abs(tookUs - LAG_US - plan!.seconds * 1e6)).toBeLessThanOrEqual(SLACK_US);
      const at = registerOf(index.byRole.get('actual-position'));
      expect((drive.read(at)! << 16) | drive.read(at + 1)! | 0).toBe(target);
    }),
    { numRuns: 200, seed: 7 },
  );
});

it('the fence arrives where and when the bench says, to the count', () => {
  const onFence = fc.record({
    target: fc.integer({ min: -300_000, max: 20_000_000 }),
    speed: fc.integer({ min: 9_000_000, max: 45_875_200 }),
    acceleration: fc.integer({ min: 2000, max: 3_584_000 }),
  });
  fc.assert(
    fc.property(onFence, ({ target, speed, acceleration }) => {
      fc.pre(Math.abs(target) > 10);
      const index = shippedIndex('pipit');
      const clock = new VirtualClock();
      const drive = new DialectDrive(index, clock, { 'following-limit.0': 0 }, END, () => undefined);
      const say = (kind: 'write' | 'act', command: string, value?: number): void => {
        const answer = drive.obey({ kind, command, ...(value === undefined ? {} : { values: [value] }) });
        expect(answer.kind).toBe('good');
      };
      say('write', 'mode', 4);
      say('write', 'speed', speed);
      say('write', 'acceleration', acceleration);
      say('write', 'target', target);
      const held = { 'actual-position': 0, 'speed-reference': speed, 'move-acceleration': acceleration };
      const { plan } = workedOut('pipit', held, target);
      say('act', 'move-absolute');
      const tookUs = standsAfterUs(clock, () => drive.isTurning(), plan!.seconds * 1e6 + LAG_US);
      expect(Math.abs(tookUs - LAG_US - plan!.seconds * 1e6)).toBeLessThanOrEqual(SLACK_US);
      expect(drive.obey({ kind: 'read', command: 'position' }).values).toEqual([target]);
    }),
    { numRuns: 100, seed: 7 },
  );
});

/** Handbook kinematics of a point that is uniformly accelerated: v = v0 + a t, s = v0 t + a t²/2, summed in small steps. */
it('a numerical integration of the phases comes to the same way, time and speed', () => {
  const lift = axisOf(shippedIndex('curlew'))!;
  for (const [to, speed, acceleration, deceleration, jerk] of [
    ['1000', '500', '1000', '500', '0'],
    ['25', '900', '300', '1200', '0'],
    ['-60', '40', '80', '20', '0'],
    // All seven phases; the speed not reached; not even the accelerations.
    ['1000', '500', '1000', '500', '4000'],
    ['120', '900', '300', '1200', '2000'],
    ['-5', '900', '300', '1200', '1000'],
  ] as const) {
    const asked = { to, relative: true, speed, acceleration, deceleration, jerk };
    const { plan, distance } = checkMove(lift, asked, (role) => (role === 'actual-position' ? ratio(100n) : null));
    const step = 1e-5;
    let [way, v, peak, seconds] = [0, 0, 0, 0];
    for (const { seconds: lasts, acceleration, jerk: j } of plan!.phases)
      for (let t = 0; t < lasts; t += step) {
        const dt = Math.min(step, lasts - t);
        const a = acceleration + j * (t + dt / 2);
        way += v * dt + (a * dt * dt) / 2;
        v += a * dt;
        peak = Math.max(peak, v);
        seconds += dt;
      }
    expect(way).toBeCloseTo(Math.abs(Number(distance!.num) / Number(distance!.den)), 3);
    expect([v, seconds - plan!.seconds, peak - plan!.peak].map(Math.abs).every((error) => error < 1e-2)).toBe(true);
  }
});
