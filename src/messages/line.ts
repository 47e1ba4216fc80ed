import type { JobLine } from '../core/job/job';
import type { EarlierLines } from '../core/job/line-history';
import type { SerialSettings } from '../core/line/settings';
import type { Procedure } from '../core/procedure/procedure';
import type { RunState } from '../core/procedure/run-state';
import type { Sheet } from '../core/sheet/sheet';
import type { TraceEntry } from '../core/trace/entry';
import type { Disturbance } from '../standin/disturbance';
import type { Hands } from '../standin/yard-drive';
import type { IpSweepPlan, IpSweepState } from '../link/ip-sweep';
import type { Told } from '../core/places/place-link';
import type { LineLife } from '../link/line-life';
import type { LineSnapshot, ProcedureTold, SendOptions } from '../link/line-owner';
import type { PollItem } from '../link/poll-source';
import type { PortSignals } from '../link/port';
import type { ExchangeResult } from '../link/request';
import type { StationStop } from '../link/stop-run';
import type { SweepPlan } from '../link/sweep-run';

export { CALM, type Disturbance } from '../standin/disturbance';

/** A station as the line worker must know it. */
export interface StationPlan {
  readonly station: number;
  readonly sheet: Sheet | null;
  /** What its stand-in runs from where that is not the sheet that the bench has. */
  readonly standin: Sheet | null;
  /** How its stand-in leaves the factory: parameter number to raw number. */
  readonly factory: Readonly<Record<string, number>>;
}

/** Who is at the other end: drives simulated in this page, a socket through the local server, or a serial port of this machine. */
export type FarEnd =
  | { readonly kind: 'yard' }
  | { readonly kind: 'tcp'; readonly host: string; readonly port: number }
  | { readonly kind: 'serial-port' };

export interface LinePlan {
  readonly id: string;
  /** `raw` has no requests and answers: a text menu. */
  readonly protocol: Exclude<JobLine['protocol'], 'raw-tcp'> | 'raw';
  /** Of this end, or of the line behind a device server; null where there is no serial line. */
  readonly settings: SerialSettings | null;
  readonly far: FarEnd;
  /** The adapter hears what it sends. */
  readonly echo: boolean;
  /** How long an answer is waited for; null: as the sheets say. */
  readonly timeoutMs: number | null;
  readonly stations: readonly StationPlan[];
}

type OfLine<K extends string, Rest = unknown> = { readonly kind: K; readonly line: string } & Rest;

/** What the page tells the line worker. */
export type LineCommand =
  | {
      readonly kind: 'begin';
      readonly session: string;
      readonly job: string;
      readonly wallMs: number;
      readonly seed: number;
      readonly lines: readonly LinePlan[];
      /** The same lines as the job has them, kept with the session so that its trace can be read later. */
      readonly jobLines: readonly JobLine[];
    }
  /** The job's lines changed. */
  | { readonly kind: 'job-lines'; readonly lines: readonly JobLine[] }
  /** A line that is new, or that was changed in the job; it is closed by that. */
  | OfLine<'plan', { readonly plan: LinePlan }>
  | OfLine<'unplan'>
  | OfLine<'open'>
  | OfLine<'close'>
  | OfLine<
      'send',
      {
        readonly station: number;
        readonly bytes: Uint8Array;
        readonly cause: string;
        readonly ticket: number;
        readonly options?: SendOptions;
      }
    >
  | OfLine<'poll', { readonly items: readonly PollItem[] }>
  | OfLine<'stop', { readonly station: number }>
  /** A person saw the shaft stand, which no answer tells. */
  | OfLine<'seen-standing', { readonly station: number }>
  | OfLine<'procedure', { readonly procedure: Procedure; readonly id: string }>
  | OfLine<'procedure-told', { readonly id: string; readonly told: ProcedureTold }>
  /** A key or button that lets a shaft turn goes down, with what is sent then and when it is let go; the hold is said over and over. */
  | OfLine<
      'hold',
      { readonly station: number; readonly press: readonly Uint8Array[]; readonly release: readonly Uint8Array[] }
    >
  | OfLine<'held', { readonly station: number }>
  | OfLine<'let-go', { readonly station: number }>
  | OfLine<'reconfigure', { readonly settings: SerialSettings }>
  | OfLine<'echo', { readonly on: boolean }>
  | OfLine<'break', { readonly ms: number }>
  | OfLine<'signals', { readonly signals: PortSignals }>
  | OfLine<'sweep', { readonly plan: SweepPlan }>
  | OfLine<'end-sweep'>
  /** Which of the serial ports that this page may use belongs to the line, by its place in the browser's list. */
  | OfLine<'choose-port', { readonly place: number }>
  | OfLine<'disturb', { readonly disturbance: Disturbance }>
  | OfLine<'hands', { readonly station: number; readonly hands: Hands }>
  | OfLine<'power', { readonly station: number; readonly turn: 'off' | 'off-and-on' }>
  | { readonly kind: 'yard-speed'; readonly factor: number }
  | { readonly kind: 'ip-sweep'; readonly plan: IpSweepPlan }
  | { readonly kind: 'end-ip-sweep' };

/** The page has drawn the batch of this number, and is ready for the next one. */
export interface BatchDrawn {
  readonly kind: 'drawn';
  readonly number: number;
}

/** The page answers each `ping` at once: its thread is alive, and so is who looks at it. */
export interface PageHere {
  readonly kind: 'here';
}

export interface LineState extends LineSnapshot {
  readonly line: string;
  readonly life: LineLife;
}

/** A procedure on a line went on, or ended. */
export interface RunReport {
  readonly line: string;
  readonly run: RunState;
}

export interface StopReport {
  readonly line: string;
  /** What asked for it: a press, `Stop`, or what the bench saw. */
  readonly cause: string;
  readonly outcomes: readonly StationStop[];
  readonly over: boolean;
}

/** An exchange that is over, and what it told of the station's values; worked out where the bytes came in, not on the page's thread. */
export interface FinishedExchange {
  readonly line: string;
  readonly result: ExchangeResult;
  readonly learned: Told;
}

/** What happened since the last batch; at most 20 a second, none before the last one is drawn, and one each 200 ms even when nothing happened, as a sign of life. */
export interface LineBatch {
  readonly kind: 'batch';
  readonly number: number;
  /** The line clock, microseconds since the session began. */
  readonly nowUs: number;
  readonly entries: readonly TraceEntry[];
  readonly exchanges: readonly FinishedExchange[];
  readonly lines: readonly LineState[];
  readonly stops: readonly StopReport[];
  /** The newest state of each procedure that went on. */
  readonly runs: readonly RunReport[];
  /** How lines were before they were changed in this session; null where that is as it was told last. */
  readonly earlier: readonly EarlierLines[] | null;
  /** All entries up to this sequence number are committed; -1 before the first. */
  readonly keptUpTo: number;
  /** Why the trace cannot be kept just now; empty when it can. */
  readonly keepTrouble: string;
  readonly yardSpeed: number;
  /** A real link is open, so time cannot run faster than life. */
  readonly realTime: boolean;
  readonly ipSweep: IpSweepState | null;
  /** Drives of the yard whose shaft turns now, as line and station. */
  readonly turning: readonly { readonly line: string; readonly station: number }[];
}

/** What the line worker tells the page. */
export type LineNews = LineBatch | { readonly kind: 'ping' };
