import { startTransition, useEffect, useState } from 'react';

/** Parts of a view that come one after the other, so that none has to be waited for with the others: how many are there by now. */
export function useTurns(parts: number): number {
  const [there, setThere] = useState(0);
  useEffect(() => {
    if (there < parts) startTransition(() => setThere(there + 1));
  }, [there, parts]);
  return there;
}
