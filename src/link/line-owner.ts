import type { SerialSettings } from '../core/line/settings';
import type { Trouble } from '../core/line/trouble';
import type { Procedure } from '../core/procedure/procedure';
import type { RunState } from '../core/procedure/run-state';
import type { EntryDraft } from './exchanger';
import type { KeepAlive } from './keep-alive-source';
import type { PollItem } from './poll-source';
import type { PortSignals } from './port';
import type { ExchangeResult } from './request';
import type { StationStop } from './stop-run';
import type { SweepPlan, SweepState } from './sweep-run';

/** What a line tells its host. */
export interface LineListener {
  entry(entry: EntryDraft): void;
  exchange(result: ExchangeResult): void;
  /** Open, polling, keep-alives, a sweep or the stop run changed. */
  changed(): void;
  /** How a Stop goes; `cause` is what asked for it. */
  stop(outcomes: readonly StationStop[], over: boolean, cause: string): void;
  /** A procedure on this line went on, or ended. */
  procedure(run: RunState): void;
  closed(why: Trouble): void;
}

/** Why a run word is not repeated any more; it stays until the next one is sent. */
export interface KeepAliveEnd {
  readonly station: number;
  readonly why: string;
  /** Line clock, microseconds. */
  readonly atUs: number;
}

export interface SendOptions {
  /** The bytes go out as they are, and carry nothing along that was sent before. */
  readonly asTyped?: boolean;
  /** One of many that follow each other by themselves: presses go before it, and what is watched comes to its turn between two of them. */
  readonly yields?: boolean;
}

/** What a person tells a procedure that runs. */
export type ProcedureTold =
  | { readonly kind: 'end' }
  | { readonly kind: 'pause' }
  | { readonly kind: 'resume' }
  /** The step that did not come as it should is done once more. */
  | { readonly kind: 'again' }
  | { readonly kind: 'answer'; readonly said: string }
  /** The question is answered when the run is over. */
  | { readonly kind: 'answer-later' };

export interface LineSnapshot {
  readonly open: boolean;
  /** Stations that are read over and over now. */
  readonly polled: readonly number[];
  readonly keepAlives: readonly KeepAlive[];
  /** Run words that were kept alive and are not any more, with the reason. */
  readonly ended: readonly KeepAliveEnd[];
  /** The drive in motion whose words a cycle repeats; null where there is none. */
  readonly cycled: number | null;
  /** The station of a procedure that gives orders and is not over, whatever of them went out yet: it must not go on behind a Stop. */
  readonly ordered: number | null;
  /** Stations that got a run word or a reference from this bench since the line opened. */
  readonly driven: readonly number[];
  readonly stopping: readonly number[];
  /** The last sweep on this line, running or not; null before the first. */
  readonly sweep: SweepState | null;
  /** Modem lines as the port reports them; empty where it has none. */
  readonly signals: PortSignals;
}

export const QUIET: LineSnapshot = {
  open: false,
  polled: [],
  keepAlives: [],
  ended: [],
  cycled: null,
  ordered: null,
  driven: [],
  stopping: [],
  sweep: null,
  signals: {},
};

/** The owner of one line, whatever it speaks. Opening sends nothing. */
export interface LineOwner {
  snapshot(): LineSnapshot;
  /** Opens the port; tells why where it could not be. */
  open(): Promise<Trouble | null>;
  close(): Promise<void>;
  send(station: number, bytes: Uint8Array, cause: string, ticket: number, options?: SendOptions): void;
  startProcedure(procedure: Procedure, id: string): void;
  tellProcedure(id: string, told: ProcedureTold): void;
  setPoll(items: readonly PollItem[]): void;
  /** Stops what this bench set in motion; `cause` names what asked for it, where that was no press of Stop. */
  stop(current: number, cause?: string): void;
  /** A person saw this station's shaft stand. */
  seenStanding(station: number): void;
  /** The clock jumped: what was due is dropped, and nothing is sent until `awoke`. */
  fellAsleep(seconds: number): void;
  awoke(): void;
  /** New settings for this end; a sweep or an exchange under way ends first. */
  reconfigure(settings: SerialSettings): void;
  /** Holds the line low for so many milliseconds. */
  sendBreak(ms: number): void;
  setSignals(signals: PortSignals): void;
  /** Whether the adapter hears what it sends, so that this is left out of what comes. */
  setEcho(hasEcho: boolean): void;
  startSweep(plan: SweepPlan): void;
  endSweep(): void;
}
