/** What a person does to a page. */
const TOUCHES = ['pointerdown', 'keydown', 'input', 'wheel'] as const;

/** How a page is used, watched from one moment on. */
export interface Hands {
  /** Ends once the page was left alone for `quietMs`, and `atMostMs` after watching began in any case. */
  readonly rest: (quietMs: number, atMostMs: number) => Promise<void>;
  readonly leave: () => void;
}

/** Watches presses, keys and wheel, so that what can wait does not get into their way. */
export function watchHands(): Hands {
  const begunMs = performance.now();
  let touchedMs = begunMs;
  const touched = (): void => {
    touchedMs = performance.now();
  };
  const options = { capture: true, passive: true };
  for (const touch of TOUCHES) addEventListener(touch, touched, options);
  return {
    rest: async (quietMs, atMostMs) => {
      for (;;) {
        const until = Math.min(touchedMs + quietMs, begunMs + atMostMs);
        const leftMs = until - performance.now();
        if (leftMs <= 0) return;
        await new Promise((resolve) => setTimeout(resolve, leftMs));
      }
    },
    leave: () => {
      for (const touch of TOUCHES) removeEventListener(touch, touched, options);
    },
  };
}
