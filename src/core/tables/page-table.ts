import { leastOf, mostOf } from '../extent';
import { rolesOfHeadings } from './columns';
import { linesOfPage, type Frame, type PageLine, type PlacedText } from './page-lines';
import { isKey } from './roles';

/** A page of a document with the part of it that is looked at. */
export interface FramedPage {
  readonly page: number;
  readonly placed: readonly PlacedText[];
  readonly frame: Frame;
}

/** Where a line of the table's text stands in the document. */
export interface TableLinePlace {
  readonly page: number;
  readonly frame: Frame;
}

export interface PageTable {
  /** Cells parted by tabs, a line a row; a cell that wraps goes on in lines without a key, as `readTable` takes them. */
  readonly text: string;
  /** The place of each line of `text`, by its number less one. */
  readonly places: readonly TableLinePlace[];
  /** Where columns begin, in points from the left; the first begins where the frame does. */
  readonly columns: readonly number[];
}

/** Lines that share a gutter with this part of their fellows show a column; a few long cells may cross it. */
const CROSSING_SHARE = 0.04;
/** A line that goes on with a row begins at most this many heights under the one above. */
const FURTHEST = 2.4;
/** Gutters are found on a grid this fine, in points. */
const GRID = 0.5;
/** Beyond this no gutter is looked for: no sheet of paper is so wide. */
const WIDEST_PAGE = 10_000;
/** No table that people read has more columns. */
const MOST_COLUMNS = 80;

interface Line {
  readonly page: number;
  readonly y: number;
  readonly end: number;
  readonly frame: Frame;
  readonly cells: readonly string[];
  /** One piece that crosses columns, or stands alone in front. */
  readonly isSingle: boolean;
}

/** The rows of tables on pages of a document, by the places of its text. Linear in the pieces; never throws. */
export function tableOfPages(pages: readonly FramedPage[], fixed?: readonly number[]): PageTable {
  const lines = pages.map(({ page, placed, frame }) => ({ page, lines: linesOfPage(placed, frame) }));
  const columns = fixed ?? columnsOf(lines.flatMap((one) => one.lines));
  const cells = lines.flatMap((one) => one.lines.map((line) => lineOf(one.page, line, columns)));
  const rows = rowsOf(cells, keyColumnOf(cells));
  const width = columns.length;
  const out: { readonly text: string; readonly place: TableLinePlace }[] = [];
  for (const row of rows) {
    const [first] = row;
    if (!first) continue;
    const place = { page: first.page, frame: around(row.map(({ frame }) => frame)) };
    if (first.isSingle) {
      out.push({ text: first.cells.join(' ').trim(), place });
      continue;
    }
    // Each column's texts from the top, so that a key in the middle of a tall row stands in its first line.
    const stacks = Array.from({ length: width }, (_, i) =>
      row.flatMap(({ cells: own }) => (own[i] === undefined || own[i] === '' ? [] : [own[i]])),
    );
    const height = mostOf(stacks, (stack) => stack.length);
    for (let line = 0; line < height; line++)
      out.push({ text: stacks.map((stack) => stack[line] ?? '').join('\t'), place });
  }
  return { text: out.map(({ text }) => text).join('\n'), places: out.map(({ place }) => place), columns };
}

/** Where columns begin: the gutters that nearly no line of several pieces writes into. */
function columnsOf(lines: readonly PageLine[]): readonly number[] {
  const rows = lines.filter(({ pieces }) => pieces.length > 1);
  const all = rows.flatMap(({ pieces }) => pieces);
  if (all.length === 0) return [0];
  const left = leastOf(all, ({ x }) => x);
  const right = Math.min(
    left + WIDEST_PAGE,
    mostOf(all, ({ x, width }) => x + width),
  );
  // Ends and beginnings of pieces on the grid; their running sum is how many lines write there.
  const steps = new Int32Array(Math.ceil((right - left) / GRID) + 2);
  const at = (x: number): number => Math.min(steps.length - 1, Math.max(0, Math.round((x - left) / GRID)));
  for (const { x, width } of all) {
    steps[at(x)] = (steps[at(x)] ?? 0) + 1;
    steps[at(x + width)] = (steps[at(x + width)] ?? 0) - 1;
  }
  const allowed = Math.floor(rows.length * CROSSING_SHARE);
  const columns: number[] = [];
  let [written, isGutter] = [0, true];
  steps.forEach((step, i) => {
    written += step;
    if (written > allowed && isGutter) columns.push(left + i * GRID);
    isGutter = written <= allowed;
  });
  return columns.length === 0 ? [left] : columns.slice(0, MOST_COLUMNS);
}

function lineOf(page: number, { y, height, pieces }: PageLine, columns: readonly number[]): Line {
  const spans = columns.map((start, i) => ({ start, end: columns[i + 1] ?? Infinity }));
  const cells: string[][] = columns.map(() => []);
  const first = pieces[0];
  const last = pieces[pieces.length - 1];
  const frame = {
    x: first?.x ?? 0,
    y,
    width: last && first ? last.x + last.width - first.x : 0,
    height,
  };
  for (const piece of pieces) cells[columnOf(piece, spans)]?.push(piece.text);
  // Gutters stand on a grid: what begins half a step before one is behind it.
  const isSingle = first !== undefined && pieces.length === 1 && first.x < (columns[1] ?? Infinity) - GRID;
  const isAcross = isSingle && columns.length > 1 && first.x + first.width > (columns[1] ?? Infinity) + GRID;
  return {
    page,
    y,
    end: y + height,
    frame,
    cells: isAcross ? [first.text] : cells.map((texts) => texts.join(' ')),
    isSingle: isAcross || (isSingle && !isKey(first.text)),
  };
}

/** The column that a piece shares most with; what begins a hair before its column still belongs to it. */
function columnOf(
  { x, width }: PlacedText,
  spans: readonly { readonly start: number; readonly end: number }[],
): number {
  let [best, most] = [0, -Infinity];
  spans.forEach(({ start, end }, i) => {
    const shared = Math.min(end, x + width) - Math.max(i === 0 ? -Infinity : start, x);
    if (shared > most) [best, most] = [i, shared];
  });
  return best;
}

/** The column whose cells are most often keys; the left one of equals. */
function keyColumnOf(lines: readonly Line[]): number {
  const counts = new Map<number, number>();
  for (const { cells, isSingle } of lines)
    if (!isSingle) cells.forEach((cell, i) => isKey(cell) && counts.set(i, (counts.get(i) ?? 0) + 1));
  return [...counts].sort(([a, many], [b, others]) => others - many || a - b)[0]?.[0] ?? 0;
}

/** Lines that belong to one row: those without a key go with the line that they are nearer to, on the same page. */
function rowsOf(lines: readonly Line[], keys: number): readonly (readonly Line[])[] {
  const isAlone = (line: Line): boolean => line.isSingle || rolesOfHeadings(line.cells) !== null;
  const isKeyed = (line: Line): boolean => (line.cells[keys] ?? '') !== '';
  const rows: Line[][] = [];
  let waiting: Line[] = [];
  let above: { readonly line: Line; readonly row: Line[] | null } | null = null;
  /** Deals what waits out between the line above and the keyed one below; what goes with a heading stays a line of its own. */
  const deal = (below: Line | null): readonly Line[] => {
    const cut = below === null ? waiting.length : widestGap(above?.line ?? null, waiting, below);
    let last = above?.line;
    let row = above?.row;
    for (const line of waiting.slice(0, cut)) {
      // A page number far below the last row is no part of it.
      if (last && line.y - last.y > FURTHEST * (line.end - line.y)) row = null;
      if (row) row.push(line);
      else rows.push([line]);
      last = line;
    }
    const rest = waiting.slice(cut);
    waiting = [];
    return rest;
  };
  for (const line of lines) {
    const before = waiting[waiting.length - 1] ?? above?.line;
    if (before && before.page !== line.page) {
      deal(null);
      above = null;
    }
    if (isAlone(line)) {
      deal(null);
      rows.push([line]);
      above = { line, row: null };
    } else if (isKeyed(line)) {
      const row = [...deal(line), line];
      rows.push(row);
      above = { line, row };
    } else waiting.push(line);
  }
  deal(null);
  return rows;
}

/** How many of the waiting lines stand above the widest gap; the lower gap of equals. Letters that nearly touch are one row. */
function widestGap(above: Line | null, waiting: readonly Line[], below: Line): number {
  const chain = [...waiting, below];
  let [cut, most] = [0, above ? (chain[0]?.y ?? 0) - above.y : (chain[0]?.end ?? 0) - (chain[0]?.y ?? 0)];
  for (let i = 0; i < waiting.length; i++) {
    const gap = (chain[i + 1]?.y ?? 0) - (chain[i]?.y ?? 0);
    if (gap >= most - GRID) [cut, most] = [i + 1, Math.max(most, gap)];
  }
  return cut;
}

function around(frames: readonly Frame[]): Frame {
  const x = leastOf(frames, (frame) => frame.x);
  const y = leastOf(frames, (frame) => frame.y);
  return {
    x,
    y,
    width: mostOf(frames, (frame) => frame.x + frame.width) - x,
    height: mostOf(frames, (frame) => frame.y + frame.height) - y,
  };
}
