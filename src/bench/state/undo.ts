/** A value with its past and its future. */
export interface Undoable<T> {
  readonly past: readonly T[];
  readonly present: T;
  readonly future: readonly T[];
}

/** How many steps back are kept. */
const DEPTH = 200;

/** A history that begins with a value. */
export const begin = <T>(present: T): Undoable<T> => ({ past: [], present, future: [] });

/** The next step; what was undone is forgotten. */
export const change = <T>({ past, present }: Undoable<T>, next: T): Undoable<T> => ({
  past: [...past.slice(-(DEPTH - 1)), present],
  present: next,
  future: [],
});

/**
 * The one leaf in which two plain values differ, as a path; null where they differ in more, in their shape, or not at all. Letters typed into
 * one field are one step back.
 */
export function changedLeaf(before: unknown, after: unknown, path = ''): string | null {
  if (before === after) return null;
  const isBranch = typeof before === 'object' && typeof after === 'object' && before !== null && after !== null;
  if (!isBranch) return path;
  const [old, fresh] = [Object.entries(before), new Map<string, unknown>(Object.entries(after))];
  if (old.length !== fresh.size) return null;
  const changed = old.filter(([key, value]) => fresh.get(key) !== value);
  const [[key, value] = ['', null]] = changed;
  return changed.length === 1 && fresh.has(key) ? changedLeaf(value, fresh.get(key), `${path}.${key}`) : null;
}

/** The same step again where the same leaf is typed on. */
export function typedOn<T>(history: Undoable<T>, next: T): Undoable<T> {
  const before = history.past[history.past.length - 1];
  const leaf = changedLeaf(history.present, next);
  const goesOn =
    before !== undefined &&
    history.future.length === 0 &&
    leaf !== null &&
    leaf === changedLeaf(before, history.present);
  return goesOn ? { ...history, present: next } : change(history, next);
}

/** One step back; the same where there is none. */
export function undo<T>(history: Undoable<T>): Undoable<T> {
  const before = history.past[history.past.length - 1];
  if (before === undefined) return history;
  return { past: history.past.slice(0, -1), present: before, future: [history.present, ...history.future] };
}

/** One step forward again; the same where there is none. */
export function redo<T>(history: Undoable<T>): Undoable<T> {
  const [after, ...future] = history.future;
  if (after === undefined) return history;
  return { past: [...history.past, history.present], present: after, future };
}
