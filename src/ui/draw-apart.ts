import type { Chart, Plugin } from 'chart.js';

const waiting = new WeakMap<Chart, ReturnType<typeof setTimeout>>();

/** Lays a chart out in one task and draws it in the next: both together hold the page for so long that a key waits for them. */
export const drawApart: Plugin<'line'> = {
  id: 'drawApart',
  beforeRender: (chart) => {
    // One that is asked for again and again is drawn all the same: the first to ask sets the time.
    if (!waiting.has(chart))
      waiting.set(
        chart,
        setTimeout(() => {
          waiting.delete(chart);
          chart.draw();
        }),
      );
    return false;
  },
  beforeDestroy: (chart) => clearTimeout(waiting.get(chart)),
};
