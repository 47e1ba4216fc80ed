import type { ExchangeResult, LineRequest } from './request';
import type { Source } from './source';

/** A read that is repeated. `everyUs` 0 means as often as the line allows. */
export interface PollItem {
  readonly station: number;
  readonly bytes: Uint8Array;
  readonly everyUs: number;
}

interface Turn {
  readonly item: PollItem;
  dueUs: number;
  misses: number;
}

/** A silent station is asked ever more rarely, up to this, so that it cannot starve another's watchdog. */
const RAREST_US = 5_000_000;
const FIRST_PENALTY_US = 200_000;

/** Round robin over reads: who is due longest comes first. */
export class PollSource implements Source {
  #turns: Turn[] = [];
  #asked: Turn | null = null;

  set(items: readonly PollItem[], nowUs: number): void {
    this.#turns = items.map((item) => ({ item, dueUs: nowUs, misses: 0 }));
    this.#asked = null;
  }

  /** Stations that are asked over and over now. */
  stations(): readonly number[] {
    return [...new Set(this.#turns.map(({ item }) => item.station))];
  }

  next(nowUs: number): LineRequest | null {
    const turn = this.#earliest();
    if (!turn || turn.dueUs > nowUs) return null;
    this.#asked = turn;
    turn.dueUs = nowUs + turn.item.everyUs;
    return { station: turn.item.station, bytes: turn.item.bytes, priority: 'poll', cause: 'poll', ticket: 0 };
  }

  dueUs(): number | null {
    return this.#earliest()?.dueUs ?? null;
  }

  took({ outcome, endedUs }: ExchangeResult): void {
    const turn = this.#asked;
    this.#asked = null;
    if (!turn || outcome === 'abandoned' || outcome === 'closed') return;
    turn.misses = outcome === 'answered' || outcome === 'exception' || outcome === 'may-be-late' ? 0 : turn.misses + 1;
    if (turn.misses > 0) turn.dueUs = endedUs + Math.min(RAREST_US, FIRST_PENALTY_US * 2 ** (turn.misses - 1));
    else if (turn.item.everyUs === 0) this.#toTheBack(turn, endedUs);
  }

  #earliest(): Turn | null {
    return this.#turns.reduce<Turn | null>((best, turn) => (!best || turn.dueUs < best.dueUs ? turn : best), null);
  }

  #toTheBack(turn: Turn, nowUs: number): void {
    this.#turns = [...this.#turns.filter((other) => other !== turn), turn];
    turn.dueUs = nowUs;
  }
}
