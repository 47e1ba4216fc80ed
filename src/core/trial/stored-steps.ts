import { hexNumber } from '../bytes/hex';
import { meaningOf, numberOf, valueIn } from '../drive/describe';
import { axisOf } from '../motion/axis';
import { rowEntries, storedPath, storedTableOf, type StoredPath, type StoredTable } from '../motion/stored-moves';
import type { ProcedureStep } from '../procedure/procedure';
import { levelOfRole } from '../procedure/route-procedure';
import type { Pattern } from '../profile/profile';
import { asNumber } from '../as-number';
import { done, failed, type Result } from '../result';
import { divide } from '../scaling/rational';
import type { ParameterRole } from '../sheet/parameter-section';
import { wordsOfSaid } from '../sets/said';
import { patternOfNumber } from '../values/pattern';
import { LOOK_US, stillThere } from './goal';
import { modeThatTakes, walkIn } from './in-mode';
import { FAULT, HANDSHAKE_US } from './move-steps';
import {
  begins,
  gathered,
  give,
  heldAt,
  unless,
  watchOf,
  written,
  type At,
  type Made,
  type TrialWay,
} from './requests';
import type { TrialStep } from './trial';

type StoredStep = Extract<TrialStep, { kind: 'stored-move' }>;

/**
 * Starts a move that the drive keeps itself, and waits until it and those that follow from it are over: its number, then the start as it rises,
 * acknowledged, taken back.
 */
export function storedMoveSteps({ number, withinS }: StoredStep, way: TrialWay, at: At): Made {
  const table = storedTableOf(way.index);
  if (!table) return failed('the sheet lists no moves that the drive keeps itself');
  if (at.isUnderWay) return failed('a move is under way: let it end first');
  if (!table.rows[number - 1]) return failed(`move ${number} is not in the table: it has ${table.rows.length}`);
  const path = knownPath(way, at, number);
  if (!path.ok) return path;
  const own = modeThatTakes(way, 'stored-move');
  const profile = own?.index.profile;
  const status = way.index.byRole.get('status-word');
  if (!own || !profile?.runs || !status) return failed('the sheet has no mode in which a stored move is started');
  const [taken, over] = [levelOfRole(profile, 'set-point-taken', true), levelOfRole(profile, 'at-speed', true)];
  if (!taken || !over) return failed('its status word does not say that a start is taken, or that the moves are over');
  const inMode = { ...way, index: own.index };
  const start = profile.runs.value;
  const lower = start & ~(1 << (profile.runs.rise ?? 0));
  const until = (level: Pattern, text: string, withinUs: number) =>
    unless(
      watchOf(inMode, { place: status, any: [level] }, { text, withinUs }),
      status,
      [levelOfRole(profile, 'fault', true)],
      FAULT,
    );
  const { select } = table;
  const made = gathered([
    ...stillThere(way, at),
    ...(path.value ? stillHeld(way, at, table, path.value) : []),
    ...walkIn(inMode, profile, at, own.mode),
    written(
      way,
      at,
      select,
      wordsOfSaid(select, patternOfNumber(select.type, number)),
      `${select.number} ${select.name} ← ${number}`,
    ),
    begins(give(inMode, at, 'control-word', start, `${hexNumber(start, 4)}: the start rises`)),
    until(taken, 'the start is acknowledged', HANDSHAKE_US),
    give(inMode, at, 'control-word', lower, `${hexNumber(lower, 4)}: it is taken back`),
    until(over, 'its moves are over', withinS * 1e6),
  ]);
  at.turns = true;
  at.position = path.value ? endOf(way, path.value) : undefined;
  return made;
}

/**
 * What a start comes to, by what was read of the table and what the trial itself writes into it; null where nothing is read before a trial, as from the
 * command line. An error where it was not read, leads where the axis may not go, or comes to no end.
 */
function knownPath(way: TrialWay, at: At, number: number): Result<StoredPath | null, string> {
  const { index, known, held } = way;
  const [axis, table] = [axisOf(index), storedTableOf(index)];
  if (!axis || !table || !held) return done(null);
  const value = (role: ParameterRole) => {
    const [place, pattern] = [index.byRole.get(role), known(role)];
    return place && pattern !== undefined ? valueIn(index.sheet, place, pattern) : null;
  };
  const start =
    at.position === undefined
      ? null
      : valueIn(index.sheet, axis.position, patternOfNumber(axis.position.type, at.position));
  const path = storedPath(axis, table, number, start, heldAt(way, at), value);
  if (!path.ok || path.value.roundTo === null) return path;
  return failed(
    `move ${number} goes round without an end: take one of its moves’ “then” away, or start it in Words and stop it by hand`,
  );
}

/** What was worked out rests on the table as it was read: somebody may have changed it at the drive since. */
function stillHeld(
  way: TrialWay,
  at: At,
  { rows }: StoredTable,
  { legs }: StoredPath,
): readonly Result<ProcedureStep, string>[] {
  const entries = legs.flatMap(({ number }) => rows.filter((row) => row.number === number).flatMap(rowEntries));
  return entries.flatMap((place) => {
    const pattern = at.given.has(place.number) ? undefined : way.held?.(place.number);
    if (pattern === undefined) return [];
    const held = numberOf(place, pattern);
    const text = `${place.number} ${place.name} is ${meaningOf(way.index, place, pattern)}, as it was read`;
    return [
      watchOf(
        way,
        { place, any: [], range: { type: place.type, least: held, most: held } },
        { text, withinUs: LOOK_US },
      ),
    ];
  });
}

/** Where the axis stands after a path, in its counts; undefined where nobody knows. */
function endOf({ index }: TrialWay, { legs }: StoredPath): number | undefined {
  const [axis, to] = [axisOf(index), legs.at(-1)?.to];
  return axis && to ? Math.round(asNumber(divide(to, axis.one))) : undefined;
}
