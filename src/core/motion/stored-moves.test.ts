import { shippedIndex } from '../../../tests/harness/sheets';
import { ratio, type Rational } from '../scaling/rational';
import { indexSheet } from '../sheet/index-sheet';
import { patternOfNumber } from '../values/pattern';
import type { ParameterRole } from '../sheet/parameter-section';
import { axisOf } from './axis';
import { pathText, storedPath, storedTableOf, type StoredPath } from './stored-moves';

const LIFT = shippedIndex('curlew');
const axis = axisOf(LIFT)!;
const table = storedTableOf(LIFT)!;
/** 65536 counts a turn, 480 mm round the drum, 12 turns of the motor to one of it. */
const COUNTS_A_MM = 65_536 / 40;

interface Row {
  readonly to: number;
  readonly speed?: number;
  readonly from?: number;
  readonly rest?: number;
  readonly then?: number;
}

/** The table as a drive holds it: positions and speeds in mm and mm/s, rests in seconds. */
function held(rows: readonly Row[]): ReadonlyMap<string, number> {
  const raw = new Map<string, number>();
  rows.forEach(({ to, speed = 500, from = 0, rest = 0, then = 0 }, i) => {
    const row = table.rows[i]!;
    raw.set(row.to.number, patternOfNumber('int32', to * COUNTS_A_MM));
    raw.set(row.speed!.number, speed * COUNTS_A_MM);
    raw.set(row.from!.number, from);
    raw.set(row.rest!.number, rest * 100);
    raw.set(row.then!.number, then);
  });
  return raw;
}

const AT: Partial<Record<ParameterRole, Rational>> = {
  'move-acceleration': ratio(1000n),
  'move-deceleration': ratio(500n),
  'move-jerk': ratio(0n),
  'position-least': ratio(0n),
  'position-most': ratio(2400n),
};
const path = (rows: readonly Row[], first = 1, start: Rational | null = ratio(100n)) => {
  const raw = held(rows);
  return storedPath(
    axis,
    table,
    first,
    start,
    (number) => raw.get(number),
    (role) => AT[role] ?? null,
  );
};
const good = (...of: Parameters<typeof path>): StoredPath => {
  const made = path(...of);
  if (!made.ok) throw new Error(made.error);
  return made.value;
};

it('the lift keeps eight moves, and a drive without such a table none', () => {
  expect([table.select.number, table.startedBy?.place.number, table.startedBy?.input]).toEqual(['110', '111', 3]);
  expect(table.rows.map(({ number, to }) => `${number} ${to.number}`)).toEqual(
    [1, 2, 3, 4, 5, 6, 7, 8].map((number) => `${number} ${112 + 8 * number}`),
  );
  expect(storedTableOf(shippedIndex('pipit'))).toBeNull();
});

it('one goes on to the next, absolute or from where it stands, with its rest between', () => {
  const made = good([{ to: 1100, rest: 0.5, then: 3 }, { to: 9999 }, { to: -200, from: 1, speed: 100, rest: 1 }]);
  expect(made.legs.map(({ number, from, to, restS }) => [number, from, to, restS])).toEqual([
    [1, ratio(100n), ratio(1100n), 0.5],
    [3, ratio(1100n), ratio(900n), 1],
  ]);
  // 1000 mm at 500 mm/s: 0.5 s up, 1.25 s, 1 s down; 200 mm at 100 mm/s: 0.1 s up (5 mm), 0.2 s down (10 mm), 1.85 s (s = v² / 2a).
  expect(made.seconds).toBeCloseTo(2.75 + 0.5 + 2.15 + 1, 9);
  expect([made.roundTo, pathText(made)]).toEqual([null, '1 → 3, then it stands']);
});

it('a way of the table is no place: where a position begins its counting elsewhere, it is as long', () => {
  const { sheet } = LIFT;
  const index = indexSheet({
    ...sheet,
    scalings: (sheet.scalings ?? []).map((one) =>
      one.id === 'position'
        ? { ...one, chain: { ...one.chain, steps: [{ kind: 'offset', add: '300' } as const, ...one.chain.steps] } }
        : one,
    ),
  });
  const raw = held([{ to: 50, from: 1 }]);
  const from300 = storedPath(
    axisOf(index)!,
    storedTableOf(index)!,
    1,
    ratio(100n),
    (number) => raw.get(number),
    () => null,
  );
  expect(from300.ok && from300.value.legs[0]?.to).toEqual(ratio(150n));
});

it('a row that comes back to one of its moves goes round, and is told once', () => {
  const made = good([
    { to: 100, then: 2 },
    { to: 200, then: 3 },
    { to: 300, then: 2 },
  ]);
  expect([made.legs.length, made.roundTo, pathText(made)]).toEqual([
    3,
    2,
    '1 → 2 → 3, then again from 2, until it is stopped',
  ]);
  expect(good([{ to: 100, then: 1 }]).roundTo).toBe(1);
});

it('what was not read, is not there, or lies where the axis may not go is said', () => {
  expect(path([{ to: 100, then: 2 }])).toEqual({ ok: false, error: '132 move 2, counted from was not read' });
  expect(path([{ to: 100, then: 9 }])).toEqual({ ok: false, error: 'move 9 is not in the table: it has 8' });
  expect(path([{ to: 100, then: 2 }, { to: 2500 }])).toMatchObject({
    error: expect.stringMatching(/^move 2: it would end at 2500 mm; the machine goes from −20 mm to 2430 mm/) as string,
  });
  expect(path([{ to: 2420 }])).toMatchObject({
    error: expect.stringMatching(/outside the drive’s own limits, 0 mm to 2400 mm/) as string,
  });
  // From where it stands: known only where that is known.
  expect(good([{ to: 50, from: 1 }], 1, null).legs[0]).toMatchObject({ to: null, plan: null });
  expect(path([{ to: 2400, from: 1 }])).toMatchObject({ ok: false });
});
