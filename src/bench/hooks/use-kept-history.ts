'use client';

import { useState } from 'react';
import { begin, change, redo, typedOn, undo, type Undoable } from '../state/undo';

/** Steps back and forth of something that is kept at once with each change. */
export interface KeptHistory<T> {
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly undo: () => void;
  readonly redo: () => void;
  /** The next step. */
  readonly put: (next: T) => void;
  /** The same, where letters typed into one field are one step. */
  readonly type: (next: T) => void;
}

/** The history of a value that `keep` keeps; false of it leaves everything as it was. Another tab's change begins a history of its own. */
export function useKeptHistory<T>(value: T, keep: (next: T) => boolean): KeptHistory<T> {
  const [kept, setHistory] = useState<Undoable<T>>(() => begin(value));
  const history = kept.present === value ? kept : begin(value);
  const show = (next: Undoable<T>): void => {
    if (next.present !== history.present && keep(next.present)) setHistory(next);
  };
  return {
    undo: () => show(undo(history)),
    redo: () => show(redo(history)),
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
    put: (next) => show(change(history, next)),
    type: (next) => show(typedOn(history, next)),
  };
}
