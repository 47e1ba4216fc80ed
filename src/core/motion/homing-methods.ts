/**
 * The homing methods of IEC 61800-7-201 (CiA 402), from memory of the published text: which switch, which edge of it, and in which direction the edge is
 * crossed as home is taken. What is drawn and said of a method comes of this table; numbers that are not here are reserved.
 */

export type HomingSwitch = 'lower-end' | 'upper-end' | 'home-above' | 'home-below' | 'home-between';
type Direction = -1 | 1;

/** Home is the edge of a switch, or the first index pulse behind it in the direction in which it is crossed. */
interface BySwitch {
  readonly kind: 'switch';
  readonly switch: HomingSwitch;
  /** Of a switch in the middle of the travel, which of its edges. */
  readonly edge: 'only' | 'lower' | 'upper';
  readonly crossed: Direction;
  /** Where it goes first while the switch is not active; beyond the switch it meets an end and turns round. */
  readonly first: Direction;
  readonly index: boolean;
}

export type HomingMethod =
  | BySwitch
  /** The next index pulse in a direction. */
  | { readonly kind: 'index'; readonly crossed: Direction }
  /** Where it stands. */
  | { readonly kind: 'here' };

type Row = readonly [HomingSwitch, BySwitch['edge'], crossed: Direction, first: Direction];

/** Methods 1 to 14; 17 to 30 are the same without the index pulse. */
const ROWS: readonly Row[] = [
  ['lower-end', 'only', 1, -1],
  ['upper-end', 'only', -1, 1],
  ['home-above', 'only', -1, 1],
  ['home-above', 'only', 1, 1],
  ['home-below', 'only', 1, -1],
  ['home-below', 'only', -1, -1],
  ['home-between', 'lower', -1, 1],
  ['home-between', 'lower', 1, 1],
  ['home-between', 'upper', -1, 1],
  ['home-between', 'upper', 1, 1],
  ['home-between', 'upper', 1, -1],
  ['home-between', 'upper', -1, -1],
  ['home-between', 'lower', 1, -1],
  ['home-between', 'lower', -1, -1],
];
const WITHOUT_INDEX = 16;

export const HOMING_METHODS: ReadonlyMap<number, HomingMethod> = new Map<number, HomingMethod>([
  ...[0, WITHOUT_INDEX].flatMap((more) =>
    ROWS.map(([own, edge, crossed, first], i): readonly [number, HomingMethod] => [
      i + 1 + more,
      { kind: 'switch', switch: own, edge, crossed, first, index: more === 0 },
    ]),
  ),
  [33, { kind: 'index', crossed: -1 }],
  [34, { kind: 'index', crossed: 1 }],
  [35, { kind: 'here' }],
  [37, { kind: 'here' }],
]);

/** A drawn axis from 0 to 100: where each switch is active. */
export const ACTIVE: Readonly<Record<HomingSwitch, readonly [from: number, to: number]>> = {
  'lower-end': [0, 12],
  'upper-end': [88, 100],
  'home-above': [50, 100],
  'home-below': [0, 50],
  'home-between': [44, 60],
};
/** It has gone so far over an edge before it turns round, and an index pulse comes so far behind one. */
const OVER = 5;
const INDEX = 4;

/** Where the axis begins, turns round and ends, on the drawn axis; the last is home. */
export type HomingPath = readonly number[];

/** What a method does from each kind of place: beside its switch, and on it. */
export function homingPaths(method: HomingMethod): readonly HomingPath[] {
  if (method.kind === 'here') return [[50, 50]];
  if (method.kind === 'index') return [[50, 50 + method.crossed * INDEX]];
  const [from, to] = ACTIVE[method.switch];
  const begins = { 'lower-end': [60, 5], 'upper-end': [40, 95] } as const;
  const starts =
    method.switch === 'lower-end' || method.switch === 'upper-end'
      ? begins[method.switch]
      : method.switch === 'home-between'
        ? [25, (from + to) / 2, 75]
        : [25, 75];
  return starts.map((start) => pathFrom(method, start, from, to));
}

function pathFrom(method: BySwitch, start: number, from: number, to: number): HomingPath {
  const edge = edgeOf(method, from, to);
  const home = edge + (method.index ? method.crossed * INDEX : 0);
  // A switch in the middle may lie behind it: then an end of the travel turns it round.
  const isBehind = method.edge !== 'only' && (method.first > 0 ? start > to : start < from);
  const turns = isBehind ? [method.first > 0 ? ACTIVE['upper-end'][0] : ACTIVE['lower-end'][1]] : [];
  const comesFrom = turns[0] ?? start;
  const isBefore = method.crossed > 0 ? comesFrom < edge : comesFrom > edge;
  return [start, ...turns, ...(isBefore ? [] : [edge - method.crossed * OVER]), home];
}

const edgeOf = ({ switch: own, edge }: BySwitch, from: number, to: number): number => {
  if (edge !== 'only') return edge === 'lower' ? from : to;
  return own === 'lower-end' || own === 'home-below' ? to : from;
};

const SWITCH_NAMES: Readonly<Record<HomingSwitch, string>> = {
  'lower-end': 'the lower end switch',
  'upper-end': 'the upper end switch',
  'home-above': 'a home switch that is active from its edge on upward',
  'home-below': 'a home switch that is active below its edge',
  'home-between': 'a home switch that is active over a piece of the travel',
};

/** What a method does, in a sentence. */
export function homingText(method: HomingMethod): string {
  if (method.kind === 'here') return 'Home is where the axis stands; nothing moves.';
  const way = (direction: Direction): string => (direction > 0 ? 'up' : 'down');
  if (method.kind === 'index') return `Home is the next index pulse ${way(method.crossed)} from where it stands.`;
  const edge = method.edge === 'only' ? 'its edge' : `its ${method.edge} edge`;
  const place = method.index ? `the first index pulse behind ${edge}, met going` : `${edge}, crossed going`;
  return `It looks for ${SWITCH_NAMES[method.switch]}, going ${way(method.first)} first; home is ${place} ${way(method.crossed)}.`;
}

/** The switches that a method needs. */
export const switchOf = (method: HomingMethod): HomingSwitch | null =>
  method.kind === 'switch' ? method.switch : null;
