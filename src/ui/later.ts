import { startTransition, useEffect, useState, type ReactNode } from 'react';

/** Each exchange on a line begins anew what React does by the way: on a busy one it may not come to an end, and is waited for so long. */
const LATEST_MS = 300;

/** A value as it was when the page was drawn before; `first` until then. What hangs on it is worked out and drawn bit by bit, after what it came from is there. */
export function useLater<T>(value: T, first: T): T {
  const [later, setLater] = useState({ value: first });
  useEffect(() => {
    if (Object.is(later.value, value)) return;
    const take = (): void => setLater({ value });
    startTransition(take);
    const timer = setTimeout(take, LATEST_MS);
    return () => clearTimeout(timer);
  }, [later, value]);
  return later.value;
}

/** A part of a view that comes after the others: none has to wait for all. */
export const Later = ({ children }: { readonly children: ReactNode }): ReactNode =>
  useLater(true, false) ? children : null;
