'use client';

import Button from '@mui/material/Button';
import { useCallback, useEffect, useRef, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';

interface HoldButtonProps {
  readonly children: ReactNode;
  readonly disabled?: boolean;
  readonly onHold: () => void;
  /** Called over and over while it is held, as long as the page's thread is alive. */
  readonly onHeld?: () => void;
  /** Called once for each `onHold`, however the hold ends: released, left, cancelled, the window without focus, the page hidden or gone. */
  readonly onRelease: () => void;
}

/** Well within the time after which a hold counts as let go. */
const RENEW_MS = 75;

const KEYS: ReadonlySet<string> = new Set([' ', 'Enter']);

/** A button that acts only while it is held down, with pointer or key. */
export function HoldButton({ children, disabled = false, onHold, onHeld, onRelease }: HoldButtonProps) {
  const held = useRef(false);
  const release = useRef(onRelease);
  const renew = useRef(onHeld);
  const timer = useRef<ReturnType<typeof setInterval> | undefined>(undefined);
  useEffect(() => {
    release.current = onRelease;
    renew.current = onHeld;
  }, [onRelease, onHeld]);
  const end = useCallback(() => {
    if (!held.current) return;
    held.current = false;
    clearInterval(timer.current);
    release.current();
  }, []);
  useEffect(() => {
    const hidden = (): void => {
      if (document.hidden) end();
    };
    window.addEventListener('blur', end);
    document.addEventListener('visibilitychange', hidden);
    window.addEventListener('pagehide', end);
    return () => {
      window.removeEventListener('blur', end);
      document.removeEventListener('visibilitychange', hidden);
      window.removeEventListener('pagehide', end);
      end();
    };
  }, [end]);
  useEffect(() => {
    if (disabled) end();
  }, [disabled, end]);
  const begin = (): void => {
    if (held.current || disabled) return;
    held.current = true;
    onHold();
    timer.current = setInterval(() => renew.current?.(), RENEW_MS);
  };
  const press = (event: KeyboardEvent): void => {
    if (!KEYS.has(event.key)) return;
    event.preventDefault();
    if (!event.repeat) begin();
  };
  return (
    <Button
      variant="outlined"
      color="primary"
      disabled={disabled}
      onPointerDown={(event: PointerEvent) => {
        if (event.button !== 0) return;
        // What the hold sets in motion may move this button from under the pointer; its release must come here all the same.
        event.currentTarget.setPointerCapture(event.pointerId);
        begin();
      }}
      onPointerUp={end}
      onLostPointerCapture={end}
      onPointerCancel={end}
      onBlur={end}
      onContextMenu={(event) => event.preventDefault()}
      onKeyDown={press}
      onKeyUp={(event) => KEYS.has(event.key) && end()}
      sx={{ touchAction: 'none' }}
    >
      {children}
    </Button>
  );
}
