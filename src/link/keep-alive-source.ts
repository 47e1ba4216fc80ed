import type { ExchangeResult, LineRequest } from './request';
import type { Source } from './source';

/** A control word that is repeated so that a drive's watchdog stays calm. */
export interface KeepAlive {
  readonly station: number;
  readonly word: number;
  readonly everyUs: number;
  /** When it ends by itself (a word that lets the shaft come to rest), or null while the word asks to turn. */
  readonly untilUs: number | null;
  /** Repeats in a row that got no certain answer. */
  readonly misses: number;
}

interface Beat extends KeepAlive {
  readonly bytes: Uint8Array;
  readonly dueUs: number;
}

/** By deadline: the station whose watchdog would run out first is served first. It never repeats an older word than the last one sent. */
export class KeepAliveSource implements Source {
  readonly #beats = new Map<number, Beat>();
  #asked: number | null = null;

  start(beat: Omit<KeepAlive, 'misses'>, bytes: Uint8Array, nowUs: number): void {
    this.#beats.set(beat.station, { ...beat, bytes, misses: 0, dueUs: nowUs + beat.everyUs });
  }

  end(station: number): void {
    this.#beats.delete(station);
  }

  endAll(): void {
    this.#beats.clear();
  }

  list(): readonly KeepAlive[] {
    return [...this.#beats.values()].map(({ station, word, everyUs, untilUs, misses }) => ({
      station,
      word,
      everyUs,
      untilUs,
      misses,
    }));
  }

  next(nowUs: number): LineRequest | null {
    for (const beat of this.#beats.values())
      if (beat.untilUs !== null && beat.untilUs <= nowUs) this.#beats.delete(beat.station);
    const beat = this.#earliest();
    if (!beat || beat.dueUs > nowUs) return null;
    this.#asked = beat.station;
    this.#beats.set(beat.station, { ...beat, dueUs: nowUs + beat.everyUs });
    return { station: beat.station, bytes: beat.bytes, priority: 'keep-alive', cause: 'keep-alive', ticket: 0 };
  }

  dueUs(): number | null {
    return this.#earliest()?.dueUs ?? null;
  }

  took({ outcome }: ExchangeResult): void {
    const beat = this.#asked === null ? undefined : this.#beats.get(this.#asked);
    this.#asked = null;
    if (!beat || outcome === 'abandoned' || outcome === 'closed') return;
    this.#beats.set(beat.station, { ...beat, misses: outcome === 'answered' ? 0 : beat.misses + 1 });
  }

  #earliest(): Beat | null {
    return [...this.#beats.values()].reduce<Beat | null>(
      (best, beat) => (!best || beat.dueUs < best.dueUs ? beat : best),
      null,
    );
  }
}
