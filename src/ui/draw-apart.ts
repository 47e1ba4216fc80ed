import type { Chart, Plugin } from 'chart.js';

const waiting = new WeakMap<Chart, ReturnType<typeof setTimeout>>();

/** Lays a chart out in one task and draws it in the next: both together hold the page for so long that a key waits for them. */
export const drawApart: Plugin<'line'> = {
  id: 'drawApart',
  beforeRender: (chart) => {
    clearTimeout(waiting.get(chart));
    const timer = setTimeout(() => chart.draw());
    waiting.set(chart, timer);
    return false;
  },
  beforeDestroy: (chart) => clearTimeout(waiting.get(chart)),
};
