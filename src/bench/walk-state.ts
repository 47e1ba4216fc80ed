import type { RouteStep } from '../core/profile/route';

/** How one step of a walk went. */
export interface StepDone {
  readonly status: number;
  /** From the word's confirmation to the state, in milliseconds of the line's clock. */
  readonly ms: number;
}

/** A route that is being walked, or was. */
export interface Walk {
  readonly line: string;
  readonly station: number;
  readonly target: string;
  readonly steps: readonly RouteStep[];
  /** One for each step that led where it should. */
  readonly done: readonly StepDone[];
  readonly over: boolean;
  /** Why it ended before its end, with what was seen; empty otherwise. */
  readonly why: string;
}
