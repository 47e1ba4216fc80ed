import { asNumber } from '../as-number';
import type { RunState, StepRecord } from '../procedure/run-state';
import { unitFactor } from '../scaling/quantity';
import { multiply, type Rational } from '../scaling/rational';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { CompiledTrial } from './compile';
import { recordsByStep } from './records';
import { referenceScale } from '../drive/reference-scale';
import { parameterOf, valueOf } from './place-value';
import { lineOf, type Sample, type SeenLine } from './seen-line';
import type { TrialStep } from './trial';

/** The band is so wide to either side, as a share of full scale. */
const WIDTH = 0.05;
/** A drive may begin a ramp, and the bench may hear of it, this much earlier or later. */
export const SLACK_S = 0.4;
/** A step that sends something takes about so long, a person thinks about so long; only the drawing before the run rests on it. */
export const USUAL_S = 0.15;
export const PERSON_S = 4;
const DRAWN_EVERY_S = 0.1;
/** A band of a long wait is drawn with so many points at most. */
const MOST_POINTS = 400;

/** Between which speeds the shaft should be at a time, in seconds from the trial's begin and in the reference's unit. */
export interface BandPoint {
  readonly x: number;
  readonly low: number;
  readonly high: number;
}

export interface Band {
  readonly of: 'speed' | 'position';
  readonly unit: string;
  readonly points: readonly BandPoint[];
  /** When each step begins, by the band's own time. */
  readonly begins: readonly number[];
  /** Of an axis that goes round: it is drawn on past its turn, from where it stood. */
  readonly round?: { readonly turn: number; readonly from: number };
}

/** How the shaft is meant to go on: towards a speed along the ramp; anywhere between standstill and where it was, when it is free. */
interface Course {
  speed: number;
  target: number;
  free: boolean;
}

/**
 * The speed that a trial expects over time, as a band: by the references that it asks for and by the ramp from standstill to full scale. Steps of a
 * run that are done begin and end when they did; what was not reached yet is drawn as it is usual. Null where the sheet has no speed with a full scale, or where
 * the trial moves to positions: of those `positionBandOf` knows.
 */
export function bandOf(index: SheetIndex, { steps }: CompiledTrial, rampS: number, run: RunState | null): Band | null {
  const scale = referenceScale(index);
  const reference = index.byRole.get('speed-reference');
  if (!scale || !reference || !(rampS > 0) || movesAxis(steps)) return null;
  const full = asNumber(scale.fullValue);
  let slope = full / rampS;
  const course: Course = { speed: 0, target: 0, free: false };
  const points: BandPoint[] = [];
  const begins: number[] = [];
  let [asked, runs, x] = [0, false, 0];
  const put = (): void => {
    const slack = course.speed === course.target && !course.free ? 0 : slope * SLACK_S;
    const [a, b] = course.free ? [0, course.speed] : [course.speed, course.speed];
    putPoint(points, { x, low: Math.min(a, b) - WIDTH * full - slack, high: Math.max(a, b) + WIDTH * full + slack });
  };
  const records = recordsByStep(steps, run);
  for (const [i, { step, to }] of steps.entries()) {
    begins.push(x);
    if (step.kind === 'reference') {
      const value = valueOf(index, reference, step.to);
      asked = value.ok ? asNumber(value.value) : asked;
    }
    if (step.kind === 'write' && parameterOf(index, step.what)?.role === 'ramp-time')
      slope = full / (rampWritten(index, step.to) ?? rampS);
    if (step.kind === 'walk') runs = step.to.startsWith('running');
    if (step.kind === 'stop' || step.kind === 'withhold') runs = false;
    // Without its word, or its output, it comes to rest as it likes, until it is seen to stand.
    if (step.kind === 'withhold' || (step.kind === 'walk' && !runs)) course.free = true;
    if (step.kind === 'stop' || runs) course.free = false;
    course.target = runs ? asked : 0;
    const taken = takenS(run, records[i] ?? [], to);
    const lasts = taken ?? usualS(index, step, course, slope);
    const every = Math.max(DRAWN_EVERY_S, lasts / MOST_POINTS);
    put();
    for (let at = 0; at < lasts;) {
      const next = Math.min(every, lasts - at);
      const missing = course.target - course.speed;
      if (!course.free) course.speed += Math.sign(missing) * Math.min(Math.abs(missing), slope * next);
      at += next;
      x += next;
      put();
    }
    if (step.kind === 'stands') Object.assign(course, { speed: 0, free: false });
  }
  return { of: 'speed', unit: scale.chain.unit, points, begins };
}

/** A band that stays is its first and its last point: an hour along one speed is two. */
function putPoint(points: BandPoint[], point: BandPoint): void {
  const [before, last] = [points.at(-2), points.at(-1)];
  const stays = (one: BandPoint | undefined): boolean => one?.low === point.low && one.high === point.high;
  if (stays(before) && stays(last)) points.pop();
  points.push(point);
}

/** Seconds of a ramp time, as the sheet's unit has them; null where that is none of time, or where they are none. */
export function rampSeconds({ unit }: PlacedParameter, value: Rational | null): number | null {
  const one = unitFactor(unit ?? '', 's');
  const seconds = value && one ? asNumber(multiply(value, one)) : 0;
  return seconds > 0 ? seconds : null;
}

function rampWritten(index: SheetIndex, text: string): number | null {
  const place = index.byRole.get('ramp-time');
  const value = place && valueOf(index, place, text);
  return place && value?.ok ? rampSeconds(place, value.value) : null;
}

const TO_PLACES: ReadonlySet<TrialStep['kind']> = new Set(['move', 'home', 'stored-move']);

/** Whether a trial sends the axis to positions, so that its line is the position and not the speed. */
export const movesAxis = (steps: CompiledTrial['steps']): boolean => steps.some(({ step }) => TO_PLACES.has(step.kind));

/** How long a step of the run took; null where it is not over. */
export function takenS(run: RunState | null, records: readonly StepRecord[], to: number): number | null {
  // Nothing was to be done where nothing is noted: it was there already.
  const isOver = run !== null && (run.at >= to || run.end === 'done');
  const [first, last] = [records[0], records[records.length - 1]];
  if (!isOver) return null;
  return first && last ? (last.toUs - first.fromUs) / 1e6 : 0;
}

function usualS(index: SheetIndex, step: TrialStep, { speed, target }: Course, slope: number): number {
  switch (step.kind) {
    case 'hold':
    case 'withhold':
      return step.s;
    case 'ask':
    case 'ask-turning':
    case 'ask-number':
      return PERSON_S;
    case 'stop':
    case 'stands':
      return Math.abs(speed) / slope + USUAL_S;
    case 'wait': {
      const place = parameterOf(index, step.what);
      if (place?.role !== 'actual-speed') return USUAL_S;
      const ends = [step.from, step.to].flatMap((text) => {
        const value = text === null ? null : valueOf(index, place, text);
        return value?.ok ? [asNumber(value.value)] : [];
      });
      const near = ends.reduce((best, end) => Math.min(best, Math.abs(end - speed)), Math.abs(target - speed));
      return near / slope + USUAL_S;
    }
    default:
      return USUAL_S;
  }
}

/** The two edges of a band, as lines. */
export const edgesOf = ({ points }: Band): { readonly low: SeenLine; readonly high: SeenLine } => ({
  low: lineOf(points.map(({ x, low }) => ({ x, y: low }))),
  high: lineOf(points.map(({ x, high }) => ({ x, y: high }))),
});

/** The edges of a band at a moment, as they are drawn: straight from point to point, of a step its later side; null before its begin and behind its end. */
export function bandAt({ points }: Band, x: number): Pick<BandPoint, 'low' | 'high'> | null {
  const next = points.findIndex((point) => point.x > x);
  const last = points.at(-1);
  const [a, b] = next < 0 ? [last, last] : [points[next - 1], points[next]];
  if (!a || !b || (next < 0 && x > a.x)) return null;
  const share = b.x === a.x ? 0 : (x - a.x) / (b.x - a.x);
  return { low: a.low + share * (b.low - a.low), high: a.high + share * (b.high - a.high) };
}

/** A line as it lies in a band: one that goes round is drawn on past its turn, too. */
export function laidIn({ round }: Band, line: SeenLine): SeenLine {
  if (!round) return line;
  const on = line.slice();
  let before = round.from;
  for (let i = 1; i < on.length; i += 2) {
    const y = on[i] ?? NaN;
    before = y - round.turn * Math.round((y - before) / round.turn);
    on[i] = before;
  }
  return on;
}

/** Where the line left the band: the first of at least two samples in a row; null where it stayed within. Linear in both. */
export function leftBand({ points }: Band, line: SeenLine): (Sample & BandPoint) | null {
  let at = 0;
  let first: (Sample & BandPoint) | null = null;
  for (let i = 0; i + 1 < line.length; i += 2) {
    const [x, y] = [line[i] ?? NaN, line[i + 1] ?? NaN];
    while (at + 1 < points.length && (points[at + 1]?.x ?? Infinity) <= x) at++;
    const [a, b] = [points[at], points[at + 1] ?? points[at]];
    if (!a || !b || x < a.x) continue;
    const [low, high] = [Math.min(a.low, b.low), Math.max(a.high, b.high)];
    const isOut = y < low || y > high;
    if (isOut && first) return first;
    first = isOut ? { x, y, low, high } : null;
  }
  return null;
}
