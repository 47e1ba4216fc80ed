'use client';

import { useEffect, useRef } from 'react';

/** A key with its modifiers: `Ctrl+.`, `Ctrl+Enter`, `t`, `1`. A bare key works only while nobody is typing. */
export type KeyMap = Readonly<Record<string, () => void>>;

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.closest('[data-takes-keys]') !== null);

/** Works whatever is open or typed: the way out must never be behind a dialog. */
const ALWAYS = 'Ctrl+.';

/**
 * Listens on the whole page. A held key acts once, and while a dialog is open only Stop acts: nothing is sent from behind it.
 * The map may change with each render; the listener does not.
 */
export function useKeys(keys: KeyMap): void {
  const current = useRef(keys);
  useEffect(() => {
    current.current = keys;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const ctrl = event.ctrlKey || event.metaKey;
      if (event.altKey || (!ctrl && isTyping(event.target))) return;
      const name = `${ctrl ? 'Ctrl+' : ''}${event.key}`;
      const action = current.current[name];
      if (!action || (name !== ALWAYS && document.querySelector('[role="dialog"]') !== null)) return;
      event.preventDefault();
      if (!event.repeat) action();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
