/** Format of a job's file and record. */
export const JOB_FORMAT = 1;

/** Time-outs that a user may set, in ms: shorter than any reply, or longer than any drive thinks, is a slip. */
export const TIMEOUT_MS = { least: 10, most: 10_000 } as const;

export const MOST_LINES = 100;
/** More frames than this are a capture, not a list that one keeps. */
export const MOST_FRAMES = 2000;
export const MOST_TRIALS = 200;
export const MOST_BLOCKS = 100;
