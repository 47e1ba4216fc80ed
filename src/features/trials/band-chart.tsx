'use client';

import { Chart, Filler, type ChartOptions } from 'chart.js';
import zoom from 'chartjs-plugin-zoom';
import { useMemo, useRef, useState } from 'react';
import { Line } from 'react-chartjs-2';
import Button from '@mui/material/Button';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { bandAt, edgesOf, type Band } from '../../core/trial/expect';
import { lastSecond, seenAt, thinned, type SeenLine } from '../../core/trial/seen-line';
import { ChartCursors, withCursor, type Cursors, type Curve, type Shown } from '../../ui/chart-cursors';
import '../../ui/chart-parts';
import { colour } from '../../ui/colour';
import { cursorLines } from '../../ui/cursor-lines';
import { Panel } from '../../ui/panel';
import styles from './trials.module.css';

Chart.register(Filler, zoom);

/** So many points show all that a line of two pixels can in a picture of a thousand: the lowest and the highest of each two. */
const MOST_POINTS = 1000;

export interface BandChartProps {
  readonly name: string;
  readonly band: Band;
  /** In seconds from the run's begin. */
  readonly samples: SeenLine;
  /** Another run of the same trial, laid under it, and which; null: none. */
  readonly other: { readonly line: SeenLine; readonly name: string } | null;
  /** The seconds that are looked at; null: the whole run. */
  readonly held: Shown | null;
  readonly onHeld: (shown: Shown | null) => void;
  /** In words, where the line left the band or that it did not. */
  readonly said: string;
}

const secondText = (second: number): string => `${second.toFixed(2)} s`;

/** What a cursor reads: the edges of the band and the runs. */
const curvesOf = ({ band, samples, other }: Pick<BandChartProps, 'band' | 'samples' | 'other'>): readonly Curve[] => [
  { name: 'expected at least', unit: band.unit, at: (second) => bandAt(band, second)?.low ?? null },
  { name: 'expected at most', unit: band.unit, at: (second) => bandAt(band, second)?.high ?? null },
  { name: 'this run', unit: band.unit, at: (second) => seenAt(samples, second) },
  ...(other ? [{ name: other.name, unit: band.unit, at: (second: number) => seenAt(other.line, second) }] : []),
];

/** The expected speed or position as a band over time, drawn before the run; the run is laid into it. */
export function BandChart({ name, band, samples, other, said, held, onHeld }: BandChartProps) {
  const chart = useRef<Chart<'line', { x: number; y: number }[]>>(null);
  const [cursors, setCursors] = useState<Cursors | null>(null);
  const edges = useMemo(() => edgesOf(band), [band]);
  const whole: Shown = {
    min: 0,
    max: Math.max(1, ...[edges.low, samples, other?.line ?? samples].map((line) => lastSecond(line) ?? 0)),
  };
  const shown = held ?? whole;
  const touched = ({ chart: { scales } }: { chart: Chart }): void => {
    if (scales.x) onHeld({ min: scales.x.min, max: scales.x.max });
  };
  const [min, max] = [shown.min, shown.max];
  const drawn = useMemo(() => {
    // Half as much again on either side, so that the picture can be drawn along.
    const beside = (max - min) / 2;
    const around = { min: min - beside, max: max + beside };
    const points = (line: SeenLine) => thinned(line, MOST_POINTS, around);
    const [low, high, own] = [points(edges.low), points(edges.high), points(samples)];
    const under = other && points(other.line);
    const heights = [low, high, own, under ?? []].flat().map(({ y }) => y);
    // Between two points of a line nothing else would say how high it is.
    const range = heights.length > 0 ? { suggestedMin: Math.min(...heights), suggestedMax: Math.max(...heights) } : {};
    return { low, high, own, under, range };
  }, [edges, samples, other, min, max]);
  const edge = { order: 2, borderColor: colour('rule'), borderWidth: 1, pointRadius: 0, tension: 0 };
  const soft = colour('softInk');
  const options: ChartOptions<'line'> = {
    onClick: ({ x: pixel }, _, { scales: { x } }) => {
      const at = x && pixel !== null ? x.getValueForPixel(pixel) : undefined;
      if (at !== undefined) setCursors((now) => now && withCursor(now, at));
    },
    animation: false,
    parsing: false,
    normalized: true,
    maintainAspectRatio: false,
    plugins: {
      legend: { display: false },
      tooltip: { filter: ({ datasetIndex }) => datasetIndex > 1 },
      cursorLines: { cursors },
      zoom: {
        pan: { enabled: true, mode: 'x', onPanComplete: touched },
        zoom: { wheel: { enabled: true }, pinch: { enabled: true }, mode: 'x', onZoomComplete: touched },
      },
    },
    interaction: { mode: 'nearest', axis: 'x', intersect: false },
    scales: {
      x: {
        type: 'linear',
        ...shown,
        ticks: { color: soft },
        title: { display: true, text: 'seconds from its begin', color: soft },
      },
      y: {
        type: 'linear',
        ...drawn.range,
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
          plugins={[cursorLines]}
          data={{
            datasets: [
              { ...edge, data: drawn.low },
              {
                ...edge,
                data: drawn.high,
                fill: '-1',
                backgroundColor: colour('grid'),
              },
              {
                order: 0,
                label: 'this run',
                data: drawn.own,
                borderColor: colour('verdigris'),
                borderWidth: 2,
                pointRadius: 0,
              },
              ...(drawn.under
                ? [
                    {
                      order: 1,
                      label: other?.name ?? '',
                      data: drawn.under,
                      borderColor: colour('ink'),
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
      <Button variant="outlined" color="inherit" disabled={held === null} onClick={() => onHeld(null)}>
        {held ? 'Show the whole run again' : 'The whole run is shown'}
      </Button>{' '}
      <ChartCursors
        curves={curvesOf({ band, samples, other })}
        cursors={cursors}
        onCursors={setCursors}
        shown={shown}
        onShow={onHeld}
        timeText={secondText}
      />
    </Panel>
  );
}
