import { useCallback, useLayoutEffect, useRef } from 'react';

/** An act that is one and the same function for as long as its component is there, and does what the last drawing said: what takes it need not be drawn anew. */
export function useSteady<Told extends readonly unknown[]>(act: (...told: Told) => void): (...told: Told) => void {
  const latest = useRef(act);
  useLayoutEffect(() => {
    latest.current = act;
  });
  return useCallback((...told: Told) => latest.current(...told), []);
}
