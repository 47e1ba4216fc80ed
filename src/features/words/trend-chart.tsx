'use client';

import Button from '@mui/material/Button';
import { Chart, Legend, type ChartDataset, type ChartOptions, type Scale } from 'chart.js';
import zoom from 'chartjs-plugin-zoom';
import { useState } from 'react';
import { Line } from 'react-chartjs-2';
import { valueAt } from '../../core/trace/track';
import type { Trend } from '../../core/trace/trend';
import { ChartCursors, withCursor, type Cursors, type Curve, type Shown } from '../../ui/chart-cursors';
import '../../ui/chart-parts';
import { colour } from '../../ui/colour';
import { cursorLines } from '../../ui/cursor-lines';
import { drawApart } from '../../ui/draw-apart';
import { clockText } from '../../ui/format';
import { bitRows, sendMarks, widened } from './trend-plugins';
import styles from './words.module.css';

Chart.register(Legend, zoom);

/** Seconds that are shown while the chart follows the present. */
const WINDOW_S = 30;
/** Pixels for the longest name of a bit. */
const NAMES_WIDTH = 124;

interface TrendChartProps {
  readonly trend: Trend;
  readonly unit: string;
  readonly currentUnit: string;
  readonly startMs: number;
  readonly onDrawn: () => void;
}

const PLUGINS = [drawApart, sendMarks, bitRows, cursorLines];

/** The curves that have numbers. */
function datasetsOf({ reference, actual, current }: Trend): ChartDataset<'line', { x: number; y: number | null }[]>[] {
  const speed = { yAxisID: 'speed', pointRadius: 0, borderWidth: 2, spanGaps: false };
  return [
    {
      ...speed,
      label: '▸ reference',
      data: [...reference],
      borderColor: colour('copper'),
      borderDash: [6, 4],
      stepped: 'before',
    },
    { ...speed, label: '◂ actual', data: [...actual], borderColor: colour('verdigris') },
    ...(current.length > 0
      ? [
          {
            ...speed,
            yAxisID: 'current',
            label: '◂ current',
            data: [...current],
            borderColor: colour('ink'),
            borderWidth: 1.5,
          },
        ]
      : []),
  ];
}

function optionsOf(
  { bits, sent, current }: Trend,
  unit: string,
  currentUnit: string,
  startMs: number,
  range: Shown,
  hold: (range: Shown) => void,
  cursors: Cursors | null,
  /** Null while a press sets no cursor. */
  onCursor: ((x: number) => void) | null,
  drawn: () => void,
): ChartOptions<'line'> {
  const grid = { color: colour('grid') };
  const touched = ({ chart }: { chart: Chart }): boolean => {
    const { x } = chart.scales;
    if (x) hold({ min: x.min, max: x.max });
    return true;
  };
  // More axes in a stack get less room each than the names of bits take.
  const fitted = (axis: Scale): void => {
    axis.width = Math.max(axis.width, NAMES_WIDTH);
  };
  const soft = colour('softInk');
  return {
    onClick: ({ x: pixel }, _, { scales: { x } }) => {
      const at = x && pixel !== null ? x.getValueForPixel(pixel) : undefined;
      if (at !== undefined) onCursor?.(at);
    },
    animation: false,
    parsing: false,
    normalized: true,
    maintainAspectRatio: false,
    interaction: { mode: 'nearest', axis: 'x', intersect: false },
    scales: {
      x: {
        type: 'linear',
        ...range,
        grid,
        ticks: {
          color: soft,
          maxTicksLimit: 5,
          maxRotation: 0,
          // Times of day are all as wide.
          sampleSize: 1,
          callback: (value) => clockText(startMs + Number(value) * 1000).slice(0, 8),
        },
      },
      bits: {
        type: 'linear',
        position: 'left',
        stack: 'all',
        stackWeight: 4,
        min: -0.3,
        max: bits.length,
        grid: { display: false },
        afterFit: fitted,
        // Names and levels of the rows are drawn by themselves.
        afterBuildTicks: (axis) => {
          axis.ticks = [];
        },
      },
      speed: {
        type: 'linear',
        position: 'left',
        stack: 'all',
        stackWeight: 3,
        grace: '8%',
        grid,
        title: { display: true, text: unit, color: soft },
        ticks: { color: soft },
        afterDataLimits: widened,
        afterFit: fitted,
        // The axis above begins where this one ends.
        afterBuildTicks: (axis) => {
          if (current.length > 0) axis.ticks = axis.ticks.slice(0, -1);
        },
      },
      ...(current.length > 0
        ? {
            current: {
              type: 'linear',
              position: 'left',
              stack: 'all',
              stackWeight: 2,
              beginAtZero: true,
              grace: '8%',
              grid,
              title: { display: true, text: currentUnit, color: soft },
              ticks: { color: soft, maxTicksLimit: 4 },
              afterFit: fitted,
            } as const,
          }
        : {}),
    },
    plugins: {
      legend: { labels: { color: colour('ink'), boxHeight: 1 } },
      tooltip: {
        callbacks: { title: ([item]) => (item ? clockText(startMs + (item.parsed.x ?? 0) * 1000) : '') },
      },
      drawApart: { drawn },
      sendMarks: { marks: Float64Array.from(sent, ({ x }) => x) },
      bitRows: { rows: new Map(bits.map((row) => [row.bit, row])) },
      cursorLines: { cursors },
      zoom: {
        pan: { enabled: true, mode: 'x', onPanComplete: touched },
        zoom: { wheel: { enabled: true }, pinch: { enabled: true }, mode: 'x', onZoomComplete: touched },
      },
    },
  };
}

/** The curves that have numbers, as a cursor reads them. */
const curvesOf = ({ reference, actual, current }: Trend, unit: string, currentUnit: string): readonly Curve[] => [
  { name: 'reference', unit, at: (second) => valueAt(reference, second) },
  { name: 'actual', unit, at: (second) => valueAt(actual, second) },
  ...(current.length > 0
    ? [{ name: 'current', unit: currentUnit, at: (second: number) => valueAt(current, second) }]
    : []),
];

/** Follows the present until somebody zooms or pans; a press goes back to following. */
export function TrendChart({ trend, unit, currentUnit, startMs, onDrawn }: TrendChartProps) {
  const [held, setHeld] = useState<Shown | null>(null);
  const [cursors, setCursors] = useState<Cursors | null>(null);
  const onCursor = cursors ? (x: number): void => setCursors((now) => now && withCursor(now, x)) : null;
  const follow: Shown = { min: Math.max(0, trend.endS - WINDOW_S), max: Math.max(WINDOW_S, trend.endS) };
  const shown = held ?? follow;
  const { thinned } = trend;
  return (
    <>
      <div className={styles.chart}>
        <Line
          data={{ datasets: datasetsOf(trend) }}
          options={optionsOf(trend, unit, currentUnit, startMs, shown, setHeld, cursors, onCursor, onDrawn)}
          plugins={PLUGINS}
          aria-label="Reference, actual speed and current over time, with the status bits"
          role="img"
        />
      </div>
      <Button variant="outlined" color="inherit" disabled={held === null} onClick={() => setHeld(null)}>
        {held ? 'Follow the present again' : 'Following the present'}
      </Button>{' '}
      {thinned && (
        <span>
          Before {clockText(startMs + thinned.beforeS * 1000).slice(0, 8)}: highest and lowest only, of up to{' '}
          {Number(thinned.eachS.toPrecision(2))} s each{' '}
        </span>
      )}
      <ChartCursors
        curves={curvesOf(trend, unit, currentUnit)}
        cursors={cursors}
        onCursors={setCursors}
        shown={shown}
        onShow={setHeld}
        timeText={(second) => clockText(startMs + second * 1000)}
      />
    </>
  );
}
