import type { CapturePlan } from '../core/capture/capture-plan';
import type { FrameFilter } from '../core/capture/frame-filter';
import type { Round } from '../core/capture/rounds';
import type { Statistics } from '../core/capture/statistics';
import type { WatchedBlock } from '../core/process-image/block-watch';
import type { ImageItem, ImageOrder } from '../core/process-image/image';
import type { Guess } from '../core/unknown/rank';
import type { Dialect } from '../core/dialect/dialect';

/** What the page asks of the frames worker, which holds one opened capture. */
export type FramesQuestion =
  | { readonly kind: 'open'; readonly file: File; readonly plan: CapturePlan }
  | { readonly kind: 'close' }
  /** Reading waits where it is, or goes on from there. */
  | { readonly kind: 'hold'; readonly held: boolean }
  /** The first lines of a text file, for the choice of its columns. */
  | { readonly kind: 'sample'; readonly ask: number; readonly file: File }
  /** A new filter, with the next number, ends the one before. */
  | { readonly kind: 'filter'; readonly number: number; readonly filter: FrameFilter; readonly text: string }
  | { readonly kind: 'rows'; readonly ask: number; readonly from: number; readonly count: number }
  /** What goes round in the capture. */
  | { readonly kind: 'rounds'; readonly ask: number }
  /** What one of them carries, one way, by the items of a block; by its words where there are none. A new one ends the one before. */
  | {
      readonly kind: 'watch';
      readonly ask: number;
      readonly round: Round;
      readonly way: 'out' | 'in';
      readonly layout: { readonly items: readonly ImageItem[]; readonly order: ImageOrder } | null;
    }
  | { readonly kind: 'export'; readonly form: 'pcapng' | 'csv' | 'jsonl' }
  | { readonly kind: 'rank'; readonly ask: number; readonly bytes: Uint8Array; readonly dialects: readonly Dialect[] };

/** One row of the list as it is shown. */
export interface CaptureRow {
  /** Place in the capture, from 0. */
  readonly place: number;
  readonly timeUs: number;
  readonly direction: 'request' | 'response' | 'junk';
  readonly unit: number;
  /** It came over a TCP connection of a packet file. */
  readonly tcp: boolean;
  readonly hex: string;
  readonly bytes: Uint8Array;
  readonly text: string;
  readonly fault: boolean;
  readonly exception: boolean;
  readonly unanswered: boolean;
  /** Delay after its request, NaN where it has none. */
  readonly delayUs: number;
  /** Bytes of the request that a response answers. */
  readonly request: Uint8Array | null;
}

export type FramesAnswer =
  | { readonly kind: 'progress'; readonly read: number; readonly size: number }
  | {
      readonly kind: 'opened';
      readonly statistics: Statistics;
      readonly frames: number;
      readonly notes: readonly string[];
      readonly ms: number;
    }
  | {
      readonly kind: 'sample';
      readonly ask: number;
      readonly lines: readonly string[];
      readonly packets: boolean;
      readonly printable: boolean;
    }
  /** How many frames the filter lets through by now; `over` when it has gone through all. */
  | {
      readonly kind: 'filtered';
      readonly number: number;
      readonly count: number;
      readonly looked: number;
      readonly over: boolean;
    }
  | { readonly kind: 'rows'; readonly ask: number; readonly from: number; readonly rows: readonly CaptureRow[] }
  | { readonly kind: 'rounds'; readonly ask: number; readonly rounds: readonly Round[] }
  /** `bytes`: how many go round, and the last of them; null where nothing goes that way. */
  | { readonly kind: 'watched'; readonly ask: number; readonly bytes: Uint8Array | null; readonly told: WatchedBlock }
  | { readonly kind: 'file'; readonly blob: Blob; readonly ending: string; readonly frames: number }
  | { readonly kind: 'ranked'; readonly ask: number; readonly guesses: readonly Guess[] }
  | { readonly kind: 'trouble'; readonly text: string };
