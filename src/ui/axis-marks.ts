import { asNumber } from '../core/as-number';
import { limitsOf, type Axis } from '../core/motion/axis';
import { decimalText, type Rational } from '../core/scaling/rational';
import type { AxisMark } from './axis-picture';

/** A place on an axis with its words; nothing where it is not known. */
export const axisMark = (
  { unit }: Axis,
  kind: AxisMark['kind'],
  at: Rational | null,
  text: string,
): readonly AxisMark[] =>
  at ? [{ kind, at: asNumber(at), text: `${text} ${decimalText(at, 2, false)} ${unit}` }] : [];

/** Where the positions of an axis that goes round begin anew, over the turns in which these places lie; nothing of one that goes straight. */
export function turnMarks({ round, unit }: Axis, places: readonly number[]): readonly AxisMark[] {
  if (!round) return [];
  const turn = asNumber(round.turn);
  const first = Math.floor(Math.min(0, ...places) / turn);
  const last = Math.max(first + 1, Math.ceil(Math.max(turn, ...places) / turn));
  return Array.from({ length: last - first + 1 }, (_, i) => ({
    kind: 'turn',
    at: (first + i) * turn,
    text: `0 ${unit}`,
  }));
}

/** The machine's own ends, and the software limits where they act. */
export function endMarks(axis: Axis, known: Parameters<typeof limitsOf>[1]): readonly AxisMark[] {
  const { travel } = axis;
  const [least, most] = limitsOf(axis, known) ?? [null, null];
  const acts = least !== null && most !== null && asNumber(least) < asNumber(most);
  return [
    ...axisMark(axis, 'end', travel?.from ?? null, 'end'),
    ...axisMark(axis, 'end', travel?.to ?? null, 'end'),
    ...axisMark(axis, 'limit', acts ? least : null, 'lowest'),
    ...axisMark(axis, 'limit', acts ? most : null, 'highest'),
  ];
}
