'use client';

import {
  Chart,
  Decimation,
  Filler,
  LinearScale,
  LineElement,
  PointElement,
  Tooltip,
  type ChartOptions,
} from 'chart.js';
import { useRef } from 'react';
import { Line } from 'react-chartjs-2';
import Button from '@mui/material/Button';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import type { Band, Sample } from '../../core/trial/expect';
import { Panel } from '../../ui/panel';
import styles from './trials.module.css';

Chart.register(LinearScale, LineElement, PointElement, Tooltip, Filler, Decimation);

const token = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--bujo-palette-bench-${name}`);

interface BandChartProps {
  readonly name: string;
  readonly band: Band;
  /** In seconds from the run's begin. */
  readonly samples: readonly Sample[];
  /** The same trial run before, laid under it; null: none. */
  readonly other: readonly Sample[] | null;
  /** In words, where the line left the band or that it did not. */
  readonly said: string;
}

/** The expected speed or position as a band over time, drawn before the run; the run is laid into it. */
export function BandChart({ name, band, samples, other, said }: BandChartProps) {
  const chart = useRef<Chart<'line', { x: number; y: number }[]>>(null);
  const edge = { order: 2, borderColor: token('rule'), borderWidth: 1, pointRadius: 0, tension: 0 };
  const soft = token('softInk');
  const options: ChartOptions<'line'> = {
    animation: false,
    parsing: false,
    normalized: true,
    maintainAspectRatio: false,
    plugins: {
      legend: { display: false },
      // An hour of samples is drawn as what the eye can tell apart.
      decimation: { enabled: true, algorithm: 'lttb', samples: 600, threshold: 2000 },
      tooltip: { filter: ({ datasetIndex }) => datasetIndex > 1 },
    },
    interaction: { mode: 'nearest', axis: 'x', intersect: false },
    scales: {
      x: {
        type: 'linear',
        min: 0,
        ticks: { color: soft },
        title: { display: true, text: 'seconds from its begin', color: soft },
      },
      y: {
        type: 'linear',
        ticks: { color: soft },
        title: { display: true, text: `${band.of}, ${band.unit}`, color: soft },
      },
    },
  };
  const save = (): void => chart.current?.canvas.toBlob((image) => image && saveFile(image, fileName(name, 'png')));
  return (
    <Panel
      title="Expected, and what came"
      aside={said}
      tools={
        <Button variant="text" color="inherit" onClick={save}>
          Save as PNG
        </Button>
      }
    >
      <div className={styles.plot}>
        <Line
          ref={chart}
          role="img"
          aria-label={`The band in which the ${band.of} of ${name} is expected, and the line that came: ${said}`}
          options={options}
          data={{
            datasets: [
              { ...edge, data: band.points.map(({ x, low }) => ({ x, y: low })) },
              {
                ...edge,
                data: band.points.map(({ x, high }) => ({ x, y: high })),
                fill: '-1',
                backgroundColor: token('grid'),
              },
              {
                order: 0,
                label: 'this run',
                data: [...samples],
                borderColor: token('verdigris'),
                borderWidth: 2,
                pointRadius: 0,
              },
              ...(other
                ? [
                    {
                      order: 1,
                      label: 'the run before',
                      data: [...other],
                      borderColor: token('ink'),
                      borderDash: [4, 4],
                      borderWidth: 1.5,
                      pointRadius: 0,
                    },
                  ]
                : []),
            ],
          }}
        />
      </div>
    </Panel>
  );
}
