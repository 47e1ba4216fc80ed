import type { Page } from '@playwright/test';

/** An entry of the Layout Instability API (a draft of the W3C's community group), as far as it is read here. */
interface Shift {
  readonly hadRecentInput: boolean;
  readonly sources: readonly {
    readonly node: Node | null;
    readonly previousRect: DOMRectReadOnly;
    readonly currentRect: DOMRectReadOnly;
  }[];
}

/** What a person could press and what moved by itself within the time: its name, and by how many pixels. Rows of the trace go up as it grows; there is nothing to press in them. */
export const movedControls = (page: Page, forMs: number): Promise<readonly string[]> =>
  page.evaluate(async (ms) => {
    const CONTROLS = 'button, a, input, select, textarea, [role=tab], [role=button]';
    const moved: string[] = [];
    const observer = new PerformanceObserver((list) => {
      for (const { hadRecentInput, sources } of list.getEntries() as unknown as readonly Shift[]) {
        if (hadRecentInput) continue;
        for (const { node, previousRect, currentRect } of sources) {
          const element = node instanceof Element ? node : node?.parentElement;
          if (!element?.matches(CONTROLS) && !element?.querySelector(CONTROLS)) continue;
          const [x, y] = [currentRect.x - previousRect.x, currentRect.y - previousRect.y].map(Math.round);
          moved.push(`${element.textContent} by ${x}, ${y}`);
        }
      }
    });
    observer.observe({ type: 'layout-shift' });
    await new Promise((resolve) => setTimeout(resolve, ms));
    observer.disconnect();
    return moved;
  }, forMs);
