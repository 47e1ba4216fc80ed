import type { SerialSettings } from '../core/line/settings';
import type { Sheet } from '../core/sheet/sheet';
import type { TraceEntry } from '../core/trace/entry';
import type { Disturbance } from '../standin/disturbance';
import type { Hands } from '../standin/inverter';
import type { LineSnapshot } from './line-master';
import type { PollItem } from './poll-source';
import type { ExchangeResult } from './request';
import type { StationStop } from './stop-run';

/** A station as the line worker must know it. */
export interface StationPlan {
  readonly station: number;
  readonly sheet: Sheet | null;
  /** How its stand-in leaves the factory: parameter number to raw number. */
  readonly factory: Readonly<Record<string, number>>;
}

export interface LinePlan {
  readonly id: string;
  readonly settings: SerialSettings;
  readonly stations: readonly StationPlan[];
}

/** What the page tells the line worker. */
export type LineCommand =
  | {
      readonly kind: 'begin';
      readonly session: string;
      readonly job: string;
      readonly wallMs: number;
      readonly seed: number;
      readonly yard: readonly LinePlan[];
    }
  | { readonly kind: 'open'; readonly line: string }
  | { readonly kind: 'close'; readonly line: string }
  | {
      readonly kind: 'send';
      readonly line: string;
      readonly station: number;
      readonly bytes: Uint8Array;
      readonly cause: string;
      readonly ticket: number;
    }
  | { readonly kind: 'poll'; readonly line: string; readonly items: readonly PollItem[] }
  | { readonly kind: 'stop'; readonly line: string; readonly station: number }
  | { readonly kind: 'yard-speed'; readonly factor: number }
  | { readonly kind: 'disturb'; readonly line: string; readonly disturbance: Disturbance }
  | { readonly kind: 'hands'; readonly line: string; readonly station: number; readonly hands: Hands }
  | { readonly kind: 'power-cycle'; readonly line: string; readonly station: number };

/** Who has a line: nobody, this tab, or another one that this tab looks on to. */
export type Holder = 'nobody' | 'this-tab' | 'another-tab';

export interface LineState extends LineSnapshot {
  readonly line: string;
  readonly holder: Holder;
  /** Why the last attempt to open failed, or why the line went away; empty when neither. */
  readonly trouble: string;
}

export interface StopReport {
  readonly line: string;
  readonly outcomes: readonly StationStop[];
  readonly over: boolean;
}

/** What happened since the last batch; at most 20 a second, and one each 200 ms even when nothing happened, as a sign of life. */
export interface LineBatch {
  readonly number: number;
  /** The line clock, microseconds since the session began. */
  readonly nowUs: number;
  readonly entries: readonly TraceEntry[];
  readonly exchanges: readonly { readonly line: string; readonly result: ExchangeResult }[];
  readonly lines: readonly LineState[];
  readonly stops: readonly StopReport[];
  /** All entries up to this sequence number are committed; -1 before the first. */
  readonly keptUpTo: number;
  /** Why the trace cannot be kept just now; empty when it can. */
  readonly keepTrouble: string;
  readonly yardSpeed: number;
  /** Drives of the yard whose shaft turns now, as line and station. */
  readonly turning: readonly { readonly line: string; readonly station: number }[];
}
