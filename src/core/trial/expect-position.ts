import { asNumber } from '../as-number';
import { patternOfCells } from '../drive/seen';
import { axisOf, axisPlace, limitsOf, type Axis } from '../motion/axis';
import { lengthOf } from '../motion/check-move';
import { axisPace, PACE_FIELDS, PACE_ROLES, type PaceField } from '../motion/axis-pace';
import { moveAt, planMove, type MovePlan } from '../motion/move-plan';
import { roundWayOf, wayRound, withinTurn } from '../motion/round';
import { atNoCounts } from '../motion/way-counts';
import { storedPath, storedTableOf, type StoredLeg, type StoredPath } from '../motion/stored-moves';
import type { RunState, StepRecord } from '../procedure/run-state';
import { parseRational, type Rational } from '../scaling/rational';
import type { SheetIndex } from '../sheet/index-sheet';
import type { CompiledStep, CompiledTrial } from './compile';
import { movesAxis, PERSON_S, SLACK_S, takenS, USUAL_S, type Band, type BandPoint } from './expect';
import type { ParameterRole } from '../sheet/parameter-section';
import { readTyped } from '../sets/typed-value';
import { parameterOf, valueOf } from './place-value';
import { recordsByStep } from './records';

/** What was known of the axis as a trial began, as texts of fractions in load units and seconds; null where it was not. */
export interface AxisStart {
  readonly position: string | null;
  readonly speed: string | null;
  readonly acceleration: string | null;
  readonly deceleration: string | null;
  /** Absent where the drive has none, and in runs that were kept before the bench knew of one. */
  readonly jerk?: string | null | undefined;
  readonly least: string | null;
  readonly most: string | null;
  /** What the position shows at home. */
  readonly atHome: string | null;
  /** By which way it goes round, as the drive numbers it; absent where it does not, and in runs that were kept before the bench knew of such an axis. */
  readonly roundWay?: string | null;
  /** What the drive’s own table of moves holds, as patterns by the numbers of its entries. */
  readonly stored?: Readonly<Record<string, number>>;
}

/** The band is so wide to either side, as a share of the longest move. */
const WIDTH = 0.02;
/** Points of a move's band. */
const POINTS = 60;
/** Before a run nobody knows how long homing takes. */
const HOMING_S = 10;

const numberIn = (text: string | null): number | null => {
  const read = text === null ? null : parseRational(text);
  return read?.ok ? asNumber(read.value) : null;
};
const exactIn = (text: string | null): Rational | null => {
  const read = text === null ? null : parseRational(text);
  return read?.ok ? read.value : null;
};

/**
 * The position that a trial of moves expects over time, as a band. Each move of a run begins when its start went out; what was not reached yet is drawn as it
 * is usual. Null where the sheet describes no axis, where the trial moves none, or where it was not known where the axis stood and how fast it goes; and where
 * it may be anywhere while nobody says how far its machine or its limits let it go.
 */
export function positionBandOf(
  index: SheetIndex,
  { steps, procedure }: CompiledTrial,
  start: AxisStart,
  run: RunState | null,
): Band | null {
  const axis = axisOf(index);
  const from = numberIn(start.position);
  if (!axis || from === null || !movesAxis(steps)) return null;
  const held = heldAt(start);
  const way: Drawing = { axis, held, wide: widest(axis, steps, start, from), points: [] };
  const begins: number[] = [];
  const records = recordsByStep(steps, run);
  let [x, at]: [number, number | null] = [0, from];
  for (const [i, { step, to }] of steps.entries()) {
    begins.push(x);
    const own = records[i] ?? [];
    const plan = step.kind === 'move' && at !== null ? planOf(axis, step, held, at) : null;
    if (step.kind === 'write') takeWritten(axis, held, step);
    const path = step.kind === 'stored-move' ? pathOf(axis, step.number, held, at) : null;
    const ends = x + (takenS(run, own, to) ?? usualS(step, plan, path));
    put(way, x, at);
    const isOver = step.kind === 'move' && step.blended === true;
    const legs: readonly Leg[] = path?.legs ?? (plan && !isOver ? [{ plan, restS: 0 }] : []);
    if (at !== null && legs.length > 0)
      putPath(way, legs, at, { startX: x + (startOf(procedure, own) ?? USUAL_S), from: x, to: ends });
    // It may be anywhere at once, and is home at once; so may it be where nobody knows what the drive keeps.
    const isAnywhere = step.kind === 'home' || (step.kind === 'stored-move' && !path);
    at = after(way, start, step, plan, path, at);
    if ((isAnywhere || at === null) && !anywhere(way)) return null;
    if (isAnywhere) for (const when of [x, ends]) put(way, when, null);
    x = ends;
    put(way, x, at);
  }
  const round = axis.round && { round: { turn: asNumber(axis.round.turn), from } };
  return { of: 'position', unit: axis.unit, points: way.points, begins, ...round };
}

/** A move, and how long the axis rests after it. */
type Leg = Pick<StoredLeg, 'plan' | 'restS'>;

/** What a run knows of the axis at a step: what was known before it, and what its steps wrote since. */
interface AxisHeld {
  readonly known: Map<ParameterRole, Rational | null>;
  readonly stored: Map<string, number>;
}

interface Drawing {
  readonly axis: Axis;
  readonly held: AxisHeld;
  readonly wide: number;
  readonly points: BandPoint[];
}

const heldAt = (start: AxisStart): AxisHeld => ({
  known: new Map<ParameterRole, Rational | null>([
    ...PACE_FIELDS.map((field) => [PACE_ROLES[field], exactIn(paceIn(start, field))] as const),
    ['position-least', exactIn(start.least)],
    ['position-most', exactIn(start.most)],
    ['round-way', exactIn(start.roundWay ?? null)],
  ]),
  stored: new Map(Object.entries(start.stored ?? {})),
});

/** Runs that were kept before the bench knew of a jerk had none. */
const paceIn = (start: AxisStart, field: PaceField): string | null =>
  field === 'jerk' && start.jerk === undefined ? '0' : (start[field] ?? null);

/** Between which ends it may be where nobody says more: the machine’s, else the drive’s own limits; null where neither is known. */
function anywhere({ axis, held: { known } }: Drawing): readonly [low: number, high: number] | null {
  const { travel } = axis;
  const ends = travel ? ([travel.from, travel.to] as const) : limitsOf(axis, (role) => known.get(role) ?? null);
  return ends && [asNumber(ends[0]), asNumber(ends[1])];
}

/** A place at a time; null: it may be anywhere. */
function put(way: Drawing, x: number, at: number | null, other = at): void {
  const [low, high] =
    at === null || other === null ? (anywhere(way) ?? [0, 0]) : [Math.min(at, other), Math.max(at, other)];
  way.points.push({ x, low: low - way.wide, high: high + way.wide });
}

/** The path of moves that the drive goes through itself, a little earlier or later, as far as their step goes. */
function putPath(
  way: Drawing,
  moves: readonly Leg[],
  at: number,
  { startX, from, to }: { readonly startX: number; readonly from: number; readonly to: number },
): void {
  let [begin, place] = [0, at];
  const legs = moves.flatMap(({ plan, restS }) => {
    if (!plan) return [];
    const leg = { begin, place, plan };
    place += moveAt(plan, plan.seconds).way;
    begin += plan.seconds + restS;
    return [leg];
  });
  const placeAt = (seconds: number): number => {
    const leg = legs.findLast((one) => one.begin <= seconds) ?? legs[0];
    return leg ? leg.place + moveAt(leg.plan, seconds - leg.begin).way : at;
  };
  const last = begin + SLACK_S;
  const count = POINTS * Math.max(1, legs.length);
  for (let n = 0; n <= count; n++) {
    const seconds = -SLACK_S + (n / count) * (last + SLACK_S);
    const x = startX + seconds;
    if (x <= from || x >= to) continue;
    // Between the two a move may turn round.
    const turns = legs.filter((leg) => Math.abs(leg.begin - seconds) < SLACK_S).map((leg) => leg.place);
    const places = [placeAt(seconds - SLACK_S), placeAt(seconds + SLACK_S), ...turns];
    put(way, x, Math.min(...places), Math.max(...places));
  }
}

/** What a step writes is what the moves after it are drawn by: pace and limits of the axis, moves in the drive’s table. */
function takeWritten(
  axis: Axis,
  { known, stored }: AxisHeld,
  { what, to }: Extract<CompiledStep['step'], { kind: 'write' }>,
): void {
  const { index } = axis;
  const place = parameterOf(index, what);
  if (!place) return;
  const role = [...known.keys()].find((one) => axisPlace(index, one) === place);
  const value = role && valueOf(index, place, to);
  if (role) known.set(role, value?.ok ? value.value : null);
  const words = readTyped(index, place, to, (number) => stored.get(number));
  const pattern = words.ok ? patternOfCells(place, words.value) : null;
  if (pattern !== null) stored.set(place.number, pattern);
}

/** What a stored move does; null where its table was not read, or it comes to no end. */
function pathOf(axis: Axis, number: number, { known, stored }: AxisHeld, at: number | null): StoredPath | null {
  const table = storedTableOf(axis.index);
  if (!table || at === null) return null;
  const from = parseRational(at.toFixed(9));
  const path = storedPath(
    axis,
    table,
    number,
    from.ok ? from.value : null,
    (own) => stored.get(own),
    (role) => known.get(role) ?? null,
  );
  return path.ok && path.value.seconds !== null && path.value.roundTo === null ? path.value : null;
}

/** Where the axis is after a step; null where nobody says. */
function after(
  { axis, held }: Drawing,
  start: AxisStart,
  step: CompiledStep['step'],
  plan: MovePlan | null,
  path: StoredPath | null,
  at: number | null,
): number | null {
  switch (step.kind) {
    case 'stored-move':
      return numberOf(path?.legs.at(-1)?.to ?? undefined);
    case 'home':
      return numberIn(start.atHome);
    case 'zero':
      // In which turn of the drawing that lies, nobody says.
      return axis.round ? null : numberOf(atNoCounts(axis.index.sheet, axis.position) ?? undefined);
    case 'move':
      // A move over which the next one takes is left somewhere on its way; an absolute one ends where it was sent, whatever was before.
      if (step.blended === true) return null;
      return plan && at !== null
        ? at + moveAt(plan, plan.seconds).way
        : step.relative || axis.round
          ? null
          : targetOf(axis, step, held);
    default:
      return at;
  }
}

const numberOf = (value: Rational | undefined): number | null => (value ? asNumber(value) : null);

type MoveStep = Extract<CompiledStep['step'], { kind: 'move' }>;

function targetOf(axis: Axis, { to }: MoveStep, { known }: AxisHeld): number | null {
  if (to === 'lowest' || to === 'highest')
    return numberOf(known.get(to === 'lowest' ? 'position-least' : 'position-most') ?? undefined);
  const way = lengthOf(axis, to);
  return way.ok ? asNumber(way.value) : null;
}

function planOf(axis: Axis, step: MoveStep, held: AxisHeld, at: number): MovePlan | null {
  const target = targetOf(axis, step, held);
  const pace = axisPace(axis, (role) => held.known.get(role) ?? null);
  if (target === null || !pace) return null;
  const distance = step.relative ? exactly(target) : distanceTo(axis, held, at, target);
  const plan = distance && planMove({ ...pace, distance });
  return plan?.ok ? plan.value : null;
}

const exactly = (value: number): Rational | null => exactIn(value.toFixed(9));

/** How far it goes to a place; null where it is not known by which way it goes round. */
function distanceTo({ round }: Axis, { known }: AxisHeld, at: number, target: number): Rational | null {
  if (!round) return exactly(target - at);
  const way = roundWayOf(round, known.get('round-way') ?? null);
  const [from, to] = [exactly(at), exactly(target)];
  return way && from && to && wayRound(round.turn, way, withinTurn(round.turn, from), withinTurn(round.turn, to));
}

/** When the move of a step was started, in seconds after the step began; null where that is not known. */
function startOf(procedure: CompiledTrial['procedure'], records: readonly StepRecord[]): number | null {
  const [first] = records;
  const start = records.find(({ step }) => {
    const own = procedure?.steps[step];
    return own?.kind === 'request' && own.begins === true;
  });
  return first && start ? (start.toUs - first.fromUs) / 1e6 : null;
}

function usualS(step: CompiledStep['step'], plan: MovePlan | null, path: StoredPath | null): number {
  switch (step.kind) {
    case 'hold':
      return step.s;
    case 'ask':
    case 'ask-turning':
    case 'ask-number':
      return PERSON_S;
    case 'home':
      return HOMING_S;
    case 'move':
      return (plan?.seconds ?? 1) + 2 * USUAL_S;
    case 'stored-move':
      return (path?.seconds ?? 1) + 2 * USUAL_S;
    default:
      return USUAL_S;
  }
}

/** Half the width of the band: a share of the longest way from where it stands, and not less than a hundredth of a turn. */
function widest(axis: Axis, steps: readonly CompiledStep[], start: AxisStart, from: number): number {
  const held = heldAt(start);
  const ways = steps.flatMap(({ step }) => {
    if (step.kind === 'stored-move')
      return (pathOf(axis, step.number, held, from)?.legs ?? []).map(({ from: a, to: b }) =>
        Math.abs((numberOf(b ?? undefined) ?? 0) - (numberOf(a ?? undefined) ?? 0)),
      );
    const target = step.kind === 'move' ? targetOf(axis, step, held) : null;
    return target === null || step.kind !== 'move' ? [] : [Math.abs(step.relative ? target : target - from)];
  });
  return Math.max(WIDTH * Math.max(0, ...ways), axis.perTurn ? asNumber(axis.perTurn) / 100 : 0);
}
