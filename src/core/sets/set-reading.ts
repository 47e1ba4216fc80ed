import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { registerWay } from '../sheet/index-sheet';
import { registerCell, type Cell } from '../sheet/place';
import { wordsOfType } from '../values/type';
import type { Said, SaidOf } from './said';

/** Numbers of parameters that one request reads. */
export type Group = readonly string[];

/**
 * Reads many values of a drive: in blocks as large as the link takes, halved where one is refused until each value was told or refused by itself.
 * Pure: whoever drives it sends what `nextGroup` names and tells `afterGroup` what came. It ends on every drive: each reply makes what waits less,
 * and a group that stays silent is asked twice, then in halves, then given up.
 */
export interface SetReading {
  /** Numbers of the parameters that are read together, the next group first. */
  readonly waiting: readonly Group[];
  readonly said: SaidOf;
  /** How many values are to be read in all. */
  readonly of: number;
  readonly requests: number;
  /** How often the group in front was asked without an answer. */
  readonly tries: number;
  /** Silences in a row: a drive that does not answer is not asked for ever. */
  readonly silences: number;
}

export type GroupReply =
  | { readonly kind: 'told'; readonly told: ReadonlyMap<Cell, number>; readonly atMs: number }
  /** `all`: what was asked is not known to the drive at all, whichever value is meant. */
  | { readonly kind: 'refused'; readonly why: string; readonly all: boolean }
  | { readonly kind: 'silent' };

/** Words of one read at most (Modbus Application Protocol V1.1b3, 6.3 and 6.4); a coil counts as one, since few drives have more. */
const MOST_WORDS = 125;
const MOST_TRIES = 2;
/** After so many silences in a row a reading pauses. */
export const SILENCES_TO_PAUSE = 6;

/** Values that stand together in one table are read together; all others by themselves, and those that were refused before at the end. */
export function groupsOf(
  index: SheetIndex,
  wanted: readonly PlacedParameter[],
  holes: ReadonlySet<string>,
): readonly (readonly string[])[] {
  const placed = wanted.map((parameter) => ({ parameter, way: registerWay(parameter) }));
  const alone = placed.filter(({ way, parameter }) => !way || holes.has(parameter.number));
  const together = placed
    .flatMap(({ parameter, way }) =>
      way && !holes.has(parameter.number)
        ? [{ number: parameter.number, ...way, end: way.address + wordsOfType(parameter.type, parameter.size) }]
        : [],
    )
    .sort((a, b) => (a.table < b.table ? -1 : a.table > b.table ? 1 : a.address - b.address));
  const groups: { readonly table: string; readonly first: number; end: number; readonly numbers: string[] }[] = [];
  for (const { number, table, address, end } of together) {
    const last = groups[groups.length - 1];
    const joins =
      last?.table === table &&
      end - last.first <= MOST_WORDS &&
      Array.from({ length: Math.max(0, address - last.end) }, (_, i) => last.end + i).every((at) => {
        const between = index.byCell.get(registerCell(at, table));
        return between !== undefined && !holes.has(between.number);
      }) &&
      address - last.end <= WIDEST_BRIDGE;
    if (joins && last) {
      last.numbers.push(number);
      last.end = Math.max(last.end, end);
    } else groups.push({ table, first: address, end, numbers: [number] });
  }
  return [...groups.map(({ numbers }) => numbers), ...alone.map(({ parameter }) => [parameter.number])];
}

/** Unwanted registers that a read runs over rather than begin another one: as the link's own planning has it. */
const WIDEST_BRIDGE = 8;

/** A reading of the wanted entries that has asked nothing yet; `holes` are addresses known as refused. */
export const beginReading = (
  index: SheetIndex,
  wanted: readonly PlacedParameter[],
  holes: ReadonlySet<string> = new Set(),
): SetReading => ({
  waiting: groupsOf(index, wanted, holes),
  said: new Map(),
  of: wanted.length,
  requests: 0,
  tries: 0,
  silences: 0,
});

/** What a file or nothing at all said, as a reading that waits for nothing. */
export const readingOf = (said: SaidOf): SetReading => ({
  waiting: [],
  said,
  of: said.size,
  requests: 0,
  tries: 0,
  silences: 0,
});

/** What is asked next, where `asked` was not answered yet; null where everything else was told, refused or given up. */
export const nextGroup = ({ waiting }: SetReading, asked: Group | null = null): Group | null =>
  waiting.find((group) => group !== asked) ?? null;

/** The same reading with a group in front, so that its reply can be told; the tries of another one are not counted against it. */
export const withInFront = (reading: SetReading, group: Group): SetReading =>
  reading.waiting[0] === group
    ? reading
    : { ...reading, tries: 0, waiting: [group, ...reading.waiting.filter((one) => one !== group)] };

/** The same with a group cut in two, where one request does not carry it. */
export const halved = (reading: SetReading): SetReading => {
  const [group = [], ...rest] = reading.waiting;
  const half = Math.ceil(group.length / 2);
  return {
    ...reading,
    tries: 0,
    waiting: [group.slice(0, half), group.slice(half), ...rest].filter((one) => one.length > 0),
  };
};

const withSaid = (
  reading: SetReading,
  entries: readonly (readonly [string, Said])[],
  waiting: SetReading['waiting'],
) => ({
  ...reading,
  tries: 0,
  waiting,
  said: new Map([...reading.said, ...entries]),
});

/** The reading after the reply to `nextGroup`. */
export function afterGroup(index: SheetIndex, before: SetReading, reply: GroupReply): SetReading {
  const [group, ...waiting] = before.waiting;
  if (!group) return before;
  const asked = { ...before, requests: before.requests + 1 };
  if (reply.kind === 'silent') {
    const silent = { ...asked, silences: before.silences + 1, tries: before.tries + 1 };
    if (silent.tries < MOST_TRIES) return silent;
    return group.length > 1
      ? halved(silent)
      : withSaid(
          silent,
          group.map((number) => [number, { kind: 'silent' }] as const),
          waiting,
        );
  }
  const heard = { ...asked, silences: 0 };
  if (reply.kind === 'refused') {
    if (group.length > 1 && !reply.all) return halved(heard);
    return withSaid(
      heard,
      group.map((number) => [number, { kind: 'refused', why: reply.why }] as const),
      waiting,
    );
  }
  const entries = group.map((number) => [number, wordsFrom(index.byNumber.get(number), reply.told)] as const);
  const missing = entries.flatMap(([number, words]) => (words ? [] : [number]));
  // What a good reply leaves out is asked for by itself, once.
  const again = group.length > 1 ? missing.map((number) => [number]) : [];
  return withSaid(
    heard,
    [
      ...entries.flatMap(([number, words]) =>
        words ? [[number, { kind: 'value' as const, words, atMs: reply.atMs }] as const] : [],
      ),
      ...(group.length > 1 ? [] : missing).map(
        (number) => [number, { kind: 'refused' as const, why: 'its answer does not hold the value' }] as const,
      ),
    ],
    [...again, ...waiting],
  );
}

function wordsFrom(parameter: PlacedParameter | undefined, told: ReadonlyMap<Cell, number>): readonly number[] | null {
  const words = parameter?.cells.map((cell) => told.get(cell)) ?? [];
  return words.length > 0 && words.every((word) => word !== undefined) ? words : null;
}

/** What stayed silent is asked once more when the reading goes on. */
export function resumed(reading: SetReading): SetReading {
  const silent = [...reading.said].flatMap(([number, { kind }]) => (kind === 'silent' ? [number] : []));
  return {
    ...reading,
    silences: 0,
    tries: 0,
    said: new Map([...reading.said].filter(([, { kind }]) => kind !== 'silent')),
    waiting: [...reading.waiting, ...silent.map((number) => [number])],
  };
}

/** A reading with what another one told of some of its values; what still waits for others goes on waiting. */
export function withReadAgain(reading: SetReading, part: SetReading): SetReading {
  const waiting = reading.waiting
    .map((group) => group.filter((number) => !part.said.has(number)))
    .filter((group) => group.length > 0);
  const said = new Map([...reading.said, ...part.said]);
  const left = waiting.reduce((sum, group) => sum + group.length, 0);
  return { ...reading, waiting, said, of: Math.max(reading.of, said.size + left) };
}

/** The parameters that the drive refused: their holes are kept, so that the next reading does not halve its way to them again. */
export const holesOf = (said: SaidOf): ReadonlySet<string> =>
  new Set([...said].flatMap(([number, { kind }]) => (kind === 'refused' ? [number] : [])));
