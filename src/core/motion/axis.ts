import { magnitude, multiply, parseRational, type Rational } from '../scaling/rational';
import { chainOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Sheet } from '../sheet/sheet';
import type { Round } from './round';
import { oneCount } from './way-counts';

/** The axis of a positioning drive as its sheet describes it: where its values are, and what its counts are in load units. */
export interface Axis {
  readonly index: SheetIndex;
  /** The load unit of its positions; `counts` where the sheet gives them no scale. */
  readonly unit: string;
  /** One count in that unit; below 0 where the counter goes down as the load goes on. */
  readonly one: Rational;
  /** Load units that one turn of the motor makes, without sign; null where the sheet does not say how many counts a turn has. */
  readonly perTurn: Rational | null;
  readonly position: PlacedParameter;
  readonly target: PlacedParameter;
  /** What the machine has between its ends; null where the sheet does not say. */
  readonly travel: { readonly from: Rational; readonly to: Rational } | null;
  /** Null where it goes straight on. */
  readonly round: Round | null;
  /** How people on the machine call the two ways. */
  readonly forward: string;
  readonly backward: string;
}

/** The place of a setting of the axis. A dialect says the speed of a move where others say the speed reference. */
export function axisPlace({ byRole, sheet }: SheetIndex, role: ParameterRole): PlacedParameter | undefined {
  return byRole.get(role) ?? (role === 'move-speed' && sheet.dialect ? byRole.get('speed-reference') : undefined);
}

/** Null where the drive of the sheet is not sent to positions. */
export function axisOf(index: SheetIndex): Axis | null {
  const { byRole, sheet } = index;
  const [position, target] = [byRole.get('actual-position'), byRole.get('target-position')];
  if (!position || !target) return null;
  const own = oneCount(sheet, target);
  if (!own) return null;
  const turn = countsPerTurn(index, target);
  const [from, to] = [sheet.axis?.travel?.from, sheet.axis?.travel?.to].map((text) =>
    text === undefined ? null : parseRational(text),
  );
  return {
    index,
    unit: chainOf(sheet, target)?.unit ?? target.unit ?? 'counts',
    one: own,
    perTurn: turn && magnitude(multiply(turn, own)),
    position,
    target,
    travel: from?.ok && to?.ok ? { from: from.value, to: to.value } : null,
    round: roundOf(sheet.axis?.round),
    forward: sheet.axis?.forward ?? 'forward',
    backward: sheet.axis?.backward ?? 'backward',
  };
}

/** One turn of an axis that goes round; null where the sheet says nothing of it that is more than nothing. */
function roundOf(own: NonNullable<Sheet['axis']>['round']): Round | null {
  const turn = own && parseRational(own.turn);
  return own && turn?.ok && turn.value.num > 0n ? { turn: turn.value, wayBit: own.wayBit ?? 0 } : null;
}

/** Counts of one turn of the motor, by the chain of the axis or of its target. */
function countsPerTurn({ sheet }: SheetIndex, target: PlacedParameter): Rational | null {
  const named = sheet.scalings?.find(({ id }) => id === sheet.axis?.chain)?.chain;
  const step = [named, chainOf(sheet, target)]
    .flatMap((chain) => chain?.steps ?? [])
    .find((one) => one.kind === 'counts-per-turn');
  const counts = step && parseRational(step.counts);
  return counts?.ok ? counts.value : null;
}

/**
 * The software limits in load units, as the drive holds them for its counter: the lower end first where they act; turned round where the counter goes the
 * other way. Null where one of them is not known.
 */
export function limitsOf(
  { one }: Pick<Axis, 'one'>,
  known: (role: 'position-least' | 'position-most') => Rational | null,
): readonly [low: Rational, high: Rational] | null {
  const [least, most] = [known('position-least'), known('position-most')];
  if (!least || !most) return null;
  return one.num < 0n ? [most, least] : [least, most];
}

/** The way in which a position changes, as people on the machine call it; empty where it does not. */
export const wayName = ({ forward, backward }: Axis, distance: Rational): string =>
  distance.num === 0n ? '' : distance.num > 0n ? forward : backward;

/** Characters of a way with its unit. */
const MOST = 100;
const TURNS = /^(.*?)\s*(?:turns?|revs?|revolutions?)\s*$/i;

/** A way as it is typed, with turns of the motor written out: `2 turns` is text of the load unit; null where a turn is not known. */
export function withoutTurns({ perTurn }: Pick<Axis, 'perTurn'>, text: string): string | null {
  // Nobody types so much; what is pasted must not be searched for a unit.
  const number = text.length > MOST ? undefined : TURNS.exec(text)?.[1];
  if (number === undefined) return text;
  const turns = parseRational(number);
  if (!turns.ok) return number;
  if (!perTurn) return null;
  const { num, den } = multiply(turns.value, perTurn);
  return den === 1n ? `${num}` : `${num}/${den}`;
}
