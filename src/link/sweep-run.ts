import { settingsText, type SerialSettings } from '../core/line/settings';
import type { ExchangeOutcome, ExchangeResult, LineRequest } from './request';
import type { Source } from './source';

/** One try of a sweep: a harmless request, and the settings under which it is sent where they change. */
export interface SweepStep {
  readonly station: number;
  readonly bytes: Uint8Array;
  readonly settings?: SerialSettings;
}

export interface SweepPlan {
  readonly kind: 'settings' | 'stations' | 'everything';
  readonly steps: readonly SweepStep[];
  /** The first step to do; more than 0 takes a sweep up again that was stopped. */
  readonly from: number;
  /** How long each try waits for an answer, in microseconds. */
  readonly timeoutUs: number;
  /** The line's own settings, to which it returns. */
  readonly own: SerialSettings | null;
  /** Ends at the first answer. */
  readonly untilFound: boolean;
}

/** What one try heard, when it heard anything. */
export interface SweepFinding {
  readonly step: number;
  readonly station: number;
  readonly settings: SerialSettings | null;
  readonly outcome: ExchangeOutcome;
}

export interface SweepState {
  readonly kind: SweepPlan['kind'];
  readonly running: boolean;
  readonly done: number;
  readonly total: number;
  readonly found: readonly SweepFinding[];
  readonly now: string;
}

/** An answer that may be late fits an earlier try as well, but it was read under the present settings, which is what a sweep asks. */
export const PROVES_LINK: ReadonlySet<ExchangeOutcome> = new Set(['answered', 'exception', 'may-be-late']);

const nowText = (kind: SweepPlan['kind'], { station, settings }: SweepStep): string =>
  [
    ...(settings ? [settingsText(settings)] : []),
    ...(settings && kind !== 'everything' ? [] : [`station ${station}`]),
  ].join(', ');

/** Tries one request after the other on a line. It only reads; nothing that it sends can turn a shaft. */
export class SweepRun implements Source {
  readonly #plan: SweepPlan;
  readonly #reconfigure: (settings: SerialSettings) => void;
  readonly #onChange: () => void;
  #at: number;
  #asked = false;
  #over = false;
  #found: SweepFinding[] = [];

  constructor(plan: SweepPlan, reconfigure: (settings: SerialSettings) => void, onChange: () => void) {
    this.#plan = plan;
    this.#at = plan.from;
    this.#reconfigure = reconfigure;
    this.#onChange = onChange;
  }

  get timeoutUs(): number {
    return this.#plan.timeoutUs;
  }

  isOver(): boolean {
    return this.#over;
  }

  state(): SweepState {
    const { kind, steps } = this.#plan;
    const step = steps[this.#at];
    return {
      kind,
      running: !this.#over,
      done: this.#at,
      total: steps.length,
      found: this.#found,
      now: !step || this.#over ? '' : nowText(kind, step),
    };
  }

  next(): LineRequest | null {
    const step = this.#plan.steps[this.#at];
    if (this.#over || this.#asked) return null;
    if (!step) {
      this.end();
      return null;
    }
    if (step.settings) this.#reconfigure(step.settings);
    this.#asked = true;
    this.#onChange();
    return { station: step.station, bytes: step.bytes, priority: 'poll', cause: 'sweep', ticket: 0 };
  }

  dueUs(): number | null {
    return this.#over || this.#asked ? null : 0;
  }

  took({ outcome }: ExchangeResult): void {
    if (!this.#asked) return;
    this.#asked = false;
    if (outcome === 'abandoned' || outcome === 'closed') return this.end();
    const step = this.#plan.steps[this.#at];
    if (step && outcome !== 'timeout')
      this.#found.push({ step: this.#at, station: step.station, settings: step.settings ?? null, outcome });
    this.#at++;
    if ((this.#plan.untilFound && PROVES_LINK.has(outcome)) || this.#at >= this.#plan.steps.length) this.end();
    else this.#onChange();
  }

  /** Ends the sweep where it is and gives the line its own settings back. */
  end(): void {
    if (this.#over) return;
    this.#over = true;
    if (this.#plan.own && this.#plan.steps.some(({ settings }) => settings)) this.#reconfigure(this.#plan.own);
    this.#onChange();
  }
}
