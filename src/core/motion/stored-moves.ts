import { done, failed, type Result } from '../result';
import { add, ratio, subtract, type Rational } from '../scaling/rational';
import { meaningOf, numberOf, valueIn, type KnownNumber } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { Axis } from './axis';
import { axisPace, type AxisKnown } from './axis-pace';
import { whyOutOfReach } from './check-move';
import { planMove, type MovePlan } from './move-plan';
import { atNoCounts } from './way-counts';

/** What a row of the table may hold, in the order in which people read it. */
export const STORED_COLUMNS = ['from', 'to', 'speed', 'rest', 'then'] as const;
export type StoredColumn = (typeof STORED_COLUMNS)[number];

/** One move that the drive keeps, by the entries that hold it. */
export type StoredRow = Readonly<Partial<Record<StoredColumn, PlacedParameter>>> & {
  readonly number: number;
  readonly to: PlacedParameter;
};

/** The table of moves that a drive keeps itself. */
export interface StoredTable {
  readonly select: PlacedParameter;
  /** The setting that lets an input start one, and which bit of the inputs of the axis that is. */
  readonly startedBy: { readonly place: PlacedParameter; readonly input: number } | undefined;
  readonly rows: readonly StoredRow[];
}

/** Null where the sheet's drive keeps no moves. */
export function storedTableOf({ sheet, byNumber, byRole }: SheetIndex): StoredTable | null {
  const { storedMoves } = sheet.axis ?? {};
  const at = (number: string | undefined): PlacedParameter | undefined =>
    number === undefined ? undefined : byNumber.get(number);
  const select = byRole.get('stored-move');
  if (!storedMoves || !select) return null;
  const input = at(storedMoves.startedBy?.number);
  return {
    select,
    startedBy: input && storedMoves.startedBy ? { place: input, input: storedMoves.startedBy.input } : undefined,
    rows: storedMoves.moves.flatMap(({ to, speed, from, rest, then }, i) => {
      const place = at(to);
      const others = { speed: at(speed), from: at(from), rest: at(rest), then: at(then) };
      return place ? [{ number: i + 1, to: place, ...withoutGaps(others) }] : [];
    }),
  };
}

/** All entries of the table, row by row. */
export const storedEntries = ({ rows }: StoredTable): readonly PlacedParameter[] => rows.flatMap(rowEntries);

/** The entries of one row. */
export const rowEntries = (row: StoredRow): readonly PlacedParameter[] =>
  STORED_COLUMNS.flatMap((column) => row[column] ?? []);

type Others = Partial<Record<Exclude<StoredColumn, 'to'>, PlacedParameter>>;
const withoutGaps = (others: Record<keyof Others, PlacedParameter | undefined>): Others =>
  Object.fromEntries(Object.entries(others).filter(([, place]) => place !== undefined));

/** One move of a row of moves, in load units and seconds; places are null where nobody knows them. */
export interface StoredLeg {
  readonly number: number;
  readonly from: Rational | null;
  readonly to: Rational | null;
  /** Null where the drive's speed and accelerations are not known in load units. */
  readonly plan: MovePlan | null;
  readonly restS: number;
}

/** What a start does until the axis stands for good, or begins again. */
export interface StoredPath {
  readonly legs: readonly StoredLeg[];
  /** The number of the move with which it begins again; null where it comes to an end. */
  readonly roundTo: number | null;
  /** Seconds to its end, or through the legs once; null where a move's time is not known. */
  readonly seconds: number | null;
}

/**
 * The moves that follow from a start, each beginning where the one before it ends. An error in words where one of them was not read, is not in the table, or
 * ends where the axis may not go. `start` is where the axis stands, in load units.
 */
export function storedPath(
  axis: Axis,
  table: StoredTable,
  first: number,
  start: Rational | null,
  held: KnownNumber,
  known: AxisKnown,
): Result<StoredPath, string> {
  const legs: StoredLeg[] = [];
  const seen = new Set<number>();
  let [next, at] = [first, start];
  while (next !== 0 && !seen.has(next)) {
    seen.add(next);
    const row = table.rows[next - 1];
    if (!row) return failed(`move ${next} is not in the table: it has ${table.rows.length}`);
    const unread = rowEntries(row).find(({ number }) => held(number) === undefined);
    if (unread) return failed(`${unread.number} ${unread.name} was not read`);
    const leg = legOf(axis, row, at, held, known);
    const far = leg.to && whyOutOfReach(axis, '', leg.to, leg.to, known);
    if (far) return failed(`move ${next}: ${far}`);
    legs.push(leg);
    at = leg.to;
    next = rawOf(row.then, held);
  }
  const seconds = legs.every(({ plan }) => plan !== null)
    ? legs.reduce((sum, { plan, restS }) => sum + (plan?.seconds ?? 0) + restS, 0)
    : null;
  return done({ legs, roundTo: next === 0 ? null : next, seconds });
}

/** The number that an entry holds; 0 where the drive has no such entry. */
const rawOf = (place: PlacedParameter | undefined, held: KnownNumber): number => {
  const pattern = place && held(place.number);
  return place && pattern !== undefined ? numberOf(place, pattern) : 0;
};

function legOf(axis: Axis, row: StoredRow, from: Rational | null, held: KnownNumber, known: AxisKnown): StoredLeg {
  const value = (place: PlacedParameter | undefined): Rational | null => {
    const pattern = place && held(place.number);
    return place && pattern !== undefined ? valueIn(axis.index.sheet, place, pattern) : null;
  };
  const said = value(row.to);
  // A way is not counted from where places are.
  const zero = atNoCounts(axis.index.sheet, row.to);
  const to = rawOf(row.from, held) === 0 ? said : said && from && zero && add(from, subtract(said, zero));
  const own = row.speed ? value(row.speed) : undefined;
  const pace = axisPace(axis, (role) => (role === 'move-speed' && own !== undefined ? own : known(role)));
  const plan = from && to && pace ? planMove({ ...pace, distance: subtract(to, from) }) : null;
  const rest = value(row.rest) ?? ratio(0n);
  const factor = row.rest?.unit === 'ms' ? 1000 : 1;
  return {
    number: row.number,
    from,
    to,
    plan: plan?.ok ? plan.value : null,
    restS: Number(rest.num) / Number(rest.den) / factor,
  };
}

/** A start in words: `1 → 3, then it stands`, `1 → 2, then again from 1`. */
export const pathText = ({ legs, roundTo }: StoredPath): string =>
  `${legs.map(({ number }) => number).join(' → ')}, then ${roundTo === null ? 'it stands' : `again from ${roundTo}, until it is stopped`}`;

/** What an entry of the table holds, in words. */
export const storedText = (index: SheetIndex, place: PlacedParameter, held: KnownNumber): string => {
  const pattern = held(place.number);
  return pattern === undefined ? '' : meaningOf(index, place, pattern, held);
};
