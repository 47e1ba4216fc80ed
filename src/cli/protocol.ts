/** What a verb answers beside `ok`. */
export type Answer = Readonly<Record<string, unknown>>;

/** A line that could not be understood; the run goes on with the next one. */
export class BadLine extends Error {
  readonly code: string;

  constructor(code: string, text: string) {
    super(text);
    this.code = code;
  }
}

/** A verb: what it is for, and how one input line becomes one answer. Throws `BadLine`. */
export interface Verb {
  readonly help: string;
  readonly example: string;
  readonly run: (input: unknown) => Answer;
}
