import { pick, type Random } from '../../src/core/random/random';
import type { FramedPage } from '../../src/core/tables/page-table';
import type { PlacedText } from '../../src/core/tables/page-lines';

const PAGE = { width: 595, height: 842 };
const LETTER = 0.5;

export interface Printed {
  readonly above: readonly string[];
  readonly grid: readonly (readonly string[])[];
}

interface Print {
  readonly size: number;
  /** Cells that are shorter than their row stand at its top or in its middle. */
  readonly middle: boolean;
  /** Numbers end at their column's right edge. */
  readonly right: boolean;
  readonly rowsOfPage: number;
}

/** Words of a cell in lines that fit a column. */
function wrapped(cell: string, letters: number): string[] {
  const lines: string[] = [];
  for (const word of cell.split(' ')) {
    const last = lines[lines.length - 1];
    if (last !== undefined && last.length + 1 + word.length <= letters) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** Lays a table out on pages as a manual prints it: headings again on each page, wrapped cells, page numbers, words as pieces of their own. */
export function printed({ above, grid }: Printed, random: Random): readonly FramedPage[] {
  const print: Print = {
    size: 7 + pick(random, 3),
    middle: random() < 0.3,
    right: random() < 0.3,
    rowsOfPage: 8 + pick(random, 10),
  };
  const { size } = print;
  const [head = [], ...rows] = grid;
  const longest = head.map((_, i) => Math.max(...grid.map((row) => row[i]?.length ?? 0)));
  const letters = longest.map((most, i) => Math.max(6, Math.min(most, i === 1 ? 18 : 26)));
  const widths = letters.map((count, i) => Math.max(count, ...words(grid, i)) * size * LETTER + 1.2 * size);
  const starts = widths.map((_, i) => 40 + widths.slice(0, i).reduce((sum, width) => sum + width, 0));
  const page = { width: Math.max(PAGE.width, (starts[starts.length - 1] ?? 0) + 200), height: PAGE.height };
  const pages: FramedPage[] = [];
  for (let at = 0; at < rows.length; at += print.rowsOfPage) {
    const placed: PlacedText[] = [];
    let y = 60;
    const put = (text: string, x: number, top: number): void => {
      // A piece a word, as programs that justify lines write them; sometimes one of several.
      let from = x;
      for (const word of random() < 0.5 ? text.split(/(?<= )/) : [text]) {
        placed.push({ text: word, x: from, y: top, width: word.trimEnd().length * size * LETTER, height: size });
        from += word.length * size * LETTER;
      }
    };
    put('The mill drive, parameters', 40, 30);
    if (at === 0)
      for (const sentence of above) {
        put(sentence, 40, y);
        y += 2 * size;
      }
    for (const row of [head, ...rows.slice(at, at + print.rowsOfPage)]) {
      const lines = row.map((cell, i) => wrapped(cell, letters[i] ?? 10));
      const height = Math.max(...lines.map((own) => own.length));
      lines.forEach((own, i) => {
        const drop = print.middle && row !== head ? ((height - own.length) * size * 1.2) / 2 : 0;
        own.forEach((text, n) => {
          if (text === '') return;
          const spare = (widths[i] ?? 0) - 1.2 * size - text.length * size * LETTER;
          const isNumber = print.right && row !== head && /^[\d.,]+$/.test(text) && i > 1;
          put(text, (starts[i] ?? 0) + (isNumber ? spare : 0), y + drop + n * size * 1.2);
        });
      });
      y += height * size * 1.2 + 0.7 * size;
    }
    put(`${41 + pages.length}`, PAGE.width / 2, 800);
    pages.push({
      page: 41 + pages.length,
      placed: [...placed].sort(() => random() - 0.5),
      frame: { x: 0, y: 0, ...page },
    });
  }
  return pages;
}

const words = (grid: readonly (readonly string[])[], i: number): readonly number[] =>
  grid.flatMap((row) => (row[i] ?? '').split(' ').map((word) => word.length));
