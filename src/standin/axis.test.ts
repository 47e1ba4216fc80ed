import { VirtualClock } from '../core/time/clock';
import { Axis, type AxisSettings } from './axis';
import type { Plant } from './plant';

/** Ends at ±10,000, home at 2000, a turn of 1000 counts. */
const PLANT: Plant = { low: -10_000, high: 10_000, homeEdge: 2000, perTurn: 1000 };
const QUIET: AxisSettings = {
  window: 5,
  windowS: 0.1,
  followingLimit: 0,
  followingS: 0.05,
  least: 0,
  most: 0,
  usesEnds: false,
  round: null,
};
const PACE = { speed: 2000, acceleration: 4000, deceleration: 8000 };

function axis(settings: Partial<AxisSettings> = {}, at = 0, plant: Plant | null = PLANT) {
  const clock = new VirtualClock();
  const told: string[] = [];
  const own: Axis = new Axis(clock, plant, at, {
    settings: () => ({ ...QUIET, ...settings }),
    way: () => 0,
    waySpeed: () => 0,
    arrived: (by) => {
      told.push(by);
      if (by === 'homing') own.showHere(0);
    },
    lost: () => {
      told.push('lost');
      own.halt(8000);
    },
    ended: () => told.push('ended'),
  });
  return { own, told, seconds: (s: number): void => clock.advanceBy(s * 1e6) };
}

it('a move arrives to the count, after its time and the lag of the shaft', () => {
  const { own, told, seconds } = axis();
  own.go(3000, PACE, 'trapezoid');
  // 0.5 s up over 500, 0.25 s down over 250, 2250 at 2000 a second: 1.875 s.
  seconds(1);
  // 500 and half a second at 2000 a second, less 6 ms of it.
  expect(own.position()).toBe(1488);
  seconds(0.875);
  expect([own.isMoving(), told]).toEqual([true, []]);
  seconds(0.01);
  expect([own.isMoving(), told, own.position(), own.speed()]).toEqual([false, ['move'], 3000, 0]);
});

it('a window delays “there”: it must have stood in it for so long', () => {
  const { own, seconds } = axis({ windowS: 0.5 });
  own.go(3000, PACE, 'trapezoid');
  seconds(1.9);
  expect([own.isMoving(), own.isInWindow(), own.isThere()]).toEqual([false, true, false]);
  seconds(0.5);
  expect(own.isThere()).toBe(true);
});

it('a following error that is too large for too long is told, a short one is not', () => {
  // At 2000 a second the shaft is 12 counts behind.
  for (const [followingLimit, followingS, lost] of [
    [10, 0.05, true],
    [10, 5, false],
    [13, 0.05, false],
    [0, 0, false],
  ] as const) {
    const { own, told, seconds } = axis({ followingLimit, followingS });
    own.go(3000, PACE, 'trapezoid');
    seconds(1);
    expect(own.followingError()).toBe(lost ? 0 : 12);
    seconds(3);
    expect(told.includes('lost')).toBe(lost);
  }
});

it('software limits cut a target, end switches stop the axis and bar their direction only', () => {
  const soft = axis({ least: -100, most: 500 });
  soft.own.go(3000, PACE, 'trapezoid');
  soft.seconds(3);
  expect([soft.own.position(), soft.own.isAtLimit()]).toEqual([500, true]);
  soft.own.go(0, PACE, 'trapezoid');
  soft.seconds(3);
  expect([soft.own.position(), soft.own.isAtLimit()]).toEqual([0, false]);

  const hard = axis({ usesEnds: true }, 9000);
  hard.own.go(50_000, PACE, 'trapezoid');
  hard.seconds(5);
  const stood = hard.own.position();
  // Seen within a cycle of 4 ms, then braked at four times the deceleration: 2000² / 64000 = 62.5 counts.
  expect(stood).toBeGreaterThan(10_000);
  expect(stood).toBeLessThan(10_000 + 63 + 10);
  expect([hard.own.isAtLimit(), hard.own.inputs(), hard.own.isBarred(1), hard.own.isBarred(-1)]).toEqual([
    true,
    6,
    true,
    false,
  ]);
  hard.own.go(60_000, PACE, 'trapezoid');
  hard.seconds(1);
  expect([hard.own.position(), hard.own.isMoving()]).toEqual([stood, false]);
  hard.own.go(0, PACE, 'trapezoid');
  hard.seconds(10);
  expect([hard.own.position(), hard.own.isAtLimit(), hard.own.inputs()]).toEqual([0, false, 0]);
});

it('homing ends at home and shows it there; a halt in the middle leaves home unknown', () => {
  const { own, seconds } = axis({}, 500);
  own.home(20, { search: 2000, creep: 500, acceleration: 4000 });
  expect(own.homing()).toBe('under-way');
  seconds(1);
  own.halt(8000);
  seconds(1);
  expect(own.homing()).toBe('not-done');
  own.home(20, { search: 2000, creep: 500, acceleration: 4000 });
  seconds(10);
  expect([own.homing(), own.position(), own.inputs()]).toEqual(['done', 0, 4]);
  expect(own.home(5, { search: 1, creep: 1, acceleration: 1 })).toBe(false);
  expect(own.homing()).toBe('failed');
});

it('a new target on the way is gone to without a jump of the speed, also backwards', () => {
  const { own, seconds } = axis();
  own.go(8000, PACE, 'trapezoid');
  seconds(1);
  const [speed, at] = [own.speed(), own.position()];
  own.go(0, PACE, 'trapezoid');
  seconds(0.007);
  expect(own.speed()).toBeLessThanOrEqual(speed);
  expect(own.speed()).toBeGreaterThan(speed - 8000 * 0.01);
  expect(own.position() - at).toBeLessThan(20);
  seconds(5);
  expect(own.position()).toBe(0);
});
