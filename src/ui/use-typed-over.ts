'use client';

import { useState } from 'react';

/**
 * The text of an entry that shows what the bytes say while something else may be half typed. What is typed stands as long as the bytes say what
 * they said when it was typed, or what it means itself; after an undo, a paste or another edit the entry shows the bytes again, so that it
 * never contradicts them. The third value is whether the entry says what the bytes say: where it does not, what would be sent is not what is
 * shown.
 */
export function useTypedOver(
  shown: string,
  means: (text: string) => string | null,
): readonly [string, (text: string) => void, boolean] {
  const [typed, setTyped] = useState<{ readonly text: string; readonly over: string } | null>(null);
  const meant = typed === null ? shown : means(typed.text);
  const stands = typed !== null && (typed.over === shown || meant === shown);
  return [stands ? typed.text : shown, (text) => setTyped({ text, over: shown }), !stands || meant === shown];
}
