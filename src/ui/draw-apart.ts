import type { Chart, ChartType, Plugin } from 'chart.js';

interface DrawApart {
  /** Called when what was laid out anew is drawn, and not when a hand only moves over it. */
  readonly drawn: () => void;
}

declare module 'chart.js' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the parameter must stand as Chart.js declares it
  interface PluginOptionsByType<TType extends ChartType> {
    drawApart?: DrawApart;
  }
}

/** What one chart waits for: a timer for each of its two tasks, whether it is laid out just now, and whether what is laid out is not drawn yet. */
interface Turns {
  update: ReturnType<typeof setTimeout> | null;
  draw: ReturnType<typeof setTimeout> | null;
  isUpdating: boolean;
  isNew: boolean;
}

const turns = new WeakMap<Chart, Turns>();

function turnsOf(chart: Chart): Turns {
  const known = turns.get(chart) ?? { update: null, draw: null, isUpdating: false, isNew: false };
  turns.set(chart, known);
  return known;
}

/**
 * Lays a chart out in a task of its own and draws it in the next. Where it is asked for, a key may be waiting: what a view does after it was drawn is done
 * before the key is answered. One that is asked for again and again is drawn all the same: the first to ask sets the time.
 */
export const drawApart: Plugin<'line', Partial<DrawApart>> = {
  id: 'drawApart',
  beforeUpdate: (chart, { mode }) => {
    const own = turnsOf(chart);
    // What has a mode is the chart's own: a hand that drags reckons from what it moved last. And the first time nothing is there that could stay meanwhile.
    if (own.isUpdating || mode !== undefined || chart.chartArea === undefined) return true;
    own.update ??= setTimeout(() => {
      own.update = null;
      own.isUpdating = true;
      try {
        chart.update();
      } finally {
        own.isUpdating = false;
      }
    });
    return false;
  },
  afterUpdate: (chart) => {
    turnsOf(chart).isNew = true;
  },
  beforeRender: (chart, _args, { drawn }) => {
    const own = turnsOf(chart);
    own.draw ??= setTimeout(() => {
      own.draw = null;
      chart.draw();
      if (own.isNew) drawn?.();
      own.isNew = false;
    });
    return false;
  },
  beforeDestroy: (chart) => {
    const { update, draw } = turnsOf(chart);
    if (update !== null) clearTimeout(update);
    if (draw !== null) clearTimeout(draw);
  },
};
