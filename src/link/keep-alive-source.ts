import { isHeard, type ExchangeResult, type LineRequest } from './request';
import type { Gate, Source } from './source';

/** A keep-alive comes this many times within the drive's watchdog time. */
export const PER_WATCHDOG = 3;
/** After a missed one it is tried again sooner: so many times within the usual distance. */
const SOONER = 4;
/** A word that was confirmed counts as just given for this part of the usual distance. */
const FRESH = 10;
/** Refusals in a row after which the drive is believed. */
const REFUSALS = 3;
/** While a run word is kept alive the drive's status is not older than this, unless it does not answer. */
const STATUS_EVERY_US = 1_000_000;

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

/** How a word is repeated to one drive. */
export interface BeatPlan extends Omit<KeepAlive, 'misses'> {
  readonly bytes: Uint8Array;
  /** Asks whether the drive still holds the word, without giving it anew; null where this link cannot ask that. */
  readonly holdRead: Uint8Array | null;
  readonly holds: (result: ExchangeResult) => boolean | null;
  /** Reads the status; null where each answer brings it along, or nothing does. */
  readonly statusRead: Uint8Array | null;
}

type Asked = 'word' | 'hold' | 'status';

interface Beat extends BeatPlan {
  misses: number;
  refusals: number;
  dueUs: number;
  statusDueUs: number;
  /** When the drive last surely had the word. */
  sureUs: number;
  /** An answer is missing: the drive may have restarted meanwhile, and then the word must not set it going again. */
  inDoubt: boolean;
  /** Exchanges in which the word was sent, or asked for, since it was sure last: an answer to any of them tells the same. */
  sent: ReadonlySet<number>;
}

/** Whether somebody's watchdog needs the line now: the word to send, or the time until which nobody else may take the line. */
export type Ahead =
  { readonly kind: 'send'; readonly request: LineRequest } | { readonly kind: 'wait'; readonly untilUs: number };

/**
 * By deadline: the station whose watchdog would run out first is served first. It never repeats an older word than the last one sent, and it
 * never sets a drive going again: after a missed answer it asks whether the drive still holds the word, and it ends when no sure answer came
 * for the drive's whole watchdog time.
 */
export class KeepAliveSource implements Source {
  readonly #beats = new Map<number, Beat>();
  readonly #ended: (station: number, why: string) => void;
  #asked: { readonly beat: Beat; readonly what: Asked } | null = null;
  /** Until when the word that was confirmed last counts as just given. */
  #freshUntilUs = 0;

  /** `ended` hears of a run word that is not repeated any more, with the reason. */
  constructor(ended: (station: number, why: string) => void) {
    this.#ended = ended;
  }

  start(plan: BeatPlan, nowUs: number): void {
    this.#beats.set(plan.station, {
      ...plan,
      misses: 0,
      refusals: 0,
      dueUs: nowUs + plan.everyUs,
      statusDueUs: nowUs + STATUS_EVERY_US,
      sureUs: nowUs,
      inDoubt: false,
      sent: new Set(),
    });
  }

  end(station: number): void {
    this.#beats.delete(station);
  }

  /** Ends one with a reason, which is told where its word asked to turn. */
  endFor(station: number, why: string): void {
    const beat = this.#beats.get(station);
    this.#beats.delete(station);
    if (beat?.untilUs === null) this.#ended(station, why);
  }

  endAll(why: string): void {
    for (const station of [...this.#beats.keys()]) this.endFor(station, why);
  }

  /** A status was seen, by whoever asked for it. */
  sawStatus(station: number, atUs: number): void {
    const beat = this.#beats.get(station);
    if (beat) beat.statusDueUs = atUs + STATUS_EVERY_US;
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

  /** A drive has just got its word, and confirmed it: giving it again would gain nothing. */
  isFresh(nowUs: number): boolean {
    return nowUs <= this.#freshUntilUs;
  }

  /** Whether a run word is kept alive. */
  turns(): boolean {
    return [...this.#beats.values()].some(({ untilUs }) => untilUs === null);
  }

  next(gate: Gate): LineRequest | null {
    for (const beat of [...this.#beats.values()]) this.#expire(beat, gate.nowUs);
    const beat = this.#earliest(gate);
    return beat && timeOf(beat, gate) <= gate.nowUs ? this.#ask(beat, gate.nowUs) : null;
  }

  /**
   * What must not wait until `untilUs`, even if it is not due yet; null where nothing is so pressing. A word whose answer could be an older one's
   * waits for that, as long as the watchdog allows, and the line waits with it.
   */
  ahead(gate: Gate, untilUs: number): Ahead | null {
    const pressing = [...this.#beats.values()]
      .filter((beat) => latestUs(beat) < untilUs && beat.dueUs - beat.everyUs < gate.nowUs)
      .sort((a, b) => a.dueUs - b.dueUs)[0];
    if (!pressing) return null;
    const clearUs = whatNow(pressing, gate.nowUs) === 'word' ? gate.clearUs(pressing.bytes) : 0;
    return clearUs > gate.nowUs && clearUs <= latestUs(pressing)
      ? { kind: 'wait', untilUs: clearUs }
      : { kind: 'send', request: this.#ask(pressing, gate.nowUs) };
  }

  /** When the first word is due that must not be later than `byUs`; null where none is so pressing. */
  pressingUs(byUs: number): number | null {
    const dues = [...this.#beats.values()].filter((beat) => latestUs(beat) < byUs).map(({ dueUs }) => dueUs);
    return dues.length === 0 ? null : Math.min(...dues);
  }

  dueUs(gate: Gate): number | null {
    const beat = this.#earliest(gate);
    return beat && timeOf(beat, gate);
  }

  took(result: ExchangeResult): void {
    const asked = this.#asked;
    this.#asked = null;
    const { outcome, endedUs } = result;
    const given = asked?.what === 'word' && isSure(asked.beat, result);
    this.#freshUntilUs = given ? endedUs + asked.beat.everyUs / FRESH : 0;
    if (!asked || this.#beats.get(asked.beat.station) !== asked.beat || outcome === 'abandoned' || outcome === 'closed')
      return;
    const { beat, what } = asked;
    if (what === 'status') return;
    beat.sent = new Set([...beat.sent, result.exchange]);
    if (outcome === 'exception') this.#refused(beat, what);
    else if (!isSure(beat, result)) this.#missed(beat, endedUs);
    else if (what === 'hold' && beat.holds(result) !== true)
      this.endFor(beat.station, 'an answer was missing, and the drive does not hold the word any more');
    else this.#confirmed(beat, what, result);
  }

  #confirmed(beat: Beat, what: Asked, result: ExchangeResult): void {
    // Where the word itself is the question, its answer must not come from a drive that has just been set going again.
    if (what === 'word' && beat.inDoubt && beat.holds(result) === false)
      return this.endFor(beat.station, 'an answer was missing, and the drive has fallen out of operation meanwhile');
    beat.misses = 0;
    beat.refusals = 0;
    beat.inDoubt = false;
    beat.sureUs = result.endedUs;
    beat.sent = new Set();
    if (what === 'hold') beat.dueUs = result.endedUs;
  }

  #refused(beat: Beat, what: Asked): void {
    beat.refusals++;
    if (what === 'hold')
      this.endFor(beat.station, 'an answer was missing, and the drive does not say whether it holds the word');
    else if (beat.refusals >= REFUSALS) this.endFor(beat.station, 'the drive refuses it');
  }

  #missed(beat: Beat, endedUs: number): void {
    beat.misses++;
    beat.inDoubt = true;
    beat.dueUs = endedUs + beat.everyUs / SOONER;
    this.#expire(beat, endedUs);
  }

  #expire(beat: Beat, nowUs: number): void {
    if (beat.untilUs !== null && beat.untilUs <= nowUs) this.#beats.delete(beat.station);
    else if (beat.untilUs === null && beat.misses > 0 && nowUs - beat.sureUs > watchdogUs(beat))
      this.endFor(beat.station, 'no sure answer came for as long as the drive itself waits');
  }

  #ask(beat: Beat, nowUs: number): LineRequest {
    const what = whatNow(beat, nowUs);
    this.#asked = { beat, what };
    if (what === 'status') beat.statusDueUs = nowUs + STATUS_EVERY_US;
    else beat.dueUs = nowUs + beat.everyUs;
    return {
      station: beat.station,
      bytes: bytesOf(beat, what),
      priority: 'keep-alive',
      cause: CAUSES[what],
      ticket: 0,
    };
  }

  #earliest(gate: Gate): Beat | null {
    return [...this.#beats.values()].reduce<Beat | null>(
      (best, beat) => (!best || timeOf(beat, gate) < timeOf(best, gate) ? beat : best),
      null,
    );
  }
}

const CAUSES: Readonly<Record<Asked, string>> = {
  word: 'keep-alive',
  hold: 'keep-alive, does it hold',
  status: 'keep-alive, status',
};

const bytesOf = (beat: Beat, what: Asked): Uint8Array =>
  ({ word: beat.bytes, hold: beat.holdRead, status: beat.statusRead })[what] ?? beat.bytes;

/** Of several sendings of the same word any answer confirms it, whichever it belongs to. */
const isSure = ({ sent }: Beat, result: ExchangeResult): boolean =>
  isHeard(result) || (result.outcome === 'may-be-late' && sent.has(result.older ?? 0));

const watchdogUs = ({ everyUs }: Beat): number => PER_WATCHDOG * everyUs;

/** Later than this the word may come too late for the drive's watchdog. */
const latestUs = ({ dueUs, everyUs }: Beat): number => dueUs + everyUs;

/** A word that is due waits for an older answer that could be taken for its own, but not so long that the watchdog would run out. */
function timeOf(beat: Beat, { clearUs, nowUs }: Gate): number {
  // Whether the drive holds the word is asked without waiting: an answer to any of these questions will do.
  const isWord = whatNow(beat, Math.max(nowUs, beat.dueUs)) === 'word';
  const wordUs = Math.max(beat.dueUs, isWord ? Math.min(clearUs(beat.bytes), latestUs(beat)) : 0);
  return beat.statusRead ? Math.min(wordUs, Math.max(beat.statusDueUs, clearUs(beat.statusRead))) : wordUs;
}

function whatNow(beat: Beat, nowUs: number): Asked {
  if (beat.statusRead && beat.statusDueUs <= nowUs && beat.dueUs > nowUs) return 'status';
  // A word that only lets the shaft come to rest can be repeated whatever happened.
  return beat.inDoubt && beat.untilUs === null && beat.holdRead ? 'hold' : 'word';
}
