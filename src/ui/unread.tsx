'use client';

import { createContext, useCallback, useContext, useId, useLayoutEffect, useState, type ReactNode } from 'react';

type Say = (id: string, label: string | null) => void;

const Saying = createContext<Say>(() => undefined);

/** The fields of a form that show something else than what its acts would use. */
export interface Unread {
  /** The sentence for the acts' place; empty where every field says what is used, so that the acts may be on. */
  readonly why: string;
  readonly say: Say;
}

/** Keeps account of a form's fields; `why` is not empty while one of them shows what was not taken over. */
export function useUnread(): Unread {
  const [labels, setLabels] = useState<ReadonlyMap<string, string>>(new Map());
  const say = useCallback<Say>(
    (id, label) =>
      setLabels((before) => {
        if (before.get(id) === (label ?? undefined)) return before;
        const rest = [...before].filter(([known]) => known !== id);
        return new Map(label === null ? rest : [...rest, [id, label]]);
      }),
    [],
  );
  const named = [...labels.values()].map((label) => `“${label}”`).join(' and ');
  return {
    why:
      named === ''
        ? ''
        : `Not sent while ${named} ${labels.size > 1 ? 'show' : 'shows'} something else than what would go out.`,
    say,
  };
}

/** The form itself: fields in here tell `unread` of what they could not take over. */
export const UnreadForm = ({ unread, children }: { readonly unread: Unread; readonly children: ReactNode }) => (
  <Saying value={unread.say}>{children}</Saying>
);

/** A field's side: while `isUnread`, the acts of the form around it are off. */
export function useSayUnread(label: string, isUnread: boolean): void {
  const id = useId();
  const say = useContext(Saying);
  // Before the browser takes another key: an act must not slip in between.
  useLayoutEffect(() => {
    say(id, isUnread ? label : null);
  }, [say, id, label, isUnread]);
  useLayoutEffect(() => () => say(id, null), [say, id]);
}
