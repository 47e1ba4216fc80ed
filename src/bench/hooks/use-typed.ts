'use client';

import { useBench, useDrafts } from '../bench-context';

/** Text of a form's field that outlives the view, with what it begins as. */
export function useTyped(form: string, field: string, first: string): readonly [string, (text: string) => void] {
  const key = `${form} ${field}`;
  const text = useDrafts((drafts) => drafts.typed.get(key)) ?? first;
  const bench = useBench();
  return [text, (next) => bench.drafts.getState().setTyped(key, next)];
}
