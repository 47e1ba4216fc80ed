import { asNumber } from '../as-number';
import { axisOf, type Axis } from '../motion/axis';
import { lengthOf } from '../motion/check-move';
import { heardIn } from '../procedure/heard';
import type { RunState, StepRecord } from '../procedure/run-state';
import { valueIn } from '../drive/describe';
import type { SheetIndex } from '../sheet/index-sheet';
import { patternIn } from '../drive/seen';
import { parseRational } from '../scaling/rational';
import { deviationText } from './deviation';
import { keptName, type CompiledStep, type CompiledTrial } from './compile';
import { referenceScale } from '../drive/reference-scale';
import { parameterOf, unitOfPlace, valueOf } from './place-value';
import type { Measure } from './trial';

/** What came of a measure. `open`: it lies across the limit, so that nobody can say at this pace. */
export interface Measured {
  readonly name: string;
  readonly text: string;
  /** What it should be, for people; empty where nothing is asked. */
  readonly should: string;
  readonly verdict: 'passed' | 'failed' | 'open' | 'not-done';
}

/** A time that is known to lie between two, in seconds; `most` is Infinity where nobody saw it begin. */
interface Between {
  readonly least: number;
  readonly most: number;
}

type Of<K extends Measure['kind']> = Extract<Measure, { kind: K }>;

/** Works out one measure of a run; says what is missing where the run did not come so far. */
export function measured(index: SheetIndex, compiled: CompiledTrial, run: RunState, measure: Measure): Measured {
  const way: Way = { index, compiled, run };
  switch (measure.kind) {
    case 'time':
      return timeOf(way, measure);
    case 'spread':
      return spreadOf(way, measure);
    case 'arrival':
      return arrivalOf(way, measure);
    case 'same':
      return sameOf(way, measure);
    case 'line':
      return lineOf(way, measure);
  }
}

interface Way {
  readonly index: SheetIndex;
  readonly compiled: CompiledTrial;
  readonly run: RunState;
}

const notDone = ({ name }: Measure, why: string): Measured => ({ name, text: why, should: '', verdict: 'not-done' });

const stepsCalled = ({ compiled }: Way, id: string): readonly CompiledStep[] =>
  compiled.steps.filter(({ step }) => step.id === id);

const recordsOf = ({ run }: Way, step: CompiledStep): readonly StepRecord[] =>
  run.records.filter((record) => record.step >= step.from && record.step < step.to);

/** Between when something began or was seen to be so, in microseconds of the line clock. */
interface Moment {
  readonly lowUs: number;
  readonly highUs: number;
}

/** A request acts between the end of what was before and its answer. A watch saw it come between its last two looks; at once means any time before. */
const momentOf = (record: StepRecord, isWatch: boolean): Moment => ({
  lowUs: isWatch ? (record.notYetUs ?? -Infinity) : record.fromUs,
  highUs: record.toUs,
});

/** How long it took from the end of one step to the end of another, as far as the pace of the line lets it be known. Null where one was not done. */
export function timeBetween(way: Way, from: string, to: string): Between | null {
  const [first, last] = [stepsCalled(way, from).at(-1), stepsCalled(way, to).at(-1)];
  if (!first || !last) return null;
  const isA = (kind: 'request' | 'watch') => (record: StepRecord) =>
    way.compiled.procedure?.steps[record.step]?.kind === kind;
  const [begun, ended] = [recordsOf(way, first), recordsOf(way, last).filter(isA('watch'))];
  // A step that sends something begins to act with its last request; what only waits, with what it saw.
  const start = begun.filter(isA('request')).at(-1) ?? begun.at(-1);
  const end = ended.at(-1);
  if (!start?.good || !end?.good) return null;
  const [a, b] = [momentOf(start, isA('watch')(start)), momentOf(end, true)];
  return { least: Math.max(0, b.lowUs - a.highUs) / 1e6, most: Math.max(0, b.highUs - a.lowUs) / 1e6 };
}

const secondsText = ({ least, most }: Between): string => {
  const half = (most - least) / 2;
  if (most === Infinity)
    return least === 0
      ? 'it was so already when it was looked at first'
      : `at least ${textOf(least)} s: its beginning was not seen`;
  return least === 0
    ? `at most ${textOf(most)} s; closer it is not known`
    : `${((least + most) / 2).toFixed(2)} s, known to ± ${textOf(half)} s`;
};
const textOf = (seconds: number): string => seconds.toFixed(seconds < 0.0995 ? 3 : 2);

function timeOf(way: Way, measure: Of<'time'>): Measured {
  const time = timeBetween(way, measure.from, measure.to);
  if (!time) return notDone(measure, 'not measured: it was not seen to come');
  const text = secondsText(time);
  const should = shouldBe(way, measure);
  if (should === null) return { name: measure.name, text, should: '', verdict: 'passed' };
  if (typeof should === 'string') return { name: measure.name, text, should, verdict: 'open' };
  const { least, most } = should;
  const verdict =
    time.least >= least && time.most <= most ? 'passed' : time.most < least || time.least > most ? 'failed' : 'open';
  return { name: measure.name, text, should: `${least.toFixed(2)} to ${most.toFixed(2)} s`, verdict };
}

/** The limits of a time; null where none are asked for, a sentence where they cannot be told. */
function shouldBe(way: Way, { should }: Of<'time'>): Between | string | null {
  if (!should) return null;
  if ('leastS' in should) return { least: should.leastS, most: should.mostS };
  const value = readOf(way, should.read);
  const [share, give] = [numberIn(should.share), numberIn(should.give)];
  if (!value || share === null || give === null) return 'what it should be was not read';
  if (value.unit !== 's' && value.unit !== 'ms')
    return `what it should be is in ${value.unit || 'counts'}, not in seconds`;
  const seconds = (value.unit === 'ms' ? value.number / 1000 : value.number) * share;
  return seconds === 0 ? 'it is set to nothing' : { least: seconds * (1 - give), most: seconds * (1 + give) };
}

const numberIn = (text: string): number | null => {
  const read = parseRational(text);
  return read.ok ? asNumber(read.value) : null;
};

interface Value {
  readonly number: number;
  readonly unit: string;
}

/** What a step of reading, or a person's number, came to the last time. */
const readOf = (way: Way, id: string): Value | null => {
  const own = stepsCalled(way, id).at(-1);
  return own ? readAt(way, own) : null;
};

function readAt(way: Way, own: CompiledStep): Value | null {
  const { index, run } = way;
  if (own.step.kind === 'ask-number') {
    const said = recordsOf(way, own).at(-1)?.said ?? '';
    return said === '' ? null : { number: Number(said), unit: own.step.unit };
  }
  if (own.step.kind === 'say') {
    const said = recordsOf(way, own).find(({ good }) => good)?.said ?? '';
    // Something stood behind the number, and is not in what was found.
    const number = heardIn(own.step.hears, `${said} `)?.number ?? null;
    return number === null ? null : { number, unit: own.step.unit ?? '' };
  }
  const place = own.step.kind === 'read' ? parameterOf(index, own.step.what) : undefined;
  const told = new Map(run.kept[keptName(own.step.id, own.time)] ?? []);
  const pattern = place && patternIn(place, (cell) => told.get(cell));
  const value =
    place && pattern !== undefined ? valueIn(index.sheet, place, pattern, (number) => own.held?.[number]) : null;
  return place && value ? { number: asNumber(value), unit: unitOfPlace(index, place) } : null;
}

function sameOf(way: Way, measure: Of<'same'>): Measured {
  const [a, b] = [readOf(way, measure.a), readOf(way, measure.b)];
  if (!a || !b) return notDone(measure, 'one of the two was not read');
  const most = withinOf(way, measure.within);
  const isSame = a.number === b.number;
  const text = (
    isSame ? `${plain(a.number)} ${a.unit}` : `${plain(a.number)} before, ${plain(b.number)} ${b.unit}`
  ).trim();
  return {
    name: measure.name,
    text,
    should: most === null ? 'the same' : `the same within ${plain(most)} ${a.unit}`.trim(),
    verdict: Math.abs(apart(way, measure.b, b.number - a.number)) <= (most ?? 0) ? 'passed' : 'failed',
  };
}

/** How far two values lie apart: two positions of an axis that goes round at most half a turn. */
function apart(way: Way, id: string, off: number): number {
  const step = stepsCalled(way, id).at(-1)?.step;
  const axis = axisOf(way.index);
  const isPosition = axis !== null && step?.kind === 'read' && parameterOf(way.index, step.what) === axis.position;
  return isPosition ? nearest(axis, off) : off;
}

/** How far two positions may lie apart; null where nothing is said, or where nobody knows what it is. */
function withinOf({ index }: Way, within: string | undefined): number | null {
  const axis = within === undefined ? null : axisOf(index);
  const limit = axis && within !== undefined ? lengthOf(axis, within) : null;
  return limit?.ok ? asNumber(limit.value) : null;
}

/** Mean and spread of what was read, or of what a person said, over all times. */
function spreadOf(way: Way, measure: Of<'spread'>): Measured {
  const values = stepsCalled(way, measure.seen).flatMap((step) => readAt(way, step) ?? []);
  if (values.length < 2) return notDone(measure, 'it takes two numbers at least');
  const [first] = values.map(({ number }) => number);
  const from = first ?? 0;
  const text = meanText(
    values.map(({ number }) => from + apart(way, measure.seen, number - from)),
    values[0]?.unit ?? '',
  );
  return { name: measure.name, text, should: '', verdict: 'passed' };
}

function meanText(numbers: readonly number[], unit: string): string {
  const mean = numbers.reduce((sum, one) => sum + one, 0) / numbers.length;
  const spread = Math.max(...numbers) - Math.min(...numbers);
  return `mean ${plain(mean)} ${unit}, ${numbers.length} values within ${plain(spread)} ${unit}`
    .replaceAll(' ,', ',')
    .trim();
}

const plain = (number: number): string => `${parseFloat(number.toPrecision(8))}`.replace('-', '−');

/** How far from where it was sent the axis stood after each move. */
function arrivalOf(way: Way, measure: Of<'arrival'>): Measured {
  const axis = axisOf(way.index);
  if (!axis) return notDone(measure, 'the sheet describes no axis');
  const [moves, befores, afters] = [measure.move, measure.from ?? measure.seen, measure.seen].map((id) =>
    stepsCalled(way, id),
  );
  const off = (moves ?? []).flatMap(({ step }, i): readonly number[] => {
    const [before, after] = [befores?.[i] ?? befores?.[0], afters?.[i]].map((own) => (own ? readAt(way, own) : null));
    const wanted = step.kind === 'move' ? lengthOf(axis, step.to) : null;
    if (step.kind !== 'move' || !wanted?.ok || !after || (step.relative && !before)) return [];
    return [nearest(axis, after.number - asNumber(wanted.value) - (step.relative ? (before?.number ?? 0) : 0))];
  });
  if (off.length === 0) return notDone(measure, 'no move was done, and read after');
  const [one] = off;
  const text =
    off.length === 1 && one !== undefined ? `${plain(one)} ${axis.unit} off` : `off by ${meanText(off, axis.unit)}`;
  const most = withinOf(way, measure.within);
  if (most === null) return { name: measure.name, text, should: '', verdict: 'passed' };
  return {
    name: measure.name,
    text,
    should: `within ${plain(most)} ${axis.unit}`,
    verdict: off.every((error) => Math.abs(error) <= most) ? 'passed' : 'failed',
  };
}

/** Of an axis that goes round, what it is off within half a turn. */
function nearest({ round }: Axis, off: number): number {
  const turn = round ? asNumber(round.turn) : 0;
  return turn === 0 ? off : off - turn * Math.round(off / turn);
}

/** A straight line by least squares, and the point that lies furthest from it. Null for fewer than two different places. */
export function lineThrough(points: readonly (readonly [x: number, y: number])[]): {
  readonly slope: number;
  readonly offset: number;
  readonly residues: readonly number[];
} | null {
  const n = points.length;
  const mean = (of: (point: readonly [number, number]) => number): number =>
    points.reduce((sum, point) => sum + of(point), 0) / n;
  const [x0, y0] = [mean(([x]) => x), mean(([, y]) => y)];
  const width = points.reduce((sum, [x]) => sum + (x - x0) ** 2, 0);
  if (n < 2 || width === 0) return null;
  const slope = points.reduce((sum, [x, y]) => sum + (x - x0) * (y - y0), 0) / width;
  const offset = y0 - slope * x0;
  return { slope, offset, residues: points.map(([x, y]) => y - (offset + slope * x)) };
}

function lineOf(way: Way, measure: Of<'line'>): Measured {
  const scale = referenceScale(way.index);
  const place = way.index.byRole.get('speed-reference');
  if (!scale || !place) return notDone(measure, 'the sheet gives the speed reference no full scale');
  const unit = measure.unit === '' ? scale.chain.unit : measure.unit;
  const factor = unit === scale.chain.unit ? 1 : scale.other?.unit === unit ? asNumber(scale.other.factor) : null;
  if (factor === null) return notDone(measure, `the reference is in ${scale.chain.unit}, not in ${unit}`);
  const points = measure.points.flatMap(({ asked, seen }): (readonly [number, number])[] => {
    const [step] = stepsCalled(way, asked);
    const wanted = step?.step.kind === 'reference' ? valueOf(way.index, place, step.step.to) : null;
    const value = readOf(way, seen);
    return wanted?.ok && value?.unit === unit ? [[asNumber(wanted.value) * factor, value.number]] : [];
  });
  if (points.length < measure.points.length)
    return notDone(measure, `${points.length} of ${measure.points.length} points are there`);
  const line = lineThrough(points);
  if (!line) return notDone(measure, 'the points lie at one place');
  const furthest = Math.max(...line.residues.map(Math.abs));
  const text = `${line.slope.toFixed(4)} × asked ${line.offset < 0 ? '−' : '+'} ${Math.abs(line.offset).toFixed(2)} ${unit}; the furthest point lies ${furthest.toFixed(2)} ${unit} off`;
  const why = deviationText(points, unit);
  return { name: measure.name, text: why === '' ? text : `${text}; ${why}`, should: '', verdict: 'passed' };
}
