import Papa from 'papaparse';
import { done, failed, type Result } from '../result';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { wideText, wideWords, type WideType } from '../values/wide';
import { ASIDE_TEXT, type CompareRow } from './compare-sets';
import { patternOfCells } from '../drive/seen';
import { knownOf, saidText, wordsOfSaid, type Said, type SaidOf } from './said';
import { readTyped } from './typed-value';
import type { Witness } from './witness';

/** Spreadsheets of one half of the world write decimals with a point and part cells by commas, the others a comma and semicolons. */
export type CsvMark = 'point' | 'comma';

const DELIMITER: Readonly<Record<CsvMark, string>> = { point: ',', comma: ';' };

/** A cell that a spreadsheet would take for a formula is made a text; a plain number stays one. */
export const harmless = (cell: string): string =>
  /^[=+\-@\t\r−]/.test(cell) && !/^[-−+]?\d[\d.,]*$/.test(cell) ? `'${cell}` : cell;

/** Numbers inside of a text with the decimal mark that is wanted; names with points, such as `11.03`, are not touched. */
const marked = (text: string, mark: CsvMark): string =>
  (mark === 'comma' ? text.replace(/^([−-]?\d+)\.(\d+)(?= |$)/, '$1,$2') : text).replace(/−/g, '-');

const csvOf = (rows: readonly (readonly string[])[], mark: CsvMark): string =>
  `\uFEFF${Papa.unparse(
    rows.map((row) => row.map((cell) => harmless(cell))),
    { delimiter: DELIMITER[mark], newline: '\r\n' },
  )}\r\n`;

/** A set as rows for a spreadsheet under their heading: number, name, raw, value with its unit. Secrets stay out. */
export const rowsOfSet = (index: SheetIndex, said: SaidOf, mark: CsvMark): readonly (readonly string[])[] => [
  ['number', 'name', 'raw', 'value'],
  ...index.parameters.flatMap((parameter) => {
    const own = said.get(parameter.number);
    if (!own || parameter.secret) return [];
    const raw = own.kind === 'value' ? rawText(parameter, own.words) : '';
    return [
      [textKey(parameter.number), parameter.name, raw, marked(valueText(saidText(index, parameter, own, said)), mark)],
    ];
  }),
];

const isWhole64 = ({ type }: PlacedParameter): boolean => type === 'int64' || type === 'uint64';

/** What stands in the cells before any scale: all digits of 64 bits too, since a value shows three places only. Empty where it is no whole number. */
const rawText = (parameter: PlacedParameter, words: readonly number[]): string =>
  isWhole64(parameter)
    ? wideText({ type: parameter.type as WideType, order: parameter.order }, words)
    : `${patternOfCells(parameter, words) ?? ''}`;

/** The words of such a text; null where it is none. */
function wordsOfRawText(parameter: PlacedParameter, raw: string): readonly number[] | null {
  const { type, order, cells } = parameter;
  if (!isWhole64(parameter)) return /^\d+$/.test(raw) ? wordsOfSaid(parameter, Number(raw)) : null;
  const words = /^-?\d+$/.test(raw) ? wideWords({ type: type as WideType, order, words: cells.length }, raw) : null;
  return words?.ok ? words.value : null;
}

/** A set as CSV with a decimal point or comma; formulas are made harmless. */
export const csvOfSet = (index: SheetIndex, said: SaidOf, mark: CsvMark): string =>
  csvOf(rowsOfSet(index, said, mark), mark);

/** A spreadsheet takes `11.03` for a number and loses its nought: such a key is a text. */
const textKey = (number: string): string => (/^\d+\.\d+$/.test(number) ? `${number} ` : number);

/** `3909 = 17.498 Hz` as `17.498 Hz`. */
const valueText = (text: string): string => text.replace(/^[−-]?\d+ = /, '');

/** What differs, as rows of a spreadsheet: a column a witness, and what follows. */
export const csvOfDifferences = (witnesses: readonly Witness[], rows: readonly CompareRow[], mark: CsvMark): string =>
  csvOf(
    [
      ['number', 'name', ...witnesses.map(({ name }) => name), 'what follows'],
      ...rows.map(({ number, name, texts, follows, aside }) => [
        textKey(number),
        name,
        ...texts.map((text) => marked(valueText(text), mark)),
        follows || (aside ? ASIDE_TEXT[aside] : ''),
      ]),
    ],
    mark,
  );

/** The same as lines for a message. */
export const textOfDifferences = (rows: readonly CompareRow[]): string =>
  rows
    .map(
      ({ number, name, sentence, follows, texts }) =>
        `${number} ${name}: ${[sentence, follows].filter((part) => part !== '').join('; ') || texts.filter((text) => text !== '').join(' | ')}`,
    )
    .join('\n');

export interface CsvSet {
  readonly said: SaidOf;
  /** Lines that gave no value, with the reason. */
  readonly unread: readonly { readonly line: number; readonly text: string; readonly why: string }[];
}

const LARGEST_CSV = 4_000_000;

/**
 * Values out of a spreadsheet's CSV, by the numbers of this sheet's entries, with point or comma. The raw number goes before the value where both
 * stand in the row and the value was not changed.
 */
export function readSetCsv(index: SheetIndex, text: string): Result<CsvSet, string> {
  if (text.length > LARGEST_CSV) return failed('the file is too large for a set of values');
  const plain = text.replace(/^\uFEFF/, '');
  const [firstLine = ''] = plain.trimStart().split('\n', 1);
  const delimiter = [';', '\t', ','].reduce((best, one) =>
    firstLine.split(one).length > firstLine.split(best).length ? one : best,
  );
  const { data } = Papa.parse<string[]>(plain, { delimiter });
  const begin = data.findIndex((row) => !isBlank(row));
  const [head = [], ...rows] = data.slice(Math.max(begin, 0));
  const column = (...names: readonly string[]): number =>
    head.findIndex((cell) => names.includes(cell.trim().toLowerCase()));
  const [numbers, raws, values] = [column('number', 'nr', 'no'), column('raw'), column('value', 'wert', 'valeur')];
  if (numbers < 0 || (raws < 0 && values < 0))
    return failed('its first line must name the columns: number, and value or raw');
  const said = new Map<string, Said>();
  const unread: { line: number; text: string; why: string }[] = [];
  rows.forEach((row, i) => {
    if (isBlank(row)) return undefined;
    const key = unmade(row[numbers] ?? '');
    const parameter = index.byNumber.get(key);
    const refuse = (why: string): void => void unread.push({ line: begin + i + 2, text: row.join(delimiter), why });
    if (!parameter) return refuse(`the sheet has no entry ${key}`);
    const [value, raw] = [unmade(row[values] ?? ''), unmade(row[raws] ?? '')];
    if (value === '' && raw === '') return undefined;
    if (/^(?:refused|no answer)\b/.test(value)) return undefined;
    const words = wordsOfRawText(parameter, raw);
    const shown = words && valueText(saidText(index, parameter, { kind: 'value', words, atMs: null }, said));
    // The value was changed in the spreadsheet where it is no longer what the raw number says.
    const isSame = shown !== null && same(shown, value);
    if (words && (value === '' || isSame)) return void said.set(key, { kind: 'value', words, atMs: null });
    const read = readTyped(index, parameter, pointed(value), knownOf(index, said));
    if (!read.ok) return refuse(read.error);
    return void said.set(key, { kind: 'value', words: read.value, atMs: null });
  });
  return done({ said, unread });
}

const isBlank = (row: readonly string[]): boolean => row.every((cell) => cell.trim() === '');

/** Without what was put in front to make it harmless. */
const unmade = (cell: string): string =>
  cell
    .trim()
    .replace(/^'(?=[=+\-@−])/, '')
    .trim();
/** A number with a decimal comma in front of its unit, with a point. */
const pointed = (text: string): string => text.replace(/^([−-]?\d+),(\d+)(?= |$)/, '$1.$2');
const same = (shown: string, typed: string): boolean =>
  shown.replace(/−/g, '-').trim() === pointed(typed).replace(/−/g, '-').trim();
