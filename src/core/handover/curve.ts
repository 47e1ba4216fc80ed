import type { Block } from './document';

/** Width and height of a curve's picture, and the room for its numbers. */
export const PICTURE = { width: 640, height: 200, left: 48, bottom: 24, top: 10 } as const;

/** A curve as the points of an SVG drawing, with the numbers at its ends. */
export interface CurveDrawing {
  readonly band: string;
  readonly line: string;
  readonly least: string;
  readonly most: string;
  readonly longest: string;
}

const shortNumber = (value: number): string => `${Number(value.toPrecision(4))}`.replace('-', '−');

/** Draws what was expected and what came into one picture; nought is always in it. */
export function drawCurve({ low, high, seen }: Extract<Block, { kind: 'curve' }>): CurveDrawing {
  const { width, height, left, bottom, top } = PICTURE;
  const all = [...low, ...high, ...seen];
  const mostX = Math.max(...all.map(({ x }) => x), 1e-9);
  const leastY = Math.min(...all.map(({ y }) => y), 0);
  const mostY = Math.max(...all.map(({ y }) => y), leastY + 1e-9);
  const at = ({ x, y }: { readonly x: number; readonly y: number }): string =>
    `${(left + ((width - left) * x) / mostX).toFixed(1)},${(height - bottom - ((height - bottom - top) * (y - leastY)) / (mostY - leastY)).toFixed(1)}`;
  return {
    band: [...low, ...[...high].reverse()].map(at).join(' '),
    line: seen.map(at).join(' '),
    least: shortNumber(leastY),
    most: shortNumber(mostY),
    longest: shortNumber(mostX),
  };
}
