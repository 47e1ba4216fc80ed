import type { RestartRow } from '../core/sheet/restart';

/** One step of work that takes several exchanges. */
export interface WorkStep {
  readonly text: string;
  readonly state: 'now' | 'done' | 'failed';
}

/** Work on the link under way, or the last one: a change of both ends, or a restart that was asked for. */
export interface LinkWork {
  readonly line: string;
  readonly station: number;
  readonly title: string;
  readonly steps: readonly WorkStep[];
  readonly over: boolean;
  /** What to do when it failed; empty when it did not. */
  readonly wayBack: string;
  readonly breakMs: number | null;
  /** What a restart did to the settings; null where none was looked at. */
  readonly rows: readonly RestartRow[] | null;
}
