import { shippedIndex } from '../../../tests/harness/sheets';
import { ratio, type Rational } from '../scaling/rational';
import { indexSheet } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { axisOf } from './axis';
import { AXIS_SETTINGS, axisDoubts, homeShows } from './axis-settings';

const lift = axisOf(shippedIndex('curlew'))!;
const fence = axisOf(shippedIndex('pipit'))!;
/** A lift whose settings go together: 0 to 2400 mm, a window of 1 mm, 40 mm behind at most, home at the lower end. */
const GOOD: Partial<Record<ParameterRole, Rational>> = {
  'position-least': ratio(0n),
  'position-most': ratio(2400n),
  'axis-inputs-use': ratio(1n),
  'position-window': ratio(1n),
  'following-limit': ratio(40n),
  'homing-method': ratio(20n),
  'homing-speed': ratio(100n),
  'homing-creep': ratio(20n),
  'homing-acceleration': ratio(500n),
  'home-offset': ratio(-592n),
};
const doubts = (changed: Partial<Record<ParameterRole, Rational>>, axis = lift): readonly string[] =>
  axisDoubts(axis, (role) => ({ ...GOOD, ...changed })[role] ?? null);

it('settings that go together raise no doubt', () => {
  expect(doubts({})).toEqual([]);
});

it.each<[Partial<Record<ParameterRole, Rational>>, RegExp]>([
  [{ 'position-least': ratio(3000n) }, /^the lowest position, 3000 mm, lies above the highest, 2400 mm$/],
  [{ 'position-most': ratio(0n) }, /^no software limits act/],
  [{ 'position-most': ratio(0n), 'axis-inputs-use': ratio(0n) }, /^neither software limits nor end switches/],
  [{ 'position-most': ratio(2500n) }, /^the highest position, 2500 mm, lies beyond the machine’s own end/],
  [{ 'position-window': ratio(0n) }, /^the window is 0/],
  [{ 'position-window': ratio(2400n), 'following-limit': ratio(5000n) }, /is as wide as the way between the limits/],
  [{ 'position-window': ratio(50n) }, /wider than the following error that is allowed, 40 mm/],
  [{ 'following-limit': ratio(0n) }, /^the following error is not watched/],
  [{ 'home-offset': ratio(10n) }, /^home shows −10 mm, which lies outside the limits/],
  [{ 'homing-creep': ratio(200n) }, /faster than it comes to the switch/],
  // v² / 2a = 100² / 1000 = 10 mm
  [{ 'homing-method': ratio(17n) }, /^behind the end switch it needs 10 mm to stop/],
  // 2^31 counts are 1,310,720 mm at 1638.4 counts a millimetre.
  [{ 'home-offset': ratio(-1_310_000n) }, /^home shows 1310000 mm/],
])('%j is doubted: %s', (changed, text) => {
  expect(doubts(changed)[0]).toMatch(text);
});

it('an offset that makes the counter wrap is told, and one just below it is not', () => {
  const wraps = (mm: bigint): boolean =>
    doubts({ 'home-offset': ratio(mm) }).some((text) => text.includes('the counter wraps on the way'));
  // From -20 to 2430 mm, less the offset: 1,310,720 mm is the last that fits.
  expect([wraps(1_310_690n), wraps(1_310_720n), wraps(-1_308_280n), wraps(-1_308_300n)]).toEqual([
    false,
    true,
    false,
    true,
  ]);
});

it('what is not known is not judged', () => {
  expect(axisDoubts(lift, () => null)).toEqual([]);
});

it('home shows the offset, or minus it, as the sheet says', () => {
  expect([homeShows(lift, ratio(5n)), homeShows(fence, ratio(5n))]).toEqual([ratio(-5n), ratio(5n)]);
});

it('a position that begins its counting elsewhere shows home from there', () => {
  const { sheet } = lift.index;
  const from300 = indexSheet({
    ...sheet,
    scalings: (sheet.scalings ?? []).map((one) =>
      one.id === 'position'
        ? { ...one, chain: { ...one.chain, steps: [{ kind: 'offset', add: '300' } as const, ...one.chain.steps] } }
        : one,
    ),
  });
  const axis = axisOf(from300)!;
  // An offset of no counts is shown as -300 mm, and so is the place where the position counts 0.
  expect([homeShows(axis, ratio(-300n)), homeShows(axis, ratio(-295n))]).toEqual([ratio(-300n), ratio(-305n)]);
});

it('both straight axes that ship have every setting, but for an acceleration of its own where the drive has one for all, and a jerk', () => {
  const missing = (axis: typeof lift): readonly ParameterRole[] =>
    AXIS_SETTINGS.filter(({ group }) => group !== 'Going round')
      .flatMap(({ settings }) => settings.map(([role]) => role))
      .filter((role) => !axis.index.byRole.has(role));
  expect(missing(lift)).toEqual([]);
  expect(missing(fence)).toEqual(['homing-acceleration', 'move-speed', 'move-deceleration', 'move-jerk']);
});
