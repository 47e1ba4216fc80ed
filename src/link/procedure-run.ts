import type { SerialSettings } from '../core/line/settings';
import type { Procedure } from '../core/procedure/procedure';
import { beginRun, endRun, type RunEnd, type RunState } from '../core/procedure/run-state';
import {
  afterAct,
  afterHeard,
  afterPerson,
  afterPostponed,
  afterReport,
  pauseRun,
  resumeRun,
  retryRun,
  stepOf,
  wants,
  type ExchangeReport,
} from '../core/procedure/run';
import type { ProcedureTold } from './line-owner';
import type { ExchangeResult, LineRequest } from './request';
import type { Gate, Source } from './source';

/** What a run needs of its line. */
export interface ProcedurePorts {
  readonly nowUs: () => number;
  readonly report: (result: ExchangeResult) => ExchangeReport;
  readonly setEnd: (settings: SerialSettings) => void;
  /** Stations that this bench set in motion. */
  readonly driven: () => readonly number[];
  readonly changed: (run: RunState) => void;
  /** The control word of this station is not repeated any more. */
  readonly withhold: (station: number) => void;
  /** Stops this station; the run itself is not ended by it. */
  readonly stop: (station: number, cause: string) => void;
}

/** Ends after which the line is still there, and nobody has stopped what was set in motion. */
const LEAVES_SHAFT: ReadonlySet<RunEnd | null> = new Set<RunEnd>(['done', 'surprise', 'by-hand', 'refused']);

const CAUSES: Readonly<Record<Procedure['kind'], string>> = {
  route: 'route',
  'both-ends': 'change of both ends',
  restart: 'restart',
  list: 'list',
  listing: 'Terminal',
  trial: 'trial',
  cycle: 'cycle',
};

/** Procedures after which no shaft is left turning: a trial, and a controller that is played. */
const STOPS_AT_END: ReadonlySet<Procedure['kind']> = new Set<Procedure['kind']>(['trial', 'cycle']);

/** Procedures that must not be cut in the middle by a Stop that was for another line. */
const SETS_UP: ReadonlySet<Procedure['kind']> = new Set<Procedure['kind']>(['both-ends', 'restart']);

/** Runs a procedure on a line, at the line's pace. It begins with a press; Stop, closing, loss and surprise end it alike. */
export class ProcedureRun implements Source {
  readonly #procedure: Procedure;
  readonly #ports: ProcedurePorts;
  #run: RunState;
  #asked = false;

  constructor(procedure: Procedure, id: string, ports: ProcedurePorts) {
    this.#procedure = procedure;
    this.#ports = ports;
    this.#run = beginRun(procedure, id, ports.nowUs());
    this.#change(this.#run);
  }

  isOver(): boolean {
    return this.#run.phase === 'over';
  }

  state(): RunState {
    return this.#run;
  }

  /** A lost connection is expected just now: the drive was asked to restart, or a person is asked to switch it off and on. */
  expectsLoss(): boolean {
    if (this.isOver()) return false;
    const { steps } = this.#procedure;
    const [step, next] = [steps[this.#run.at], steps[this.#run.at + 1]];
    return step?.kind === 'return' || (step?.kind === 'person' && next?.kind === 'return');
  }

  /** The station to which nothing is sent by itself now; null where there is none. */
  spares(): number | null {
    const step = stepOf(this.#procedure, this.#run);
    const isSilent = this.#run.phase === 'running' && step?.kind === 'pause' && step.silent === true;
    return isSilent ? this.#procedure.station : null;
  }

  /** The station to which its words go over and over by this, so that nothing else need repeat them; null where it is no cycle. */
  cycles(): number | null {
    return this.#procedure.kind === 'cycle' && !this.isOver() ? this.#procedure.station : null;
  }

  /** The station to which it gives orders until it is over; null for what only sets a line up again. */
  orders(): number | null {
    const { kind, station } = this.#procedure;
    return SETS_UP.has(kind) || this.isOver() ? null : station;
  }

  end(end: RunEnd, why: string): void {
    if (!this.isOver()) this.#change(endRun(this.#run, end, why));
  }

  /** What a person says to it; nothing where another run is meant. */
  tell(id: string, told: ProcedureTold): void {
    if (this.#run.id !== id) return;
    const nowUs = this.#ports.nowUs();
    switch (told.kind) {
      case 'end':
        return this.end('by-hand', 'ended by hand');
      case 'pause':
        return this.#change(pauseRun(this.#run));
      case 'resume':
        return this.#change(resumeRun(this.#procedure, this.#run, nowUs));
      case 'again':
        return this.#change(retryRun(this.#procedure, this.#run, nowUs));
      case 'answer':
        return this.#change(afterPerson(this.#procedure, this.#run, told.said, nowUs));
      case 'answer-later':
        return this.#change(afterPostponed(this.#procedure, this.#run, nowUs));
    }
  }

  next({ nowUs, clearUs }: Gate): LineRequest | null {
    if (this.#asked) return null;
    for (;;) {
      const want = wants(this.#procedure, this.#run, nowUs);
      if (want.kind === 'wait' && want.untilUs <= nowUs) this.#change(afterAct(this.#procedure, this.#run, nowUs));
      else if (want.kind === 'withhold') {
        this.#ports.withhold(want.station);
        this.#change(afterAct(this.#procedure, this.#run, nowUs));
      } else if (want.kind === 'settings') {
        this.#ports.setEnd(want.settings);
        this.#change(afterAct(this.#procedure, this.#run, nowUs));
      } else if (want.kind !== 'request' || clearUs(want.bytes) > nowUs || this.#mustNot()) return null;
      else {
        this.#asked = true;
        const { station, bytes } = want;
        return { station, bytes, priority: 'procedure', cause: this.#cause(), ticket: 0 };
      }
    }
  }

  dueUs({ nowUs, clearUs }: Gate): number | null {
    const want = this.#asked ? null : wants(this.#procedure, this.#run, nowUs);
    switch (want?.kind) {
      case 'wait':
        return want.untilUs;
      case 'settings':
      case 'withhold':
        return nowUs;
      case 'request':
        return clearUs(want.bytes);
      default:
        return null;
    }
  }

  took(result: ExchangeResult): void {
    if (!this.#asked) return;
    this.#asked = false;
    // What ends a run may come with the answer itself, as a fault does.
    if (this.isOver() || result.outcome === 'abandoned' || result.outcome === 'closed') return;
    this.#change(afterReport(this.#procedure, this.#run, this.#ports.report(result)));
  }

  /** Text that came on a line of plain text. */
  heard(text: string): void {
    const run = afterHeard(this.#procedure, this.#run, text, this.#ports.nowUs());
    if (run !== this.#run) this.#change(run);
  }

  #cause(): string {
    const { kind, title } = this.#procedure;
    const text = stepOf(this.#procedure, this.#run)?.text ?? title;
    return kind === 'list' || kind === 'trial' ? `${CAUSES[kind]}: ${text}` : CAUSES[kind];
  }

  #mustNot(): boolean {
    const driven = this.#procedure.standsStill ? this.#ports.driven() : [];
    if (driven.length > 0)
      this.end('refused', `this bench set station ${driven.join(', ')} in motion; press Stop first`);
    return driven.length > 0;
  }

  #change(run: RunState): void {
    const { asks, phase } = this.#run;
    this.#run = run;
    this.#ports.changed(run);
    const { kind, title, station } = this.#procedure;
    // It is stopped once: a later word to a run that is over begins no Stop anew.
    const leaves =
      run.phase === 'over' ? phase !== 'over' && LEAVES_SHAFT.has(run.end) : run.asks !== '' && asks === '';
    // Whatever it came to, the shaft does not turn on because nobody thought of it.
    if (STOPS_AT_END.has(kind) && leaves && this.#ports.driven().includes(station))
      this.#ports.stop(station, `${title} ended`);
  }
}
