import fc from 'fast-check';
import { shippedIndex } from '../../../tests/harness/sheets';
import { compare, decimalText, parseRational, ratio, type Rational } from '../scaling/rational';
import { roleOfObject } from '../sheet/standard-objects';
import type { ParameterRole } from '../sheet/parameter-section';
import { axisOf } from './axis';
import { axisDoubts } from './axis-settings';
import { checkMove, OWN_PACE } from './check-move';
import { ROUND_WAYS, roundWayOf, wayRound, withinTurn, type RoundWay } from './round';

const TURN = ratio(360n);
const number = (text: string): Rational => {
  const read = parseRational(text);
  if (!read.ok) throw new Error(text);
  return read.value;
};
const places = fc.integer({ min: 0, max: 359_999 }).map((milli) => ratio(BigInt(milli), 1000n));

it.each([
  ['450', '90'],
  ['-10', '350'],
  ['360', '0'],
  ['-720', '0'],
  ['359.999', '359.999'],
])('%s° is shown as %s°', (place, shown) => {
  expect(withinTurn(TURN, number(place))).toEqual(number(shown));
});

// IEC 61800-7-201, object 60F2h, bits 6 and 7, from memory: as a straight axis, negative only, positive only, the shorter way.
it.each<[RoundWay, from: string, to: string, gone: string]>([
  ['straight', '350', '10', '-340'],
  ['forward', '350', '10', '20'],
  ['backward', '350', '10', '-340'],
  ['shortest', '350', '10', '20'],
  ['straight', '10', '350', '340'],
  ['forward', '10', '350', '340'],
  ['backward', '10', '350', '-20'],
  ['shortest', '10', '350', '-20'],
  ['shortest', '0', '180', '180'],
  ['forward', '90', '90', '0'],
  ['backward', '90', '90', '0'],
])('%s it goes from %s° to %s° by %s°', (way, from, to, gone) => {
  expect(wayRound(TURN, way, number(from), number(to))).toEqual(number(gone));
});

it('whichever way it goes, it ends at its place; one way only never turns round, the shorter one is never over half a turn', () => {
  fc.assert(
    fc.property(fc.constantFrom(...ROUND_WAYS), places, places, (way, from, to) => {
      const gone = wayRound(TURN, way, from, to);
      const half = ratio(180n);
      expect(withinTurn(TURN, ratio(from.num * gone.den + gone.num * from.den, from.den * gone.den))).toEqual(to);
      if (way === 'forward') expect(gone.num >= 0n && compare(gone, TURN) < 0).toBe(true);
      if (way === 'backward') expect(gone.num <= 0n).toBe(true);
      if (way === 'shortest') expect(compare(gone, half) <= 0 && compare(gone, ratio(-180n)) > 0).toBe(true);
    }),
    { numRuns: 300, seed: 7 },
  );
});

it('the setting has the way in two of its bits, and is a standard object', () => {
  const ways = [0n, 0x40n, 0x80n, 0xc5n].map((held) => roundWayOf({ turn: TURN, wayBit: 6 }, ratio(held)));
  expect(ways).toEqual(ROUND_WAYS);
  expect(roundWayOf({ turn: TURN, wayBit: 0 }, null)).toBeNull();
  expect(roleOfObject('0x60F2:00')).toBe('round-way');
});

describe('a move of a table', () => {
  const table = axisOf(shippedIndex('curlew-table'))!;
  const at =
    (position: string | null, way: bigint | null) =>
    (role: ParameterRole): Rational | null =>
      ({
        'actual-position': position === null ? null : number(position),
        'round-way': way === null ? null : ratio(way),
        'move-speed': ratio(90n),
        'move-acceleration': ratio(90n),
        'move-deceleration': ratio(90n),
        'move-jerk': ratio(0n),
      })[role as string] ?? null;
  const ask = (to: string, relative: boolean, known: ReturnType<typeof at>) =>
    checkMove(table, { to, relative, ...OWN_PACE }, known);
  const text = (value: Rational | null): string | null => value && decimalText(value, 3, false);

  it('counts degrees through its gear: 65536 counts a turn of the motor, 90 turns a turn of the table', () => {
    expect(table).toMatchObject({ unit: '°', perTurn: ratio(4n), one: ratio(1n, 16384n), travel: null });
  });

  it('goes to a place by the way that the drive holds, on past its zero', () => {
    const { end, distance, written, plan, faults, doubts } = ask('10', false, at('350', 3n));
    expect([text(end), text(distance), written?.counts, faults, doubts]).toEqual([
      '10',
      '20',
      163_840n,
      [],
      [expect.stringMatching(/^it is too short for its speed/)],
    ]);
    // 20° at 90°/s² up and down: twice the root of 20/90 seconds (s = a t² / 4).
    expect(plan?.seconds).toBeCloseTo(2 * Math.sqrt(20 / 90), 9);
    expect(text(ask('10', false, at('350', 1n)).distance)).toBe('−340');
  });

  it('says of a place in another turn where it goes, and sends that', () => {
    const { end, written, doubts } = ask('450', false, at('80', 3n));
    expect([text(end), written?.counts]).toEqual(['90', 1_474_560n]);
    expect(doubts).toContain('450 ° is 90 ° of another turn: it goes there');
  });

  it('goes a distance only where the drive goes that way to its end', () => {
    expect(ask('30', true, at('350', 3n))).toMatchObject({ faults: [], written: { counts: 20n * 16_384n } });
    expect(ask('270', true, at('0', 3n)).faults).toEqual([
      { field: 'to', text: 'it goes to a place by the shorter way: that would be −90 °, not 270 °' },
    ]);
    expect(ask('400', true, at('0', 2n)).faults[0]?.text).toMatch(/that would be 40 °, not 400 °$/);
  });

  it('is not guessed at where the way was not read', () => {
    const { distance, plan, doubts } = ask('10', false, at('350', null));
    expect([distance, plan]).toEqual([null, null]);
    expect(doubts[0]).toMatch(/^by which way it goes round was not read/);
    expect(ask('10', true, at('350', null)).faults[0]?.text).toMatch(/^by which way it goes round was not read/);
  });

  it('has no ends that its settings could lie beyond', () => {
    expect(axisDoubts(table, (role) => (role === 'position-window' ? ratio(1n, 10n) : null))).toEqual([]);
  });
});
