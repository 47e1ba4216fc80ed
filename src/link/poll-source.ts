import { isHeard, type ExchangeResult, type LineRequest } from './request';
import type { Gate, Source } from './source';

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

/** Round robin over reads: who is due longest comes first, of those whose answer could be no older one's. */
export class PollSource implements Source {
  #turns: Turn[] = [];
  #asked: Turn | null = null;
  #spared: number | null = null;

  set(items: readonly PollItem[], nowUs: number): void {
    this.#turns = items.map((item) => ({ item, dueUs: nowUs, misses: 0 }));
    this.#asked = null;
  }

  /** Stations that are asked over and over now. */
  stations(): readonly number[] {
    return [...new Set(this.#turns.map(({ item }) => item.station))];
  }

  /** This station is not asked for now; null: all are. */
  spare(station: number | null): void {
    this.#spared = station;
  }

  /** What was due while nothing could be sent is not made up for. */
  skipTo(nowUs: number): void {
    for (const turn of this.#turns) turn.dueUs = Math.max(turn.dueUs, nowUs);
  }

  next({ nowUs, clearUs }: Gate): LineRequest | null {
    const turn = this.#earliest((one) => (one.dueUs <= nowUs && clearUs(one.item.bytes) <= nowUs ? one.dueUs : null));
    if (!turn) return null;
    this.#asked = turn;
    turn.dueUs = nowUs + turn.item.everyUs;
    return { station: turn.item.station, bytes: turn.item.bytes, priority: 'poll', cause: 'poll', ticket: 0 };
  }

  dueUs({ clearUs }: Gate): number | null {
    const readyUs = (turn: Turn): number => Math.max(turn.dueUs, clearUs(turn.item.bytes));
    const turn = this.#earliest(readyUs);
    return turn && readyUs(turn);
  }

  took({ outcome, endedUs }: ExchangeResult): void {
    const turn = this.#asked;
    this.#asked = null;
    if (!turn || outcome === 'abandoned' || outcome === 'closed') return;
    turn.misses = isHeard({ outcome }) || outcome === 'may-be-late' ? 0 : turn.misses + 1;
    if (turn.misses > 0) turn.dueUs = endedUs + Math.min(RAREST_US, FIRST_PENALTY_US * 2 ** (turn.misses - 1));
    else if (turn.item.everyUs === 0) this.#toTheBack(turn, endedUs);
  }

  /** The turn with the least time, of those that have one. */
  #earliest(timeUs: (turn: Turn) => number | null): Turn | null {
    let best: Turn | null = null;
    let bestUs = Infinity;
    for (const turn of this.#turns) {
      if (turn.item.station === this.#spared) continue;
      const us = timeUs(turn);
      if (us === null || us >= bestUs) continue;
      best = turn;
      bestUs = us;
    }
    return best;
  }

  #toTheBack(turn: Turn, nowUs: number): void {
    this.#turns = [...this.#turns.filter((other) => other !== turn), turn];
    turn.dueUs = nowUs;
  }
}
