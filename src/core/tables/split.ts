import Papa from 'papaparse';

/** One line of a pasted text, cut into cells. */
export interface Row {
  /** Counted from 1. */
  readonly line: number;
  readonly text: string;
  readonly cells: readonly Cell[];
}

/** `at` and `end` are characters of the line; only an aligned text needs them, to find the column. */
export interface Cell {
  readonly text: string;
  readonly at: number;
  readonly end: number;
}

/** How the cells of a text are parted. */
export type Parting = 'tab' | 'bar' | 'semicolon' | 'comma' | 'aligned';

const DELIMITERS: Readonly<Record<Exclude<Parting, 'bar' | 'aligned'>, string>> = {
  tab: '\t',
  semicolon: ';',
  comma: ',',
};
/** Rules between rows, as text tables draw them. */
const RULE = /^[\s|+:=_─━│┼\-–]*$/;

const wordsOf = (line: string): readonly Cell[] =>
  [...line.matchAll(/\S+(?: \S+)*/g)].map((match) => ({
    text: match[0],
    at: match.index,
    end: match.index + match[0].length,
  }));

/** Lines whose number of cells is the most usual one above two: how well a way of parting fits. */
function fitOf(counts: readonly number[]): number {
  const tally = new Map<number, number>();
  for (const count of counts) if (count > 2) tally.set(count, (tally.get(count) ?? 0) + 1);
  return Math.max(0, ...tally.values());
}

/** The way in which most lines fall into the same number of cells; tabs and bars are nothing but partings and go first. */
export function partingOf(text: string): Parting {
  const lines = text.split('\n').filter((line) => line.trim() !== '');
  const some = (found: (line: string) => boolean): number => lines.filter(found).length;
  if (some((line) => line.trim().includes('\t')) * 2 >= lines.length) return 'tab';
  if (some((line) => (line.match(/[|│]/g) ?? []).length >= 2) * 2 >= lines.length) return 'bar';
  const counts = (mark: string): readonly number[] =>
    lines.map((line) => line.replace(/"[^"]*"/g, '').split(mark).length);
  const fits: readonly (readonly [Parting, number])[] = [
    ['tab', fitOf(counts('\t'))],
    ['semicolon', fitOf(counts(';'))],
    [
      'aligned',
      some((line) => wordsOf(line.trimEnd().replace(/\t/g, '    ')).filter(({ text: cell }) => cell !== '').length > 2),
    ],
    ['comma', fitOf(counts(','))],
  ];
  // A comma or semicolon parts cells only where it stands in nearly every line alike.
  const likely = fits.filter(([parting, fit]) => parting === 'aligned' || fit * 5 >= lines.length * 3);
  return likely.reduce((best, one) => (one[1] > best[1] ? one : best), ['aligned', 0] as (typeof fits)[number])[0];
}

/** Every line with something in it, cut into cells. A quoted cell may run over several lines; it is told at its first. */
export function splitRows(text: string, parting: Parting): readonly Row[] {
  if (parting === 'aligned' || parting === 'bar')
    return text.split('\n').flatMap((line, i) => {
      if (RULE.test(line)) return [];
      return [
        { line: i + 1, text: line, cells: parting === 'bar' ? barCells(line) : wordsOf(line.replace(/\t/g, '    ')) },
      ];
    });
  return delimitedRows(text, DELIMITERS[parting]);
}

function barCells(line: string): readonly Cell[] {
  const inner = line.trim().replace(/^[|│]/, '').replace(/[|│]$/, '');
  return inner.split(/[|│]/).map((cell) => ({ text: cell.trim(), at: 0, end: 0 }));
}

function delimitedRows(text: string, delimiter: string): readonly Row[] {
  const quoted = rowsOf(text, delimiter, '"');
  // A lone quotation mark, such as one for inches, would swallow the rest of the text.
  return quoted ?? rowsOf(text, delimiter, '\u0000') ?? [];
}

function rowsOf(text: string, delimiter: string, quoteChar: string): readonly Row[] | null {
  const rows: Row[] = [];
  let [from, line] = [0, 1];
  let isBroken = false;
  Papa.parse<string[]>(text, {
    delimiter,
    quoteChar,
    step: ({ data, errors, meta }) => {
      isBroken ||= errors.some(({ type }) => type === 'Quotes');
      const source = text.slice(from, meta.cursor);
      if (data.some((cell) => cell.trim() !== ''))
        rows.push({
          line,
          text: source.replace(/\n$/, ''),
          cells: data.map((cell) => ({ text: cell.trim(), at: 0, end: 0 })),
        });
      line += source.split('\n').length - 1;
      from = meta.cursor;
    },
  });
  return isBroken ? null : rows;
}
