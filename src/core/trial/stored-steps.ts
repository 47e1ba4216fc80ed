import { hexNumber } from '../bytes/hex';
import { valueIn } from '../drive/describe';
import { axisOf } from '../motion/axis';
import { storedPath, storedTableOf } from '../motion/stored-moves';
import { levelOfRole } from '../procedure/route-procedure';
import type { Pattern } from '../profile/profile';
import { failed } from '../result';
import { wordsOfSaid } from '../sets/said';
import { patternOfNumber } from '../values/pattern';
import { stillThere } from './goal';
import { modeThatTakes, walkIn } from './in-mode';
import { FAULT, HANDSHAKE_US } from './move-steps';
import { begins, gathered, give, unless, watchOf, written, type At, type Made, type TrialWay } from './requests';
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
  const why = whyNot(way, number);
  if (why !== '') return failed(why);
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
  at.position = undefined;
  return made;
}

/** What was read of the table and speaks against a start; empty where nothing does, or where nothing was read. */
function whyNot({ index, known, held }: TrialWay, number: number): string {
  const [axis, table] = [axisOf(index), storedTableOf(index)];
  const to = table?.rows[number - 1]?.to.number;
  if (!axis || !table || !held || to === undefined || held(to) === undefined) return '';
  const value = (role: Parameters<TrialWay['known']>[0]) => {
    const [place, pattern] = [index.byRole.get(role), known(role)];
    return place && pattern !== undefined ? valueIn(index.sheet, place, pattern) : null;
  };
  const path = storedPath(axis, table, number, value('actual-position'), held, value);
  if (!path.ok) return path.error;
  return path.value.roundTo === null
    ? ''
    : `move ${number} goes round without an end: take one of its moves’ “then” away, or start it in Words and stop it by hand`;
}
