import { inTurn, planHalt, planMove, type Move } from './move';
import type { Plant } from './plant';

/**
 * Homing as the drawings of IEC 61800-7-201 (CiA 402) have it, from memory of the published text: a drive's own travel, not the bench's drawing of
 * it. All positions are the machine's counts.
 */

export interface HomingPace {
  readonly search: number;
  readonly creep: number;
  readonly acceleration: number;
}

type Direction = -1 | 1;

/**
 * Which switch, the direction in which it becomes active, and the one in which its edge is crossed as home is taken. The lower end switch is active
 * below it, the others above.
 */
interface Method {
  readonly switch: 'low' | 'high' | 'homeEdge';
  readonly activeTo: Direction;
  readonly takenGoing: Direction;
  /** Home is the next index pulse in that direction. */
  readonly index: boolean;
}

const LOW: Method = { switch: 'low', activeTo: -1, takenGoing: 1, index: false };
const HIGH: Method = { switch: 'high', activeTo: 1, takenGoing: -1, index: false };
const HOME_DOWN: Method = { switch: 'homeEdge', activeTo: 1, takenGoing: -1, index: false };
const HOME_UP: Method = { switch: 'homeEdge', activeTo: 1, takenGoing: 1, index: false };

const BY_SWITCH: ReadonlyMap<number, Method> = new Map([
  [1, { ...LOW, index: true }],
  [2, { ...HIGH, index: true }],
  [3, { ...HOME_DOWN, index: true }],
  [4, { ...HOME_UP, index: true }],
  [17, LOW],
  [18, HIGH],
  [19, HOME_DOWN],
  [20, HOME_UP],
]);
const BY_INDEX: ReadonlyMap<number, Direction> = new Map([
  [33, -1],
  [34, 1],
]);
const HERE: ReadonlySet<number> = new Set([35, 37]);

/** The travel to home, which ends there; null where the drive knows no such method. */
export function planHoming(plant: Plant | null, from: number, method: number, pace: HomingPace): Move | null {
  if (HERE.has(method)) return inTurn([planMove(from, from, limits(pace, pace.creep))]);
  // Without switches there is nothing to look for.
  if (!plant) return null;
  const byIndex = BY_INDEX.get(method);
  if (byIndex !== undefined) return inTurn(taken(from, nextIndex(plant, from, byIndex), pace));
  const own = BY_SWITCH.get(method);
  return own ? bySwitch(plant, from, own, pace) : null;
}

const limits = ({ acceleration }: HomingPace, speed: number) => ({ speed, acceleration, deceleration: acceleration });

/** The pulse beyond a position, never the one on which it stands. */
function nextIndex({ perTurn }: Plant, from: number, direction: Direction): number {
  const turns = from / perTurn;
  return perTurn * (direction > 0 ? Math.floor(turns) + 1 : Math.ceil(turns) - 1);
}

function bySwitch(plant: Plant, from: number, method: Method, pace: HomingPace): Move {
  const edge = plant[method.switch];
  const isActive = method.activeTo < 0 ? from <= edge : from >= edge;
  const legs: Move[] = [];
  // Where the edge lies on the side to which it must not be crossed, the axis first goes over it.
  const mustBeActive = method.takenGoing !== method.activeTo;
  let at = from;
  if (isActive !== mustBeActive) {
    const seen = crossed(at, edge, mustBeActive ? pace.search : pace.creep, pace.acceleration);
    legs.push(seen);
    at = seen.at(Infinity);
  }
  const home = method.index ? nextIndex(plant, edge, method.takenGoing) : edge;
  return inTurn([...legs, ...taken(at, home, pace)]);
}

/** Creeps over what is home, and back to it. */
function taken(from: number, home: number, pace: HomingPace): readonly Move[] {
  const over = crossed(from, home, pace.creep, pace.acceleration);
  return [over, planMove(over.at(Infinity), home, limits(pace, pace.creep))];
}

/** Over an edge at a speed, and then to rest behind it: what is seen there is seen while it moves. */
function crossed(from: number, edge: number, speed: number, acceleration: number): Move {
  const sign = Math.sign(edge - from) || 1;
  const length = Math.abs(edge - from);
  const top = Math.min(speed, Math.sqrt(2 * acceleration * length));
  const brakes = planHalt(edge, sign * top, acceleration);
  return planMove(from, brakes.at(Infinity), { speed: Math.max(top, 1), acceleration, deceleration: acceleration });
}
