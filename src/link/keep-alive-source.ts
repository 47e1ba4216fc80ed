import { isHeard, type ExchangeResult, type LineRequest } from './request';
import type { Gate, Source } from './source';

/** A keep-alive comes this many times within the drive's watchdog time. */
export const PER_WATCHDOG = 3;
/** After a missed one it is tried again sooner: so many times within the usual distance. */
const SOONER = 4;
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
}

/**
 * By deadline: the station whose watchdog would run out first is served first. It never repeats an older word than the last one sent, and it
 * never sets a drive going again: after a missed answer it asks whether the drive still holds the word, and it ends when no sure answer came
 * for the drive's whole watchdog time.
 */
export class KeepAliveSource implements Source {
  readonly #beats = new Map<number, Beat>();
  readonly #ended: (station: number, why: string) => void;
  #asked: { readonly beat: Beat; readonly what: Asked } | null = null;

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

  /** Whether a run word is kept alive. */
  turns(): boolean {
    return [...this.#beats.values()].some(({ untilUs }) => untilUs === null);
  }

  next(gate: Gate): LineRequest | null {
    for (const beat of [...this.#beats.values()]) this.#expire(beat, gate.nowUs);
    const beat = this.#earliest(gate);
    return beat && timeOf(beat, gate) <= gate.nowUs ? this.#ask(beat, gate.nowUs) : null;
  }

  /** The word that must not wait until `untilUs`, even if it is not due yet; null where none is so pressing. */
  ahead(gate: Gate, untilUs: number): LineRequest | null {
    const pressing = [...this.#beats.values()]
      .filter((beat) => latestUs(beat) < untilUs && beat.dueUs - beat.everyUs < gate.nowUs)
      .sort((a, b) => a.dueUs - b.dueUs)[0];
    return pressing ? this.#ask(pressing, gate.nowUs) : null;
  }

  dueUs(gate: Gate): number | null {
    const beat = this.#earliest(gate);
    return beat && timeOf(beat, gate);
  }

  took(result: ExchangeResult): void {
    const asked = this.#asked;
    this.#asked = null;
    const { outcome, endedUs } = result;
    if (!asked || this.#beats.get(asked.beat.station) !== asked.beat || outcome === 'abandoned' || outcome === 'closed')
      return;
    const { beat, what } = asked;
    if (what === 'status') return;
    if (outcome === 'exception') this.#refused(beat, what);
    else if (!isHeard(result)) this.#missed(beat, endedUs);
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
    const bytes = { word: beat.bytes, hold: beat.holdRead, status: beat.statusRead }[what] ?? beat.bytes;
    return { station: beat.station, bytes, priority: 'keep-alive', cause: CAUSES[what], ticket: 0 };
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

const watchdogUs = ({ everyUs }: Beat): number => PER_WATCHDOG * everyUs;

/** Later than this the word may come too late for the drive's watchdog. */
const latestUs = ({ dueUs, everyUs }: Beat): number => dueUs + everyUs;

/** A word that is due waits for an older answer that could be taken for its own, but not so long that the watchdog would run out. */
function timeOf(beat: Beat, { clearUs }: Gate): number {
  const wordUs = Math.max(beat.dueUs, Math.min(clearUs(beat.bytes), latestUs(beat)));
  return beat.statusRead ? Math.min(wordUs, Math.max(beat.statusDueUs, clearUs(beat.statusRead))) : wordUs;
}

function whatNow(beat: Beat, nowUs: number): Asked {
  if (beat.statusRead && beat.statusDueUs <= nowUs && beat.dueUs > nowUs) return 'status';
  // A word that only lets the shaft come to rest can be repeated whatever happened.
  return beat.inDoubt && beat.untilUs === null && beat.holdRead ? 'hold' : 'word';
}
