import { shippedIndex } from '../../../tests/harness/standin-line';
import { framingOf } from '../modbus/framing';
import { registerLink } from '../places/register-link';
import { indexSheet } from '../sheet/index-sheet';
import { compileTrial } from './compile';
import { positionBandOf, type AxisStart } from './expect-position';
import type { Trial, TrialStep } from './trial';

const LIFT = shippedIndex('curlew');
const START: AxisStart = {
  position: '100',
  speed: '500',
  acceleration: '1000',
  deceleration: '500',
  jerk: '0',
  least: '0',
  most: '2400',
  atHome: '-10',
};
const trialOf = (...steps: readonly TrialStep[]): Trial => ({
  format: 1,
  id: 'own',
  name: 'own',
  proves: '',
  leaves: '',
  steps: [...steps],
});
const bandOf = (trial: Trial, start = START, index = LIFT) =>
  positionBandOf(
    index,
    compileTrial(trial, {
      index,
      places: registerLink(index, framingOf('modbus-rtu')),
      station: 1,
      name: 'lift',
      here: ['switch-on-disabled'],
      known: () => undefined,
    }),
    start,
    null,
  );
const move = (id: string, to: string, relative = false): TrialStep => ({ id, kind: 'move', to, relative, withinS: 60 });
const hold = (s: number): TrialStep => ({ id: `hold-${s}`, kind: 'hold', s });

it('goes along the path of a move: a trapezoid of 1000 mm at 500 mm/s takes 2.75 s', () => {
  const band = bandOf(trialOf(hold(2), move('there', '1100'), hold(3)))!;
  expect([band.of, band.unit]).toEqual(['position', 'mm']);
  const middle = (x: number): number => {
    const point = band.points.findLast((one) => one.x <= x)!;
    return (point.low + point.high) / 2;
  };
  expect(middle(1)).toBe(100);
  // It starts after two seconds and what a request takes: 125 mm in the first half second, and 250 mm more in the next.
  for (const [seconds, at] of [
    [0.5, 225],
    [1, 475],
  ] as const) {
    const { low, high } = band.points.findLast(({ x }) => x <= 2.15 + seconds)!;
    expect(low).toBeLessThan(at);
    expect(high).toBeGreaterThan(at);
    expect(high - low).toBeLessThan(500);
  }
  expect(middle(band.points.at(-1)!.x)).toBe(1100);
  for (const { low, high } of band.points) expect(high - low).toBeGreaterThanOrEqual(2 * 20);
});

it('goes by the pace that a step of the trial writes before the move, and by the jerk that the drive keeps', () => {
  const seconds = (start: AxisStart, ...steps: readonly TrialStep[]): number =>
    bandOf(trialOf(...steps, move('there', '1100')), start)!.points.at(-1)!.x;
  const slow: TrialStep = { id: 'speed', kind: 'write', what: { role: 'move-speed' }, to: '100' };
  const hard: TrialStep = { id: 'up', kind: 'write', what: { number: '65' }, to: '2000 mm/s²' };
  // 1000 mm at 500 mm/s with 1000 and 500 mm/s²: 2 s, and half of each ramp of 0.5 and 1 s; at 100 mm/s: 10 s, and half of 0.1 and 0.2 s.
  expect(seconds(START)).toBeCloseTo(2.75 + 0.3, 9);
  expect(seconds(START, slow) - 0.15).toBeCloseTo(10.15 + 0.3, 9);
  expect(seconds(START, hard) - 0.15).toBeCloseTo(2.625 + 0.3, 9);
  // A bend of the acceleration up is 1000/4000, one down is 500/4000: half of both is added.
  expect(seconds({ ...START, jerk: '4000' })).toBeCloseTo(2.75 + 0.125 + 0.0625 + 0.3, 9);
  const jerk: TrialStep = { id: 'jerk', kind: 'write', what: { role: 'move-jerk' }, to: '4000' };
  expect(seconds(START, jerk) - 0.15).toBeCloseTo(2.9375 + 0.3, 9);
  // Limits that a step writes are those by name.
  const least: TrialStep = { id: 'least', kind: 'write', what: { role: 'position-least' }, to: '300' };
  const { low, high } = bandOf(trialOf(least, move('down', 'lowest')))!.points.at(-1)!;
  expect((low + high) / 2).toBeCloseTo(300, 9);
});

it('goes on from move to move, to limits by name, and is open while home is looked for', () => {
  const end = (...steps: readonly TrialStep[]) => bandOf(trialOf(...steps))!.points.at(-1)!;
  const middle = ({ low, high }: { low: number; high: number }): number => (low + high) / 2;
  expect(middle(end(move('a', '50 mm', true), move('b', '1 turn', true)))).toBe(190);
  expect(middle(end(move('a', 'highest')))).toBe(2400);
  expect(middle(end({ id: 'home', kind: 'home', withinS: 60 }))).toBe(-10);
  expect(middle(end({ id: 'zero', kind: 'zero' }, move('a', '30')))).toBe(30);
  const homing = bandOf(trialOf({ id: 'home', kind: 'home', withinS: 60 }))!;
  // From its first moment to its last: it is not known where it looks.
  const [, open, last] = homing.points;
  for (const point of [open!, last!]) expect([point.low < -20, point.high > 2430]).toEqual([true, true]);
  expect([open!.x, last!.x]).toEqual([0, 10]);
});

it('goes along the moves that the drive keeps, by what was read of its table and what a step writes into it', () => {
  const mm = (value: number): number => (value * 65_536) / 40;
  const stored = {
    '120': mm(600),
    '122': mm(500),
    '124': 0,
    '125': 100,
    '126': 2,
    '128': mm(200),
    '130': mm(500),
    '132': 0,
    '133': 0,
    '134': 0,
  };
  const start: TrialStep = { id: 'moves', kind: 'stored-move', number: 1, withinS: 60 };
  const middle = ({ low, high }: { low: number; high: number }): number => (low + high) / 2;
  const at = (band: ReturnType<typeof bandOf>, x: number) => band!.points.findLast((point) => point.x <= x)!;
  const band = bandOf(trialOf(start), { ...START, stored });
  // 500 mm up in 0.5 + 0.25 + 1 s, one second of rest, 400 mm down in 0.5 + 0.05 + 1 s.
  expect(middle(at(band, 0.15 + 2.3))).toBeCloseTo(600, 0);
  expect(middle(band!.points.at(-1)!)).toBe(200);
  expect(band!.points.at(-1)!.x).toBeCloseTo(1.75 + 1 + 1.55 + 0.3, 6);
  for (const [i, { x }] of band!.points.entries()) expect(x).toBeGreaterThanOrEqual(band!.points[i - 1]?.x ?? 0);
  const other = bandOf(trialOf({ id: 'w', kind: 'write', what: { number: '128' }, to: '900' }, start), {
    ...START,
    stored,
  });
  expect(middle(other!.points.at(-1)!)).toBe(900);
  // Not read: it may be anywhere while it is under way.
  const open = bandOf(trialOf(start))!.points;
  expect(open.some(({ low, high }) => low < -20 && high > 2430)).toBe(true);
});

it('is none where the axis may be anywhere, and nobody says how far it goes', () => {
  const home: TrialStep = { id: 'home', kind: 'home', withinS: 60 };
  const sheet = { ...LIFT.sheet, axis: { ...LIFT.sheet.axis!, travel: undefined } };
  const boundless = indexSheet(sheet);
  expect(bandOf(trialOf(home), { ...START, least: null, most: null }, boundless)).toBeNull();
  // The drive's own limits say it where the machine's ends are not known.
  const [, open] = bandOf(trialOf(home), START, boundless)!.points;
  expect([open!.low < 0, open!.high > 2400]).toEqual([true, true]);
});

it('an axis of which the jerk was not read has no move that is drawn; a run of before the bench knew of one has', () => {
  const there = trialOf(move('there', '1100'));
  expect(bandOf(there, { ...START, jerk: null })!.points.at(-1)!.x).toBeCloseTo(1.3, 6);
  const before: AxisStart = { ...START, jerk: undefined };
  expect(bandOf(there, before)!.points.at(-1)!.x).toBeCloseTo(2.75 + 0.3, 9);
});

it('is none where it was not read where the axis stands, or where nothing is moved', () => {
  expect(bandOf(trialOf(move('a', '10')), { ...START, position: null })).toBeNull();
  expect(bandOf(trialOf(hold(1)))).toBeNull();
});
