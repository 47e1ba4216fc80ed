/** What a capture says of one station. Delays in microseconds; NaN where the source has no times. */
export interface StationStatistics {
  readonly unit: number;
  readonly requests: number;
  readonly responses: number;
  readonly exceptions: number;
  /** Requests that were followed by another one instead of an answer. */
  readonly unanswered: number;
  /** The same request again, right after one that got no answer. */
  readonly retries: number;
  readonly shortestUs: number;
  readonly meanUs: number;
  readonly longestUs: number;
}

export interface Statistics {
  readonly frames: number;
  readonly junkBytes: number;
  readonly damaged: number;
  /** From the first frame to the last, in microseconds; NaN without times. */
  readonly spanUs: number;
  readonly stations: readonly StationStatistics[];
}

interface Tally {
  requests: number;
  responses: number;
  exceptions: number;
  unanswered: number;
  retries: number;
  delays: number;
  sumUs: number;
  shortestUs: number;
  longestUs: number;
}

const EMPTY: Readonly<Tally> = {
  requests: 0,
  responses: 0,
  exceptions: 0,
  unanswered: 0,
  retries: 0,
  delays: 0,
  sumUs: 0,
  shortestUs: Infinity,
  longestUs: -Infinity,
};

/** Counts while a capture is read, so that nothing is gone over twice. */
export class StatisticsTally {
  /** By station number: at most 256, so an array is all the index that is needed. */
  readonly #stations: (Tally | undefined)[] = [];
  #frames = 0;
  #junkBytes = 0;
  #damaged = 0;
  #firstUs = NaN;
  #lastUs = NaN;

  request(unit: number): void {
    this.#of(unit).requests++;
  }

  /** A response and how long after its request it came; NaN where that is not known. */
  response(unit: number, refused: boolean, delayUs: number): void {
    const tally = this.#of(unit);
    tally.responses++;
    if (refused) tally.exceptions++;
    if (Number.isNaN(delayUs)) return;
    tally.delays++;
    tally.sumUs += delayUs;
    tally.shortestUs = Math.min(tally.shortestUs, delayUs);
    tally.longestUs = Math.max(tally.longestUs, delayUs);
  }

  /** Frames, and stretches that belong to none. */
  counted(frames: number, damaged: number, damagedBytes: number): void {
    this.#frames += frames;
    this.#damaged += damaged;
    this.#junkBytes += damagedBytes;
  }

  /** Something came at this time. */
  at(timeUs: number): void {
    if (Number.isNaN(this.#firstUs)) this.#firstUs = timeUs;
    this.#lastUs = timeUs;
  }

  /** A request was given up; `again` says that the next one is the same. */
  unanswered(unit: number, again: boolean): void {
    const tally = this.#of(unit);
    tally.unanswered++;
    if (again) tally.retries++;
  }

  #of(unit: number): Tally {
    const known = this.#stations[unit];
    if (known) return known;
    const fresh = { ...EMPTY };
    this.#stations[unit] = fresh;
    return fresh;
  }

  result(): Statistics {
    const stations = this.#stations.flatMap((tally, unit): StationStatistics[] =>
      tally ? [statisticsOf(unit, tally)] : [],
    );
    return {
      frames: this.#frames,
      junkBytes: this.#junkBytes,
      damaged: this.#damaged,
      spanUs: this.#lastUs - this.#firstUs,
      stations,
    };
  }
}

function statisticsOf(unit: number, { delays, sumUs, shortestUs, longestUs, ...counts }: Tally): StationStatistics {
  const timed = delays > 0;
  return {
    unit,
    ...counts,
    shortestUs: timed ? shortestUs : NaN,
    meanUs: timed ? sumUs / delays : NaN,
    longestUs: timed ? longestUs : NaN,
  };
}

/** Stations that were asked and never answered. */
export const silentStations = ({ stations }: Statistics): readonly number[] =>
  stations.filter(({ requests, responses }) => requests > 0 && responses === 0).map(({ unit }) => unit);
