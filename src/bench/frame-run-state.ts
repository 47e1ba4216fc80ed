/** Frames that are sent one after the other, once or over and over; what the page shows of it. */
export interface FrameRun {
  readonly line: string;
  readonly title: string;
  readonly endless: boolean;
  readonly sent: number;
  readonly answered: number;
  readonly over: boolean;
  /** Why it ended before its end; empty otherwise. */
  readonly why: string;
}
