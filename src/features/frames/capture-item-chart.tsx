'use client';

import { Chart, Filler, type ChartOptions } from 'chart.js';
import { Line } from 'react-chartjs-2';
import type { WatchedItem } from '../../core/process-image/block-watch';
import '../../ui/chart-parts';
import { colour } from '../../ui/colour';
import styles from './frames.module.css';

Chart.register(Filler);

/** One item over the time of the capture: between its least and its most where many cycles are one point. */
export function ItemChart({ item: { name, series } }: { readonly item: WatchedItem }) {
  const isTimed = series.every(({ atUs }) => !Number.isNaN(atUs));
  const x = (at: number, i: number): number => (isTimed ? at / 1e6 : i);
  const soft = colour('softInk');
  const options: ChartOptions<'line'> = {
    animation: false,
    parsing: false,
    normalized: true,
    maintainAspectRatio: false,
    plugins: { legend: { display: false } },
    interaction: { mode: 'nearest', axis: 'x', intersect: false },
    scales: {
      x: {
        type: 'linear',
        ticks: { color: soft },
        title: { display: true, text: isTimed ? 'seconds of the capture' : 'cycles, laid together', color: soft },
      },
      y: { type: 'linear', ticks: { color: soft }, title: { display: true, text: name, color: soft } },
    },
  };
  const curve = { stepped: 'before' as const, pointRadius: 0, borderWidth: 1.5, borderColor: colour('copper') };
  return (
    <div className={styles.itemChart} role="img" aria-label={`${name} over the capture`}>
      <Line
        options={options}
        data={{
          datasets: [
            {
              ...curve,
              label: 'most',
              data: series.map(({ atUs, most }, i) => ({ x: x(atUs, i), y: most })),
              fill: '+1',
              backgroundColor: colour('rule'),
            },
            { ...curve, label: 'least', data: series.map(({ atUs, least }, i) => ({ x: x(atUs, i), y: least })) },
          ],
        }}
      />
    </div>
  );
}
