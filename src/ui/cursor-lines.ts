import type { ChartType, Plugin } from 'chart.js';
import type { Cursors } from './chart-cursors';
import { colour } from './colour';

declare module 'chart.js' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the parameter must stand as Chart.js declares it
  interface PluginOptionsByType<TType extends ChartType> {
    cursorLines?: { readonly cursors: Cursors | null };
  }
}

/** Lines where the user set a cursor, with their letters in the order of time. */
export const cursorLines: Plugin<'line', { cursors?: Cursors | null }> = {
  id: 'cursorLines',
  afterDatasetsDraw: ({ ctx, chartArea, scales }, _args, { cursors }) => {
    const { x } = scales;
    if (!x || !cursors) return;
    ctx.save();
    ctx.strokeStyle = ctx.fillStyle = colour('ink');
    for (const [i, cursor] of cursors.entries()) {
      const at = x.getPixelForValue(cursor);
      if (at < chartArea.left || at > chartArea.right) continue;
      ctx.beginPath();
      ctx.moveTo(at, chartArea.top);
      ctx.lineTo(at, chartArea.bottom);
      ctx.stroke();
      ctx.fillText(i === 0 ? 'A' : 'B', at + 3, chartArea.top + 20);
    }
    ctx.restore();
  },
};
