import type { ExchangeResult, LineRequest } from './request';
import { isCertain } from './request';
import type { Source } from './source';
import type { StationCare } from './station-care';

/** What became of Stop at one station. `not-sent` says why in `why`. */
export type StopOutcome = 'stopped' | 'still-turning' | 'no-answer' | 'not-sent';

export interface StationStop {
  readonly station: number;
  readonly outcome: StopOutcome;
  /** One sentence for the page and the trace. */
  readonly why: string;
}

const TRIES = 3;
const STATUS_EVERY_US = 100_000;

type Phase =
  | { readonly kind: 'sending'; readonly word: number; readonly triesLeft: number }
  | { readonly kind: 'watching'; readonly sinceUs: number; readonly dueUs: number; readonly misses: number };

interface Halt {
  readonly profile: StationCare;
  readonly frames: readonly Uint8Array[];
  readonly refused: boolean;
  readonly phase: Phase;
}

/**
 * One press of Stop: the stop words of every station in turn, three tries each, then their status until the shaft stands. The first station
 * given is served first. No stop rests on a zero reference, and standstill is believed only when the drive's status says so.
 */
export class StopRun implements Source {
  #halts: Halt[];
  #outcomes: StationStop[];
  #asked: number | null = null;
  readonly #onChange: (outcomes: readonly StationStop[], over: boolean) => void;

  constructor(profiles: readonly StationCare[], onChange: (outcomes: readonly StationStop[], over: boolean) => void) {
    const halts = profiles.map((profile): Halt => ({
      profile,
      frames: profile.stopFrames(),
      refused: false,
      phase: { kind: 'sending', word: 0, triesLeft: TRIES },
    }));
    this.#halts = halts.filter(({ frames }) => frames.length > 0);
    this.#outcomes = halts
      .filter(({ frames }) => frames.length === 0)
      .map(({ profile }) => ({
        station: profile.station,
        outcome: 'not-sent',
        why: 'no sheet says how this drive is stopped',
      }));
    this.#onChange = onChange;
  }

  isOver(): boolean {
    return this.#halts.length === 0;
  }

  outcomes(): readonly StationStop[] {
    return this.#outcomes;
  }

  /** Stations whose stop is still under way. */
  pending(): readonly number[] {
    return this.#halts.map(({ profile }) => profile.station);
  }

  next(nowUs: number): LineRequest | null {
    const sending = this.#halts.find(({ phase }) => phase.kind === 'sending');
    if (sending)
      return this.#ask(sending, sending.phase.kind === 'sending' ? (sending.frames[sending.phase.word] ?? null) : null);
    const watching = this.#halts.find(({ phase }) => phase.kind === 'watching' && phase.dueUs <= nowUs);
    return watching ? this.#ask(watching, watching.profile.statusRead()) : null;
  }

  dueUs(): number | null {
    const dues = this.#halts.map(({ phase }) => (phase.kind === 'sending' ? 0 : phase.dueUs));
    return dues.length === 0 ? null : Math.min(...dues);
  }

  took(result: ExchangeResult): void {
    const halt = this.#halts.find(({ profile }) => profile.station === this.#asked);
    this.#asked = null;
    if (!halt) return;
    if (result.outcome === 'closed') this.#end(halt, 'not-sent', 'the line closed before the drive confirmed');
    else if (halt.phase.kind === 'sending') this.#tookWord(halt, halt.phase, result);
    else this.#tookStatus(halt, halt.phase, result);
  }

  #ask({ profile }: Halt, bytes: Uint8Array | null): LineRequest | null {
    if (!bytes) return null;
    this.#asked = profile.station;
    return { station: profile.station, bytes, priority: 'stop', cause: 'Stop', ticket: 0 };
  }

  #replace(halt: Halt, change: Partial<Halt>): void {
    this.#halts = this.#halts.map((candidate) => (candidate === halt ? { ...halt, ...change } : candidate));
  }

  #tookWord(halt: Halt, phase: Extract<Phase, { kind: 'sending' }>, result: ExchangeResult): void {
    if (isCertain(result)) {
      const last = phase.word + 1 >= halt.frames.length;
      const refused = halt.refused || result.outcome === 'exception';
      const watching: Phase = { kind: 'watching', sinceUs: result.endedUs, dueUs: result.endedUs, misses: 0 };
      this.#replace(halt, {
        refused,
        phase: last ? watching : { kind: 'sending', word: phase.word + 1, triesLeft: TRIES },
      });
    } else if (phase.triesLeft > 1) this.#replace(halt, { phase: { ...phase, triesLeft: phase.triesLeft - 1 } });
    else this.#end(halt, 'no-answer', `no sure answer to the stop word after ${TRIES} tries`);
  }

  #tookStatus(halt: Halt, phase: Extract<Phase, { kind: 'watching' }>, result: ExchangeResult): void {
    const turning = isCertain(result) ? halt.profile.turningIn(result) : null;
    const dueUs = result.endedUs + STATUS_EVERY_US;
    if (turning === false)
      this.#end(
        halt,
        'stopped',
        halt.refused
          ? 'the stop word was refused, but the drive says that the shaft stands'
          : 'the drive says that the shaft stands',
      );
    else if (turning === null && phase.misses + 1 >= TRIES)
      this.#end(halt, 'no-answer', 'the stop word was confirmed, but the status does not come');
    else if (result.endedUs - phase.sinceUs >= halt.profile.standstillWithinUs())
      this.#end(halt, 'still-turning', stillTurning(halt));
    else this.#replace(halt, { phase: { ...phase, dueUs, misses: turning === null ? phase.misses + 1 : 0 } });
  }

  #end(halt: Halt, outcome: StopOutcome, why: string): void {
    this.#halts = this.#halts.filter((candidate) => candidate !== halt);
    this.#outcomes = [...this.#outcomes, { station: halt.profile.station, outcome, why }];
    this.#onChange(this.#outcomes, this.isOver());
  }
}

const stillTurning = ({ refused, profile }: Halt): string =>
  `${refused ? 'the drive refused the stop word' : 'the drive confirmed the stop word'}, but its shaft still turns after ${profile.standstillWithinUs() / 1e6} s`;
