import { asNumber } from '../as-number';
import { axisPlace, type Axis } from '../motion/axis';
import { PACE_FIELDS, PACE_ROLES } from '../motion/axis-pace';
import { withinS, type CheckedMove, type MoveWish } from '../motion/check-move';
import { decimalText } from '../scaling/rational';
import type { Measure, Trial, TrialStep } from './trial';

/** The id of a move that is typed and not kept. */
export const MOVE_ID = 'a-move';
/** How far off it may stand, where nothing else is said. */
const NEAR = '1/100 turns';

/** A way with its unit, where a plain number was typed. */
export const wayText = ({ unit }: Axis, to: string): string => (/\d\s*$/.test(to) ? `${to.trim()} ${unit}` : to.trim());

/** What is done with a move: once, or there and back so many times with a rest at each end. */
export interface Rounds {
  readonly times: number;
  readonly dwellS: number;
}

const POSITION = { role: 'actual-position' } as const;

/** A move as a trial: its pace written first where it is typed, the position read before and after, and how far off it stands. */
export function trialOfMove(axis: Axis, wish: MoveWish, checked: CheckedMove, rounds: Rounds | null): Trial {
  const within = withinS(checked);
  const paces = PACE_FIELDS.flatMap((field): readonly TrialStep[] => {
    const role = axisPlace(axis.index, PACE_ROLES[field])?.role;
    return wish[field].trim() === '' || !role ? [] : [{ id: field, kind: 'write', what: { role }, to: wish[field] }];
  });
  const back = backTo(axis, wish, checked);
  const isRound = rounds !== null && rounds.times > 0;
  const steps: readonly TrialStep[] = [
    ...paces,
    { id: 'before', kind: 'read', what: POSITION },
    { id: 'there', kind: 'move', to: wish.to, relative: wish.relative, withinS: within },
    { id: 'after', kind: 'read', what: POSITION },
    ...(isRound
      ? ([
          { id: 'dwell', kind: 'hold', s: rounds.dwellS },
          { id: 'back', kind: 'move', to: back, relative: wish.relative, withinS: within },
          { id: 'dwell-back', kind: 'hold', s: rounds.dwellS },
        ] as const)
      : []),
    ...(isRound && rounds.times > 1
      ? [{ id: 'rounds', kind: 'repeat', from: 'there', times: rounds.times } as const]
      : []),
  ];
  const measures: readonly Measure[] = [
    // A relative move that is repeated begins somewhere else each time than where it was read.
    ...(wish.relative && isRound && rounds.times > 1
      ? []
      : [
          {
            kind: 'arrival',
            name: 'where it stood, less where it was sent',
            move: 'there',
            ...(wish.relative ? { from: 'before' } : {}),
            seen: 'after',
            ...(axis.perTurn ? { within: NEAR } : {}),
          } as const,
        ]),
    { kind: 'time', name: 'from the start to the target', from: 'there', to: 'there' },
  ];
  return {
    format: 1,
    id: MOVE_ID,
    name: `Move ${wish.relative ? 'by' : 'to'} ${wayText(axis, wish.to)}`,
    proves: 'That the axis goes there, how long it takes, and how far off it stands.',
    leaves: 'The machine around it: look before it moves.',
    steps: [...steps],
    measures: [...measures],
  };
}

/** Digits behind the point that tell one count from the next. */
const digitsOf = ({ one }: Axis): number => Math.max(0, Math.ceil(-Math.log10(Math.abs(asNumber(one))))) + 2;

/** The way back: for an absolute move the place where it began, not minus the stroke. */
function backTo(axis: Axis, { relative, to }: MoveWish, { start }: CheckedMove): string {
  if (!relative)
    return start
      ? `${decimalText(start, digitsOf(axis), false)} ${axis.unit === 'counts' ? '' : axis.unit}`.trim()
      : to;
  const plain = to.trim();
  return /^[-−]/.test(plain) ? plain.slice(1) : `-${plain.replace(/^\+/, '')}`;
}
