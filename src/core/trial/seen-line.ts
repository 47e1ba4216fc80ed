import type { RunState } from '../procedure/run-state';

/** A value that was seen, with its time in seconds. */
export interface Sample {
  readonly x: number;
  readonly y: number;
}

/**
 * What was seen over a run, as seconds and values in turn: `x, y, x, y`. One piece of memory, so that an hour of it is kept, read through, and handed to a
 * worker in no time.
 */
export type SeenLine = Float64Array;

export const NO_LINE: SeenLine = new Float64Array(0);

/** How many samples a line has. */
export const sampleCount = (line: SeenLine): number => line.length / 2;

/** The second of the last sample; null where there is none. */
export const lastSecond = (line: SeenLine): number | null => line[line.length - 2] ?? null;

/** The line with one sample more. */
export function withSample(line: SeenLine, { x, y }: Sample): SeenLine {
  const longer = new Float64Array(line.length + 2);
  longer.set(line);
  longer.set([x, y], line.length);
  return longer;
}

/** A line of samples, which are in the order of their seconds. */
export function lineOf(samples: readonly Sample[]): SeenLine {
  const line = new Float64Array(2 * samples.length);
  samples.forEach(({ x, y }, i) => {
    line[2 * i] = x;
    line[2 * i + 1] = y;
  });
  return line;
}

const sampleAt = (line: SeenLine, i: number): Sample => ({ x: line[2 * i] ?? NaN, y: line[2 * i + 1] ?? NaN });

/** How many samples come before a second, or at it. */
function countUpTo(line: SeenLine, x: number): number {
  let [low, high] = [0, sampleCount(line)];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((line[2 * middle] ?? Infinity) <= x) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** What was seen last at a second; null before the first sample. */
export const seenAt = (line: SeenLine, x: number): number | null => line[2 * countUpTo(line, x) - 1] ?? null;

/** The line of a run by the time since its first step began, to its end; empty while it has not begun. */
export function sinceBegin(line: SeenLine, run: RunState | null): SeenLine {
  const [first] = run?.records ?? [];
  if (!run || !first) return NO_LINE;
  const from = first.fromUs / 1e6;
  const to = run.phase === 'over' ? (run.records.at(-1)?.toUs ?? Infinity) / 1e6 : Infinity;
  const own = line.slice(2 * countBefore(line, from), 2 * countUpTo(line, to));
  for (let i = 0; i < own.length; i += 2) own[i] = (own[i] ?? NaN) - from;
  return own;
}

/** How many samples come before a second. */
function countBefore(line: SeenLine, x: number): number {
  let count = countUpTo(line, x);
  while (count > 0 && line[2 * count - 2] === x) count--;
  return count;
}

/** What a picture shows of a line. */
export interface Stretch {
  readonly min: number;
  readonly max: number;
}

/**
 * At most about so many samples of a stretch, with one on either side so that the line goes on, and with the lowest and the highest of those that fall
 * together: where it left a band stays to be seen.
 */
export function thinned(line: SeenLine, most: number, { min, max }: Stretch = WHOLE): Sample[] {
  const from = Math.max(0, countBefore(line, min) - 1);
  const to = Math.min(sampleCount(line), countUpTo(line, max) + 1);
  const step = to - from <= most ? 1 : Math.ceil((2 * (to - from)) / most);
  const kept: Sample[] = [];
  for (let begin = from; begin < to; begin += step) {
    const end = Math.min(begin + step, to);
    let [low, high] = [begin, begin];
    for (let i = begin + 1; i < end; i++) {
      const y = line[2 * i + 1] ?? NaN;
      if (y < (line[2 * low + 1] ?? NaN)) low = i;
      if (y > (line[2 * high + 1] ?? NaN)) high = i;
    }
    // Its ends stay as they are, so that it begins and ends when it did.
    const own = [begin === from ? begin : low, Math.min(low, high), Math.max(low, high), end === to ? end - 1 : high];
    for (const i of [...new Set(own)].sort((a, b) => a - b)) kept.push(sampleAt(line, i));
  }
  return kept;
}

const WHOLE: Stretch = { min: -Infinity, max: Infinity };
