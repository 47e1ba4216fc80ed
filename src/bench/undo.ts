/** A value with its past and its future. */
export interface Undoable<T> {
  readonly past: readonly T[];
  readonly present: T;
  readonly future: readonly T[];
}

/** How many steps back are kept. */
const DEPTH = 200;

export const begin = <T>(present: T): Undoable<T> => ({ past: [], present, future: [] });

export const change = <T>({ past, present }: Undoable<T>, next: T): Undoable<T> => ({
  past: [...past.slice(-(DEPTH - 1)), present],
  present: next,
  future: [],
});

export function undo<T>(history: Undoable<T>): Undoable<T> {
  const before = history.past[history.past.length - 1];
  if (before === undefined) return history;
  return { past: history.past.slice(0, -1), present: before, future: [history.present, ...history.future] };
}

export function redo<T>(history: Undoable<T>): Undoable<T> {
  const [after, ...future] = history.future;
  if (after === undefined) return history;
  return { past: [...history.past, history.present], present: after, future };
}
