/** A point in seconds of the session; `y` is null where the line must not be drawn through. */
export interface TrendPoint {
  readonly x: number;
  readonly y: number | null;
}

/** What is left of older readings: all from `beforeS` on, and before it the lowest and the highest of each `eachS` seconds. */
export interface Thinned {
  readonly beforeS: number;
  readonly eachS: number;
}

/** A longer pause between two readings of what lives is a gap: nobody knows what was in between. */
const LIVE_GAP_S = 1.5;
/** What a person sets is read every three seconds only, and may miss a turn. */
export const SETTING_GAP_S = 6.5;
/** The newest points that are kept as they were read; where there are more, the older half is thinned. */
const FINE_MOST = 8192;
/** Points that are left of all before; where there are more, stretches become longer. */
const COARSE_MOST = 8192;
/** The first stretches are so long that what is thinned then falls into so many. */
const FIRST_STRETCHES = 1024;

/** One value over time. However long it is watched it takes no more room than a picture can show: the newest as it was read, of what is older the extremes. */
export class Track {
  #fine: TrendPoint[] = [];
  #coarse: readonly TrendPoint[] = [];
  #eachS = 0;
  #lastS = -Infinity;
  readonly #gapS: number;

  constructor(gapS = LIVE_GAP_S) {
    this.#gapS = gapS;
  }

  /** A value that stays is its first and its last reading: an evening of standing still is two points. */
  put(x: number, y: number): void {
    if (x - this.#lastS > this.#gapS && this.#last) this.#fine.push({ x: this.#lastS + this.#gapS / 2, y: null });
    const fine = this.#fine;
    if (this.#last?.y === y && fine[fine.length - 2]?.y === y) fine.pop();
    this.#add({ x, y });
    this.#lastS = x;
  }

  /** Breaks the track at once: what comes next is not joined to what was before. */
  cut(x: number): void {
    if (this.#last && this.#last.y !== null) this.#add({ x, y: null });
  }

  /** All of it by now, in the order of time; it stays as it is while more is put. */
  points(): readonly TrendPoint[] {
    return [...this.#coarse, ...this.#fine];
  }

  /** Null while each reading is still there. */
  get thinned(): Thinned | null {
    return this.#eachS === 0 ? null : { beforeS: this.#fine[0]?.x ?? Infinity, eachS: this.#eachS };
  }

  get #last(): TrendPoint | undefined {
    return this.#fine[this.#fine.length - 1];
  }

  #add(point: TrendPoint): void {
    this.#fine.push(point);
    if (this.#fine.length > FINE_MOST) this.#thin();
  }

  #thin(): void {
    const older = this.#fine.slice(0, FINE_MOST / 2);
    this.#fine = this.#fine.slice(FINE_MOST / 2);
    const [first, last] = [older[0], older[older.length - 1]];
    if (this.#eachS === 0 && first && last) this.#eachS = (last.x - first.x) / FIRST_STRETCHES || 1;
    // A stretch that was begun by what was thinned before goes on.
    this.#coarse = extremesOf([...this.#coarse, ...older], this.#eachS);
    while (this.#coarse.length > COARSE_MOST) {
      this.#eachS *= 2;
      this.#coarse = extremesOf(this.#coarse, this.#eachS);
    }
  }
}

/**
 * The lowest and the highest point of each stretch of so many seconds, in the order of time, and a gap between two of them where there was one. Done
 * once more with the same stretches it changes nothing; five points a stretch at most.
 */
export function extremesOf(points: readonly TrendPoint[], eachS: number): readonly TrendPoint[] {
  const kept: TrendPoint[] = [];
  for (let from = 0; from < points.length;) {
    const stretch = stretchOf(points[from], eachS);
    let to = from;
    let [low, high] = [-1, -1];
    for (; to < points.length && stretchOf(points[to], eachS) === stretch; to++) {
      const y = points[to]?.y ?? null;
      if (y === null) continue;
      if (low < 0 || y < (points[low]?.y ?? NaN)) low = to;
      // Of those that are alike the first and the last: a value that stays is held to its end.
      if (high < 0 || y >= (points[high]?.y ?? NaN)) high = to;
    }
    let gap: TrendPoint | undefined;
    for (let i = from; i < to; i++) {
      const point = points[i];
      if (point?.y === null) gap = point;
      if (!point || (i !== low && i !== high)) continue;
      if (gap) kept.push(gap);
      gap = undefined;
      kept.push(point);
    }
    if (gap) kept.push(gap);
    from = to;
  }
  return kept;
}

const stretchOf = (point: TrendPoint | undefined, eachS: number): number => Math.floor((point?.x ?? NaN) / eachS);

/** What is true of all of these tracks: from when on each reading of each is there, and the longest stretches before. */
export function thinnedMost(tracks: readonly Pick<Track, 'thinned'>[]): Thinned | null {
  const all = tracks.map(({ thinned }) => thinned).filter((thinned) => thinned !== null);
  if (all.length === 0) return null;
  return {
    beforeS: Math.max(...all.map(({ beforeS }) => beforeS)),
    eachS: Math.max(...all.map(({ eachS }) => eachS)),
  };
}

/** What a track held at a moment: its last reading before it; null where nobody knew. */
export const valueAt = (points: readonly TrendPoint[], x: number): number | null =>
  points[countUpTo(points, x) - 1]?.y ?? null;

/** How many points come before a second, or at it. */
export function countUpTo(points: readonly TrendPoint[], x: number): number {
  let [low, high] = [0, points.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((points[middle]?.x ?? Infinity) <= x) low = middle + 1;
    else high = middle;
  }
  return low;
}
