import { isCertain, type ExchangeResult, type LineRequest } from './request';
import type { Gate, Source } from './source';
import type { StationControl } from './station-control';

/**
 * What became of Stop at one station. `under-way` may still become any other; `refused`: the drive did not take the stop word, whatever its
 * shaft does; `not-sent` says why in `why`.
 */
export type StopOutcome = 'under-way' | 'stopped' | 'still-turning' | 'refused' | 'no-answer' | 'not-sent';

export interface StationStop {
  readonly station: number;
  readonly outcome: StopOutcome;
  /** One sentence for the page and the trace. */
  readonly why: string;
  /** When the answer came on which this rests, in microseconds of the line clock; null where there was none. */
  readonly atUs: number | null;
}

/** Tries of each stop word before the silence, or the refusal, is told. */
const TRIES = 3;
const STATUS_EVERY_US = 100_000;
const AGAIN_AFTER_REFUSAL_US = 50_000;
/** A drive that did not stop is asked on, this often and for so long: what it says then corrects the report. */
const FOLLOW_EVERY_US = 1_000_000;
const FOLLOW_FOR_US = 60_000_000;

interface Halt {
  readonly control: StationControl;
  readonly frames: readonly Uint8Array[];
  /** The stop word that is next; all are confirmed when there is none. */
  word: number;
  tries: number;
  /** Exchanges in which the present stop word was sent: an answer to any of them confirms it. */
  sent: ReadonlySet<number>;
  /** The drive's last refusal of a stop word, told in words. */
  refusal: string;
  /** When the last stop word was confirmed or given up; null before. */
  watchedSinceUs: number | null;
  misses: number;
  dueUs: number;
  told: StationStop;
  /** When the outcome was told that is not waited for any longer; null while it is. */
  toldUs: number | null;
}

/**
 * One press of Stop: the stop words of every station in turn until each is confirmed, then their status until the shaft stands. The first
 * station given is served first. No stop rests on a zero reference, standstill is believed only when the drive says so in an answer that was
 * asked for after its stop word was confirmed. What is told as bad is followed for a while, and corrected.
 */
export class StopRun implements Source {
  #halts: readonly Halt[];
  readonly #unsent: readonly StationStop[];
  #asked: Halt | null = null;
  readonly #refusalOf: (result: ExchangeResult) => string;
  readonly #onChange: () => void;

  constructor(
    controls: readonly StationControl[],
    nowUs: number,
    refusalOf: (result: ExchangeResult) => string,
    onChange: () => void,
  ) {
    const halts = controls.map((control): Halt => ({
      control,
      frames: control.stopFrames(),
      word: 0,
      tries: 0,
      sent: new Set(),
      refusal: '',
      watchedSinceUs: null,
      misses: 0,
      dueUs: nowUs,
      told: { station: control.station, outcome: 'under-way', why: 'the stop word is sent', atUs: null },
      toldUs: null,
    }));
    this.#halts = halts.filter(({ frames }) => frames.length > 0);
    this.#unsent = halts
      .filter(({ frames }) => frames.length === 0)
      .map(({ control }) => ({
        station: control.station,
        outcome: 'not-sent',
        why: 'no sheet says how this drive is stopped',
        atUs: null,
      }));
    this.#refusalOf = refusalOf;
    this.#onChange = onChange;
  }

  /** Nothing that could still turn out well is waited for; drives that did not stop may still be followed. */
  isOver(): boolean {
    return this.#halts.every(({ toldUs }) => toldUs !== null);
  }

  outcomes(): readonly StationStop[] {
    return [...this.#unsent, ...this.#halts.map(({ told }) => told)];
  }

  /** Stations whose stop is still under way. */
  pending(): readonly number[] {
    return this.#halts.filter(({ toldUs }) => toldUs === null).map(({ control }) => control.station);
  }

  /** A station is not followed any more: it got a new word, or a person saw it stand. */
  leave(station: number): void {
    for (const halt of this.#halts) if (halt.control.station === station) halt.dueUs = Infinity;
  }

  /** What was under way is told as cut off. */
  cut(why: string): void {
    for (const halt of this.#halts) if (halt.toldUs === null) this.#tell(halt, 'no-answer', why, 0);
  }

  next(gate: Gate): LineRequest | null {
    for (const halt of this.#halts)
      if (halt.toldUs !== null && gate.nowUs - halt.toldUs > FOLLOW_FOR_US) halt.dueUs = Infinity;
    const ready = this.#halts.filter((halt) => this.#readyUs(halt, gate) <= gate.nowUs);
    // Every drive gets its stop word before any is asked how it stands.
    const halt = ready.find(({ word, frames }) => word < frames.length) ?? ready[0];
    const bytes = halt && (halt.frames[halt.word] ?? halt.control.statusRead());
    if (!halt || !bytes) return null;
    this.#asked = halt;
    return { station: halt.control.station, bytes, priority: 'stop', cause: 'Stop', ticket: 0 };
  }

  dueUs(gate: Gate): number | null {
    const due = Math.min(...this.#halts.map((halt) => this.#readyUs(halt, gate)));
    return Number.isFinite(due) ? due : null;
  }

  took(result: ExchangeResult): void {
    const halt = this.#asked;
    this.#asked = null;
    if (!halt || result.outcome === 'closed') return;
    if (halt.word < halt.frames.length) this.#tookWord(halt, result);
    else this.#tookStatus(halt, result);
    this.#onChange();
  }

  /** A stop word waits for nothing; a status must be the drive's answer to this request and to no older one. */
  #readyUs(halt: Halt, { clearUs }: Gate): number {
    const status = halt.word < halt.frames.length ? null : halt.control.statusRead();
    return status ? Math.max(halt.dueUs, clearUs(status)) : halt.dueUs;
  }

  #tookWord(halt: Halt, result: ExchangeResult): void {
    const confirmed =
      result.outcome === 'answered' || (result.outcome === 'may-be-late' && halt.sent.has(result.older ?? 0));
    halt.sent = new Set([...halt.sent, result.exchange]);
    halt.tries++;
    if (result.outcome === 'exception') halt.refusal = this.#refusalOf(result);
    else if (confirmed) halt.refusal = '';
    const refusedForGood = result.outcome === 'exception' && halt.tries >= TRIES;
    halt.dueUs = result.endedUs + (result.outcome === 'exception' ? AGAIN_AFTER_REFUSAL_US : 0);
    if (confirmed || refusedForGood) {
      halt.word = refusedForGood ? halt.frames.length : halt.word + 1;
      halt.tries = 0;
      halt.sent = new Set();
      if (halt.word < halt.frames.length) return;
      halt.watchedSinceUs = result.endedUs;
      halt.dueUs = result.endedUs;
      if (!halt.control.statusRead()) {
        halt.dueUs = Infinity;
        return this.#tell(halt, 'no-answer', 'no sheet says how to ask whether the shaft stands', result.endedUs);
      }
      // A drive that was told as silent has come back.
      if (halt.toldUs !== null) this.#untell(halt);
      this.#say(halt, confirmed ? 'the drive confirmed the stop word' : refusedText(halt), result.endedUs);
    } else if (halt.toldUs !== null) halt.dueUs = result.endedUs + FOLLOW_EVERY_US;
    else if (halt.tries >= TRIES)
      this.#tell(
        halt,
        'no-answer',
        `no sure answer to the stop word after ${halt.tries} tries; it is tried on`,
        result.endedUs,
      );
    else this.#say(halt, `no sure answer to the stop word yet, ${halt.tries} of ${TRIES} tries`, halt.told.atUs);
  }

  #tookStatus(halt: Halt, result: ExchangeResult): void {
    const turning = isCertain(result) ? halt.control.turningIn(result) : null;
    const { endedUs } = result;
    const follows = halt.toldUs !== null;
    halt.dueUs = endedUs + (follows ? FOLLOW_EVERY_US : STATUS_EVERY_US);
    halt.misses = turning === null ? halt.misses + 1 : 0;
    const isLate = endedUs - (halt.watchedSinceUs ?? endedUs) >= halt.control.standstillWithinUs();
    const said = halt.refusal === '' ? 'the drive confirmed the stop word' : refusedText(halt);
    if (turning === false) {
      halt.dueUs = Infinity;
      const outcome = halt.refusal === '' ? 'stopped' : 'refused';
      return this.#tell(
        halt,
        outcome,
        `${halt.refusal === '' ? '' : `${said}, but `}the drive says that the shaft stands`,
        endedUs,
        endedUs,
      );
    }
    if (turning === true && (isLate || follows))
      return this.#tell(
        halt,
        halt.refusal === '' ? 'still-turning' : 'refused',
        `${said}, but its shaft still turns after ${seconds(endedUs - (halt.watchedSinceUs ?? endedUs))}`,
        endedUs,
        endedUs,
      );
    if (turning === null && isLate && !follows)
      return this.#tell(halt, 'no-answer', `${said}, but its status does not come`, endedUs);
    if (turning === true) this.#say(halt, `${said}; its shaft still turns`, endedUs);
    else if (!follows) this.#say(halt, `${said}; its status does not come, ${halt.misses} tries`, halt.told.atUs);
  }

  #say(halt: Halt, why: string, atUs: number | null): void {
    halt.told = { ...halt.told, why, atUs };
  }

  #untell(halt: Halt): void {
    halt.toldUs = null;
    halt.told = { ...halt.told, outcome: 'under-way' };
  }

  /** `atUs`: when the answer came on which this rests. */
  #tell(halt: Halt, outcome: StopOutcome, why: string, nowUs: number, atUs = halt.told.atUs): void {
    halt.told = { station: halt.control.station, outcome, why, atUs };
    halt.toldUs ??= nowUs;
    if (outcome === 'no-answer') halt.dueUs = Math.max(halt.dueUs, nowUs + FOLLOW_EVERY_US);
  }
}

const refusedText = ({ refusal }: Halt): string => `the drive refused the stop word: ${refusal}`;

const seconds = (us: number): string => `${Math.round(us / 100_000) / 10} s`;
