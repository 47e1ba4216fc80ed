import type { ChartType, Plugin } from 'chart.js';
import { countUpTo, type TrendPoint } from '../../core/trace/track';
import { colour } from '../../ui/colour';
import { TEXT_FACE } from '../../ui/tokens';

/** A bit's line takes this share of its row. */
const BIT_SWING = 0.7;

interface SendMarks {
  /** Seconds at which a person sent something, in their order. */
  readonly marks: Float64Array;
}

interface BitRows {
  /** The bits by their numbers, from the uppermost row down; a map, since the chart wraps each element of a list that it is given. */
  readonly rows: ReadonlyMap<number, BitRow>;
}

export interface BitRow {
  readonly name: string;
  readonly points: readonly TrendPoint[];
}

/** Of the letters of a row's name, and between name and plot, in pixels. */
const NAME_PX = 11;
const NAME_GAP = 10;

declare module 'chart.js' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the parameter must stand as Chart.js declares it
  interface PluginOptionsByType<TType extends ChartType> {
    sendMarks?: SendMarks;
    bitRows?: BitRows;
  }
}

/** Dashed lines where a person sent something; the marks lie behind the curves. */
export const sendMarks: Plugin<'line', Partial<SendMarks>> = {
  id: 'sendMarks',
  beforeDatasetsDraw: ({ ctx, chartArea, scales }, _args, { marks = [] }) => {
    const { x } = scales;
    if (!x) return;
    ctx.save();
    ctx.strokeStyle = ctx.fillStyle = colour('copper');
    ctx.setLineDash([3, 4]);
    for (const mark of marks) {
      const at = x.getPixelForValue(mark);
      if (at < chartArea.left || at > chartArea.right) continue;
      ctx.beginPath();
      ctx.moveTo(at, chartArea.top);
      ctx.lineTo(at, chartArea.bottom);
      ctx.stroke();
      ctx.fillText('▸', at - 3, chartArea.top + 8);
    }
    ctx.restore();
  },
};

/** A scale shows at least this share of the highest number on it: a tenth of a per cent of noise is not drawn as if the drive swung. */
const LEAST_SPAN = 0.05;

/** Widens a scale about its middle where its numbers lie closer together. */
export function widened(axis: { min: number; max: number }): void {
  const missing = LEAST_SPAN * Math.max(Math.abs(axis.min), Math.abs(axis.max)) - (axis.max - axis.min);
  if (missing <= 0) return;
  axis.min -= missing / 2;
  axis.max += missing / 2;
}

/** The level of each bit in a row of its own with its name, as one drawing: as sets of data and ticks each would be laid out anew whenever the chart is. */
export const bitRows: Plugin<'line', Partial<BitRows>> = {
  id: 'bitRows',
  beforeDatasetsDraw: ({ ctx, chartArea: { left, right, top, bottom }, scales }, _args, { rows }) => {
    const { x, bits } = scales;
    if (!x || !bits || !rows) return;
    ctx.save();
    ctx.font = `${NAME_PX}px ${TEXT_FACE}`;
    ctx.fillStyle = colour('softInk');
    ctx.textAlign = 'right';
    ctx.textBaseline = 'middle';
    let row = rows.size;
    for (const { name } of rows.values())
      ctx.fillText(name, left - NAME_GAP, bits.getPixelForValue(--row + BIT_SWING / 2));
    ctx.beginPath();
    ctx.rect(left, top, right - left, bottom - top);
    ctx.clip();
    ctx.strokeStyle = colour('ink');
    ctx.lineWidth = 1.5;
    ctx.beginPath();
    let base = rows.size;
    for (const { points } of rows.values()) {
      base--;
      steps(points, x, (level) => bits.getPixelForValue(base + BIT_SWING * level), ctx);
    }
    ctx.stroke();
    ctx.restore();
  },
};

/** What of a track is in the picture, as steps: a level holds until the next reading. */
function steps(
  points: readonly TrendPoint[],
  x: { readonly min: number; readonly max: number; readonly getPixelForValue: (second: number) => number },
  heightOf: (level: number) => number,
  ctx: Pick<CanvasRenderingContext2D, 'moveTo' | 'lineTo'>,
): void {
  let height: number | null = null;
  for (let i = Math.max(0, countUpTo(points, x.min) - 1); i < points.length; i++) {
    const point = points[i];
    const before = points[i - 1];
    if (!point || (before && before.x > x.max)) return;
    const at = x.getPixelForValue(point.x);
    if (point.y === null) {
      height = null;
      continue;
    }
    if (height !== null) ctx.lineTo(at, height);
    const next = heightOf(point.y);
    if (height === null) ctx.moveTo(at, next);
    else if (next !== height) ctx.lineTo(at, next);
    height = next;
  }
}
