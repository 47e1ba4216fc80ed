import type { Frame } from '../../../core/tables/page-lines';

/** A point is 1/72 inch. */
const POINTS_A_MM = 72 / 25.4;

const shown = (points: number): string => `${Math.round((points / POINTS_A_MM) * 10) / 10}`;

const numbersIn = (text: string): readonly number[] | null => {
  const parts = text.trim().split(/[\s;]+/);
  const numbers = parts.map((part) => Number(part.replace(',', '.')) * POINTS_A_MM);
  return numbers.every((number) => Number.isFinite(number) && number >= 0) ? numbers : null;
};

/** `15 40 195 260`: left, top, right, bottom. */
export const frameText = (frame: Frame | null): string =>
  frame ? [frame.x, frame.y, frame.x + frame.width, frame.y + frame.height].map(shown).join(' ') : '';

/** A frame typed as left, top, right, bottom in millimetres; a sentence where it is none. */
export function readFrame(text: string): Frame | string {
  const numbers = numbersIn(text);
  const [left = 0, top = 0, right = 0, bottom = 0] = numbers ?? [];
  if (numbers?.length !== 4 || right <= left || bottom <= top)
    return 'left, top, right and bottom in mm, such as 15 40 195 260';
  return { x: left, y: top, width: right - left, height: bottom - top };
}

export const columnsText = (columns: readonly number[]): string => columns.map(shown).join(' ');

/** Columns typed as millimetres from the page's left edge, in any order; a sentence where they are none. */
export function readColumns(text: string): readonly number[] | string {
  const numbers = numbersIn(text);
  return numbers && text.trim() !== ''
    ? [...numbers].sort((a, b) => a - b)
    : 'where each column begins, in mm from the left edge, such as 15 40 92';
}
