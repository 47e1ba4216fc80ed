import { linesThen, sheetThen } from '../core/job/line-history';
import { protocolsThen } from '../core/protocol/choose';
import { pinnedIn, shelfOf } from '../core/sheet/shelf';
import { Meanings } from '../core/trace/meanings';
import { EMPTY_RECORD, RECORD_MOST, withNewer, withOlder, withoutOldest, type TraceRecord } from '../core/trace/record';
import { secondOfDay } from '../core/trace/time-term';
import { traceTerms, TraceSearch } from '../core/trace/search';
import type { TraceSearchAnswer, TraceSearchQuestion } from '../messages/trace-search';

/** A search goes on for so long before it looks whether something else was asked. */
const SLICE_MS = 30;

/** The record and the search of the worker that searches the trace. */
export class SearchHost {
  readonly #tell: (answer: TraceSearchAnswer) => void;
  readonly #breathe: () => Promise<void>;
  readonly #nowMs: () => number;
  #record: TraceRecord = EMPTY_RECORD;
  #meanings = new Meanings(
    () => ({ protocol: null, index: null }),
    () => null,
  );
  #beganAt: (session: string) => number = () => 0;
  #search: TraceSearch | null = null;
  #number = 0;
  #told = { older: 0, newer: 0, looked: -1 };
  #isGoing = false;

  constructor(tell: (answer: TraceSearchAnswer) => void, breathe: () => Promise<void>, nowMs: () => number) {
    this.#tell = tell;
    this.#breathe = breathe;
    this.#nowMs = nowMs;
  }

  /** Takes what the page says, and goes on until there is nothing left to look through. */
  async take(question: TraceSearchQuestion): Promise<void> {
    switch (question.kind) {
      case 'begin': {
        const { tail, tailStart, history, sheets, sessionStartMs } = question;
        const shelf = shelfOf(sheets);
        const protocolThen = protocolsThen(history, shelf);
        this.#record = { blocks: [], starts: [], tail, tailStart };
        this.#meanings = new Meanings(
          (entry) => ({ protocol: protocolThen(entry), index: pinnedIn(shelf, sheetThen(history, entry)) }),
          (moment) => linesThen(history, moment),
        );
        this.#beganAt = (session) => secondOfDay(sessionStartMs.get(session) ?? 0);
        break;
      }
      case 'more':
        // No more than the page holds, however long a filter stands.
        this.#record = withoutOldest(withNewer(withOlder(this.#record, question.older), question.newer), RECORD_MOST);
        break;
      case 'search':
        this.#number = question.number;
        this.#told = { older: 0, newer: 0, looked: -1 };
        this.#search = new TraceSearch(traceTerms(question.text), this.#record, {
          saying: (words) => this.#meanings.saying(words),
          beganAt: (session) => this.#beganAt(session),
        });
    }
    if (!this.#isGoing) await this.#go();
  }

  async #go(): Promise<void> {
    this.#isGoing = true;
    for (let isOver = false; !isOver;) {
      const beganMs = this.#nowMs();
      isOver = this.#search?.step(this.#record, () => this.#nowMs() - beganMs > SLICE_MS) ?? true;
      this.#report();
      if (!isOver) await this.#breathe();
    }
    this.#isGoing = false;
  }

  #report(): void {
    if (!this.#search) return;
    const { older, newer, looked } = this.#search;
    if (looked === this.#told.looked) return;
    this.#tell({
      number: this.#number,
      older: older.slice(this.#told.older),
      newer: newer.slice(this.#told.newer),
      looked,
    });
    this.#told = { older: older.length, newer: newer.length, looked };
  }
}
