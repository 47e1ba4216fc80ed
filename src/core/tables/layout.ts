import { rolesOfHeadings, type ColumnRole, type Heading } from './columns';
import type { Cell, Parting, Row } from './split';

/** A stretch of rows under one heading, or under none. */
export interface Block {
  /** Null where the text has no heading here. */
  readonly headings: readonly (Heading | null)[] | null;
  readonly rows: readonly PlacedRow[];
}

/** A row whose cells stand under their columns; `single` is a line of one piece that crosses columns, or stands alone in front: no row. */
export interface PlacedRow {
  readonly line: number;
  readonly text: string;
  readonly cells: readonly string[];
  readonly single: boolean;
}

interface Span {
  readonly at: number;
  readonly end: number;
}

/** Cuts a text's rows at its headings, a repeated heading goes on with the same columns. */
export function blocksOf(rows: readonly Row[], parting: Parting): readonly Block[] {
  const blocks: Block[] = [];
  let headings: readonly (Heading | null)[] | null = null;
  let cells: readonly Cell[] = [];
  let under: Row[] = [];
  const close = (): void => {
    if (under.length > 0 || headings) blocks.push({ headings, rows: place(under, cells, parting) });
    under = [];
  };
  for (let i = 0; i < rows.length; i++) {
    const row = rows[i] as Row;
    const found = headingAt(rows, i, parting);
    if (!found) {
      under.push(row);
      continue;
    }
    const isSame =
      headings !== null && found.headings.map((one) => one?.words).join() === headings.map((one) => one?.words).join();
    i += found.lines - 1;
    if (isSame && parting !== 'aligned') continue;
    close();
    headings = found.headings;
    cells = found.cells;
  }
  close();
  return blocks;
}

/** A heading of one line, or of two where the second goes on in the same columns. */
function headingAt(
  rows: readonly Row[],
  i: number,
  parting: Parting,
): { readonly headings: readonly (Heading | null)[]; readonly cells: readonly Cell[]; readonly lines: number } | null {
  const first = rows[i] as Row;
  const second = rows[i + 1];
  const alone = rolesOfHeadings(first.cells.map(({ text }) => text));
  if (
    second &&
    second.line === first.line + 1 &&
    first.cells.length > 1 &&
    second.cells.length > 0 &&
    second.cells.every(({ text }) => !/\d/.test(text))
  ) {
    const joined = joinedCells(first.cells, second.cells, parting);
    const both = joined && rolesOfHeadings(joined.map(({ text }) => text));
    const known = (headings: readonly (Heading | null)[] | null): number =>
      headings?.filter((one) => one !== null).length ?? 0;
    if (joined && both && known(both) > known(alone)) return { headings: both, cells: joined, lines: 2 };
    // What wraps under a heading is no row, though it tells nothing new.
    if (
      alone &&
      joined &&
      second.cells.length < first.cells.length &&
      second.cells.every(({ text }) => /^\(?[a-z]/.test(text) || text.trim() === '')
    )
      return { headings: alone, cells: first.cells, lines: 2 };
  }
  return alone && { headings: alone, cells: first.cells, lines: 1 };
}

function joinedCells(first: readonly Cell[], second: readonly Cell[], parting: Parting): readonly Cell[] | null {
  if (parting !== 'aligned') {
    if (first.length !== second.length) return null;
    return first.map((cell, i) => ({ ...cell, text: `${cell.text} ${second[i]?.text ?? ''}`.trim() }));
  }
  const [more, fewer] = first.length >= second.length ? [first, second] : [second, first];
  const joined = more.map((cell) => ({ ...cell, parts: [cell] }));
  for (const cell of fewer) {
    const at = nearest(joined, cell);
    const column = joined[at];
    if (!column) return null;
    column.parts.push(cell);
    joined[at] = { ...column, at: Math.min(column.at, cell.at), end: Math.max(column.end, cell.end) };
  }
  return joined.map(({ at, end, parts }) => {
    const inOrder = [...first.filter((cell) => parts.includes(cell)), ...second.filter((cell) => parts.includes(cell))];
    return { at, end, text: inOrder.map(({ text }) => text).join(' ') };
  });
}

const overlap = (a: Span, b: Span): number => Math.min(a.end, b.end) - Math.max(a.at, b.at);

/** The column that a piece stands under: the one it shares most with, else the nearest. */
function nearest(columns: readonly Span[], piece: Span): number {
  let [best, most] = [0, -Infinity];
  columns.forEach((column, i) => {
    const shared = overlap(column, piece);
    if (shared > most) [best, most] = [i, shared];
  });
  return best;
}

function place(rows: readonly Row[], headings: readonly Cell[], parting: Parting): readonly PlacedRow[] {
  if (parting !== 'aligned')
    return rows.map(({ line, text, cells }) => ({
      line,
      text,
      cells: cells.map((cell) => cell.text),
      single: cells.filter((cell) => cell.text.trim() !== '').length === 1 && cells[0]?.text.trim() !== '',
    }));
  const columns = headings.length > 0 ? headings : usualRow(rows);
  if (columns.length === 0) return rows.map(({ line, text }) => ({ line, text, cells: [text.trim()], single: true }));
  const spans = spansOf(rows, columns);
  const [second, third] = [spans[1]?.at ?? Infinity, spans[2]?.at ?? Infinity];
  return rows.map(({ line, text, cells }) => {
    const [first] = cells;
    // What begins in front and stands alone, or runs over two columns, is a title or a sentence.
    if (first && first.at < second && (cells.length === 1 || first.end > third))
      return { line, text, cells: [text.trim()], single: true };
    const placed = spans.map((): string[] => []);
    for (const cell of cells.flatMap((one) => cutAt(one, spans))) placed[nearest(spans, cell)]?.push(cell.text);
    return { line, text, cells: placed.map((parts) => parts.join(' ')), single: false };
  });
}

/** Without headings, the first row with the most usual number of cells shows the columns. */
function usualRow(rows: readonly Row[]): readonly Cell[] {
  const tally = new Map<number, number>();
  for (const { cells } of rows) if (cells.length > 1) tally.set(cells.length, (tally.get(cells.length) ?? 0) + 1);
  const [usual] = [...tally].sort(([a, times], [b, others]) => others - times || b - a)[0] ?? [];
  return rows.find(({ cells }) => cells.length === usual)?.cells ?? [];
}

/** Columns as wide as the rows that fill each of them make them. */
function spansOf(rows: readonly Row[], columns: readonly Cell[]): readonly Span[] {
  const spans = columns.map(({ at, end }) => ({ at, end }));
  for (const { cells } of rows) {
    if (cells.length !== spans.length) continue;
    if (!cells.every((cell, i) => nearest(columns, cell) === i)) continue;
    cells.forEach((cell, i) => {
      const span = spans[i] as { at: number; end: number };
      span.at = Math.min(span.at, cell.at);
      span.end = Math.max(span.end, cell.end);
    });
  }
  return spans;
}

/** A piece whose one blank is the gap between two columns is two pieces. */
function cutAt(cell: Cell, spans: readonly Span[]): readonly Cell[] {
  for (const span of spans) {
    const at = span.at - cell.at;
    if (
      at > 0 &&
      at < cell.text.length &&
      cell.text[at - 1] === ' ' &&
      spans.some((other) => other !== span && overlap(other, { at: cell.at, end: span.at }) > 0)
    )
      return [
        { text: cell.text.slice(0, at - 1), at: cell.at, end: span.at - 1 },
        ...cutAt({ text: cell.text.slice(at), at: span.at, end: cell.end }, spans),
      ];
  }
  return [cell];
}

/** The role of each column of a block, by index. */
export type Roles = readonly ColumnRole[];
