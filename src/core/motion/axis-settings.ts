import { counted } from '../counted';
import { add, compare, decimalText, divide, multiply, ratio, subtract, type Rational } from '../scaling/rational';
import type { ParameterRole } from '../sheet/parameter-section';
import { limitsOf, type Axis } from './axis';
import { HOMING_METHODS, switchOf } from './homing-methods';
import { atNoCounts } from './way-counts';

/** What of an axis is set together, and what each setting is for. Common practice, no source; the objects are those of IEC 61800-7-201 where it has them. */
export const AXIS_SETTINGS: readonly {
  readonly group: string;
  readonly settings: readonly (readonly [role: ParameterRole, purpose: string])[];
}[] = [
  {
    group: 'Ends and limits',
    settings: [
      ['position-least', 'no target below it is gone to'],
      ['position-most', 'no target above it is gone to'],
      ['axis-inputs-use', 'whether the end switches hold the axis'],
    ],
  },
  {
    group: 'Going round',
    settings: [['round-way', 'by which way it goes to a place']],
  },
  {
    group: 'Arrival',
    settings: [
      ['position-window', 'so near counts as there'],
      ['position-window-time', 'and must be so for this long'],
    ],
  },
  {
    group: 'Following',
    settings: [
      ['following-limit', 'further behind than this is a fault'],
      ['following-time', 'when it lasts this long'],
    ],
  },
  {
    group: 'Home',
    settings: [
      ['homing-method', 'how home is looked for'],
      ['homing-speed', 'on the way to the switch'],
      ['homing-creep', 'over its edge, and to the index pulse'],
      ['homing-acceleration', 'up and down, while home is looked for'],
      ['home-offset', 'what stands between home and zero'],
    ],
  },
  {
    group: 'Moves',
    settings: [
      ['move-speed', 'of every move that names no other'],
      ['move-acceleration', 'up'],
      ['move-deceleration', 'down'],
      ['move-jerk', 'how fast both may change; 0: at once'],
    ],
  },
];

/** What is set, in load units and seconds, or as a raw number where it is a choice; null where it is not known. */
export type AxisValues = (role: ParameterRole) => Rational | null;

const ZERO = ratio(0n);
const lies = (value: Rational, from: Rational, to: Rational): boolean =>
  compare(value, from) >= 0 && compare(value, to) <= 0;

/** What the settings of an axis have against each other, and against the machine: a sentence each. What is not known is not judged. */
export function axisDoubts(axis: Axis, value: AxisValues): readonly string[] {
  return [...limitDoubts(axis, value), ...arrivalDoubts(axis, value), ...homeDoubts(axis, value)];
}

const textIn =
  ({ unit }: Axis) =>
  (value: Rational): string =>
    `${decimalText(value, 3, false)} ${unit}`;

function limitDoubts(axis: Axis, value: AxisValues): readonly string[] {
  // It comes round to each of its places again.
  if (axis.round) return [];
  const text = textIn(axis);
  const uses = value('axis-inputs-use');
  const [least, most] = limitsOf(axis, value) ?? [null, null];
  const { travel } = axis;
  const isOff = least !== null && most !== null && compare(least, most) >= 0;
  const beyond = (limit: Rational | null, name: string): readonly string[] =>
    travel && limit && !isOff && !lies(limit, travel.from, travel.to)
      ? [`the ${name} position, ${text(limit)}, lies beyond the machine’s own end: the switch comes first`]
      : [];
  return [
    ...(isOff && least && most && compare(least, most) > 0
      ? [`the lowest position, ${text(least)}, lies above the highest, ${text(most)}`]
      : []),
    ...(isOff && uses?.num === 0n
      ? ['neither software limits nor end switches hold the axis: only the machine’s own ends do']
      : isOff
        ? ['no software limits act: lowest and highest are the same']
        : []),
    ...beyond(least, 'lowest'),
    ...beyond(most, 'highest'),
  ];
}

function arrivalDoubts(axis: Axis, value: AxisValues): readonly string[] {
  const text = textIn(axis);
  const [window, following] = [value('position-window'), value('following-limit')];
  const limits = limitsOf(axis, value);
  const way = limits && subtract(limits[1], limits[0]);
  return [
    ...(window?.num === 0n ? ['the window is 0: a count of unrest keeps the drive from being there'] : []),
    ...(window && way && way.num > 0n && compare(window, way) >= 0
      ? [`the window, ${text(window)}, is as wide as the way between the limits: it is always there`]
      : []),
    ...(window && following && following.num > 0n && compare(window, following) > 0
      ? [
          `the window, ${text(window)}, is wider than the following error that is allowed, ${text(following)}: it is “there” while it still may trip`,
        ]
      : []),
    ...(following?.num === 0n ? ['the following error is not watched: a shaft that is held fast is not told'] : []),
  ];
}

function homeDoubts(axis: Axis, value: AxisValues): readonly string[] {
  const text = textIn(axis);
  const offset = value('home-offset');
  const [least, most] = limitsOf(axis, value) ?? [null, null];
  const shown = offset && homeShows(axis, offset);
  const [search, creep, acceleration] = [value('homing-speed'), value('homing-creep'), value('homing-acceleration')];
  const number = value('homing-method');
  const method = number === null ? undefined : HOMING_METHODS.get(Number(number.num));
  const over = search && acceleration && acceleration.num > 0n ? brakingWay(search, acceleration) : null;
  const needsEnd = method && (switchOf(method) === 'lower-end' || switchOf(method) === 'upper-end');
  return [
    ...(shown && least && most && compare(least, most) < 0 && !lies(shown, least, most)
      ? [`home shows ${text(shown)}, which lies outside the limits, ${text(least)} to ${text(most)}`]
      : []),
    ...(search && creep && compare(creep, search) > 0
      ? ['it crosses the edge faster than it comes to the switch: home gets less exact']
      : []),
    ...(over && needsEnd ? [`behind the end switch it needs ${text(over)} to stop: so much room must be there`] : []),
    ...wrapDoubts(axis, offset),
  ];
}

const brakingWay = (speed: Rational, acceleration: Rational): Rational =>
  divide(multiply(speed, speed), multiply(ratio(2n), acceleration));

/** What the position shows at home, by the sheet's sense of the offset: a way from where the position counts 0. */
export function homeShows(axis: Axis, offset: Rational): Rational {
  const [zero, way] = [zeroOf(axis), offsetWay(axis, offset)];
  return axis.index.sheet.axis?.homeShows === 'minus-offset' ? subtract(zero, way) : add(zero, way);
}

/** What the position shows where it counts 0. */
const zeroOf = ({ index, position }: Axis): Rational => atNoCounts(index.sheet, position) ?? ZERO;

/** The home offset as a way, wherever the counting of its place begins. */
function offsetWay({ index: { sheet, byRole } }: Axis, offset: Rational): Rational {
  const place = byRole.get('home-offset');
  return subtract(offset, (place && atNoCounts(sheet, place)) ?? ZERO);
}

/** Whether the travel, moved by the offset, still fits the drive's field of the position. */
function wrapDoubts(axis: Axis, offset: Rational | null): readonly string[] {
  const { travel, one, position } = axis;
  if (!travel || !offset || axis.round) return [];
  const [min, max] = [position.min, position.max].map((end) => ratio(BigInt(Math.trunc(end))));
  const ends = [travel.from, travel.to].map((end) =>
    divide(subtract(subtract(end, zeroOf(axis)), offsetWay(axis, offset)), one),
  );
  return ends.some((end) => (min && compare(end, min) < 0) || (max && compare(end, max) > 0))
    ? [
        `with this offset the travel does not fit the position’s field of ${counted(16 * position.cells.length, 'bit')}: the counter wraps on the way`,
      ]
    : [];
}
