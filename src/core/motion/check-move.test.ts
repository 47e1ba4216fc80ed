import { shippedIndex } from '../../../tests/harness/sheets';
import { decimalText, ratio, type Rational } from '../scaling/rational';
import type { ScalingStep } from '../scaling/chain';
import { indexSheet } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { axisOf, wayName } from './axis';
import { axisDoubts } from './axis-settings';
import { checkMove, type MoveWish } from './check-move';

const lift = axisOf(shippedIndex('curlew'))!;
const fence = axisOf(shippedIndex('pipit'))!;

const wish = (to: string, more: Partial<MoveWish> = {}): MoveWish => ({
  to,
  relative: false,
  speed: '',
  acceleration: '',
  deceleration: '',
  jerk: '',
  ...more,
});
const known =
  (values: Partial<Record<ParameterRole, bigint>>) =>
  (role: ParameterRole): Rational | null =>
    values[role] === undefined ? null : ratio(values[role]);

/** The lift at 100 mm, 500 mm/s, 1000 and 500 mm/s². */
const AT = known({
  'actual-position': 100n,
  'move-speed': 500n,
  'move-acceleration': 1000n,
  'move-deceleration': 500n,
  'move-jerk': 0n,
  'position-least': 0n,
  'position-most': 2400n,
});

it('one turn of the motor is the drum’s round over the gear, or the lead over the gear', () => {
  // 480 mm / 12, and 8 mm × 2 / 7.
  expect(decimalText(lift.perTurn!, 6, false)).toBe('40');
  expect(fence.perTurn).toEqual(ratio(16n, 7n));
  expect([lift.unit, fence.unit]).toEqual(['mm', 'mm']);
  expect(axisOf(shippedIndex('tern'))).toBeNull();
});

it('start, end, travel, direction, turns, counts, highest speed and seconds of a move', () => {
  const { start, end, distance, turns, written, plan, faults, doubts } = checkMove(lift, wish('1100'), AT);
  expect([start, end, distance]).toEqual([ratio(100n), ratio(1100n), ratio(1000n)]);
  expect(turns).toEqual(ratio(25n));
  // 1100 mm × 65536 / 40 mm
  expect([written?.place.number, written?.counts]).toEqual(['53', 1_802_240n]);
  // Up 125 mm in 0.5 s, down 250 mm in 1 s, the rest of 625 mm at 500 mm/s (s = v² / 2a, uniform acceleration).
  expect(plan?.shape).toBe('trapezoid');
  expect(plan?.peak).toBeCloseTo(500, 9);
  expect(plan?.seconds).toBeCloseTo(0.5 + 1.25 + 1, 9);
  expect([faults, doubts]).toEqual([[], []]);
  expect(wayName(lift, distance!)).toBe('up');
});

it('behind a gear that turns it round, the drive’s limits hold the other ends, and a turn is a way like any other', () => {
  const { sheet } = lift.index;
  const steps = (one: ScalingStep): ScalingStep => (one.kind === 'gear' ? { ...one, inverted: true } : one);
  const turned = axisOf(
    indexSheet({
      ...sheet,
      scalings: (sheet.scalings ?? []).map((one) =>
        one.id === 'position' ? { ...one, chain: { ...one.chain, steps: one.chain.steps.map(steps) } } : one,
      ),
    }),
  )!;
  // The counter goes down as the lift goes up: what the drive calls its lowest position is the upper end.
  const held = known({ 'actual-position': 100n, 'position-least': 2400n, 'position-most': 0n });
  expect([turned.perTurn, turned.one.num < 0n]).toEqual([ratio(40n), true]);
  expect(checkMove(turned, wish('2000'), held)).toMatchObject({ faults: [], written: { counts: -3_276_800n } });
  expect(checkMove(turned, wish('2410'), held).faults[0]?.text).toMatch(
    /outside the drive’s own limits, 0 mm to 2400 mm$/,
  );
  expect(checkMove(turned, wish('1 turn', { relative: true }), held).end).toEqual(ratio(140n));
  expect(axisDoubts(turned, held)).toEqual([]);
});

it('absolute “back” is the start, not minus the stroke', () => {
  const back = checkMove(lift, wish('-1000'), AT);
  expect(back.faults).toEqual([
    {
      field: 'to',
      text: expect.stringMatching(/^it would end at −1000 mm; the machine goes from −20 mm to 2430 mm/) as string,
    },
  ]);
  const by = checkMove(lift, wish('-100', { relative: true }), AT);
  expect([by.end, by.distance, by.faults]).toEqual([ratio(0n), ratio(-100n), []]);
  expect(wayName(lift, by.distance!)).toBe('down');
});

it('a limit of jerk, its own or typed, makes the move longer by half a bend of each of its ends; 0 is none', () => {
  // The acceleration comes within 1000/4000 s, and goes so; the deceleration within 500/4000 s.
  const longer = checkMove(lift, wish('1100', { jerk: '4000 mm/s³' }), AT);
  expect(longer.plan?.seconds).toBeCloseTo(2.75 + 0.125 + 0.0625, 9);
  expect(longer.plan?.phases).toHaveLength(7);
  const own = (role: ParameterRole): Rational | null => (role === 'move-jerk' ? ratio(4000n) : AT(role));
  expect(checkMove(lift, wish('1100'), own).plan?.seconds).toBeCloseTo(2.9375, 9);
  expect(checkMove(lift, wish('1100', { jerk: '0' }), own).plan?.seconds).toBeCloseTo(2.75, 9);
  const unread = checkMove(lift, wish('1100'), (role) => (role === 'move-jerk' ? null : AT(role)));
  expect([unread.plan, unread.doubts]).toEqual([null, ['the drive’s jerk was not read: the move’s time is not known']]);
  const tooMuch = checkMove(lift, wish('1100', { jerk: '1000000' }), AT);
  expect(tooMuch.faults.map(({ field }) => field)).toEqual(['jerk']);
  const none = checkMove(fence, wish('100', { jerk: '5' }), () => null);
  expect(none.faults).toEqual([
    { field: 'jerk', text: 'this drive has no limit of jerk: its acceleration comes at once' },
  ]);
});

it('a move too short for its speed is a triangle, and says so', () => {
  const { plan, doubts } = checkMove(lift, wish('10 mm', { relative: true }), AT);
  expect(plan?.shape).toBe('triangle');
  // v = sqrt(2 s a d / (a + d)) = sqrt(2 × 10 × 1000 × 500 / 1500)
  expect(plan?.peak).toBeCloseTo(Math.sqrt(10_000_000 / 1500), 9);
  expect(doubts).toEqual(['it is too short for its speed: the highest is 81.65 mm/s of 500']);
});

it.each<[string, Partial<MoveWish>, RegExp]>([
  ['', {}, /^nothing is said yet$/],
  ['far', {}, /./],
  ['30000', {}, /the machine goes from −20 mm to 2430 mm/],
  // A number of centimetres that was typed as millimetres fits the travel only as the smaller unit.
  ['1200 cm', {}, /it would end at 12000 mm; .* Was it meant as 1200 mm/],
  ['120 turns', {}, /it would end at 4800 mm; .* Was it meant as 120 mm/],
  ['2410', {}, /outside the drive’s own limits, 0 mm to 2400 mm/],
  ['10 kg', {}, /is not the unit of this field, mm/],
])('a target “%s” is refused at its field', (to, more, text) => {
  const { faults } = checkMove(lift, wish(to, more), AT);
  expect(faults[0]?.field).toBe('to');
  expect(faults[0]?.text).toMatch(text);
});

it('lengths are read in other units, and in turns of the motor', () => {
  const end = (to: string): Rational | null => checkMove(lift, wish(to), AT).end;
  expect(['12 cm', '0.12 m', '3 turns', '120'].map(end)).toEqual(Array.from({ length: 4 }, () => ratio(120n)));
  expect(end('1 in')).toEqual(ratio(127n, 5n));
});

it('a speed that the field, or the drive’s limit, does not hold is refused at the speed', () => {
  const fieldOf = (speed: string): readonly string[] =>
    checkMove(lift, wish('500', { speed }), AT).faults.map(({ field, text }) => `${field}: ${text}`);
  expect(fieldOf('300')).toEqual([]);
  expect(fieldOf('18 m/min')).toEqual([]);
  expect(fieldOf('5000')[0]).toMatch(/^speed: speed of a move takes/);
  expect(fieldOf('5 Hz')[0]).toMatch(/^speed: .* is not the unit of this field/);
  const limited = checkMove(fence, wish('5', { speed: '60' }), known({ 'actual-position': 0n, 'maximum-speed': 50n }));
  expect(limited.faults.map(({ text }) => text)).toEqual([]);
});

it('what was not read is said, and nothing is made up for it', () => {
  const { start, distance, plan, doubts, faults } = checkMove(lift, wish('500'), known({}));
  expect([start, distance, plan, faults]).toEqual([null, null, null, []]);
  expect(doubts[0]).toMatch(/^where it stands was not read/);
});

it('a page of blanks that is pasted into a way is refused without being searched', () => {
  const { faults } = checkMove(lift, wish(`1${' '.repeat(200_000)}x`), AT);
  expect(faults.map(({ field }) => field)).toEqual(['to']);
});
