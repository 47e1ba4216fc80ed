import { useMemo } from 'react';

/** The same object as long as it says the same, for data that JSON can carry. */
export function useSame<T>(value: T): T {
  const text = JSON.stringify(value);
  return useMemo(() => JSON.parse(text) as T, [text]);
}
