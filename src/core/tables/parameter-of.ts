import { fractionText, multiply, parseRational, ratio, type Rational } from '../scaling/rational';
import type { Choice, DescribedParameter } from '../values/described';
import { bitsOfType, type ValueType } from '../values/type';
import {
  accessIn,
  bitNamesIn,
  choicesIn,
  NO,
  numberIn,
  rangeIn,
  scaleIn,
  sizeIn,
  typeIn,
  whenIn,
  withoutFootnote,
  YES,
} from './cells';
import { withoutMarks, type ColumnFacts } from './column-facts';
import type { ColumnRole, Heading } from './columns';
import type { Legend } from './legend';
import { numberText, plain, type DecimalMark } from './numbers';
import type { Target } from './place-cell';
import { knownUnit } from './units';

/** A parameter with the line that it was read from, counted from 1. */
export interface TableParameter extends DescribedParameter {
  readonly line: number;
}

/** An entry of a sheet from the cells of a row, with what was doubtful or left. */
export function parameterOf(
  line: number,
  target: Target,
  cells: ReadonlyMap<ColumnRole, string>,
  column: ColumnFacts,
  legend: Legend,
  mark: DecimalMark,
): TableParameter {
  const cell = (role: ColumnRole): string => cells.get(role) ?? '';
  const heading = (role: ColumnRole): Heading | undefined =>
    column.headings.find((one) => one?.role === role) ?? undefined;
  const details = [cell('choices'), cell('range'), cell('note')].filter((text) => text !== '').join('\n');
  const bitNames = bitNamesIn(details);
  const choices = bitNames.length > 0 ? [] : listed(cells);
  const range =
    choices.length > 0 && !rangeIn(firstLine(cell('range')), mark)
      ? null
      : (rangeIn(cell('range'), mark) ?? rangeIn(firstLine(cell('range')), mark));
  const [low, high] = [numberIn(cell('min'), mark), numberIn(cell('max'), mark)];
  const fromUnit = /^\d/.test(cell('unit')) ? scaleIn(cell('unit'), 'unit', mark) : null;
  const printed =
    scaleIn(cell('scale'), heading('scale')?.words ?? '', mark) ??
    fromDecimals(cell('decimals')) ??
    fromUnit ??
    (range || choices.length > 0 ? null : scaleInNote(cell('range'), mark)) ??
    scaleInNote(cell('note'), mark);
  const unit =
    unitOf(cell('unit'), fromUnit?.unit) ??
    range?.unit ??
    low?.unit ??
    high?.unit ??
    printed?.unit ??
    knownUnit(heading('max')?.inside ?? heading('range')?.inside ?? '') ??
    numberIn(cell('default'), mark)?.unit ??
    null;
  const size =
    sizeOf(cell('size'), heading('size'), column.sizesAreBits) ??
    (/^\d/.test(cell('type')) ? sizeIn(cell('type'), '') : null);
  const type = typeOf(cell('type'), size) ?? (cell('type') === '' ? legend.type : null);
  const bits = (type && bitsOfType(type)) ?? size ?? (target.count > 1 ? 16 * target.count : null);
  const inUnit = (value: Rational | null | undefined): string | null => {
    if (!value) return null;
    return numberText(column.limitsAreCounts && printed && !range?.unit ? multiply(value, printed.scale) : value);
  };
  const marked = legend.marks.size > 0 ? MARKED.map(cell) : [];
  const marks = marked.flatMap((text) => {
    const at = /([*†‡§■□●○◆▲✻#]{1,3}|[¹²³⁴⁵⁶]|(?<=\p{L})[1-9]|\b[1-9]\)|\(?[A-Z]\)|(?<=[/ ])[A-Z])\)?$/u.exec(
      text.trim(),
    )?.[1];
    const meaning = at === undefined ? undefined : legend.marks.get(at.replace(/[()]/g, ''));
    return meaning ? [meaning] : [];
  });
  return {
    line,
    key: target.key,
    address: target.address,
    table: target.address === null ? null : target.table,
    name: withoutNotes(
      legend,
      nameOf(
        cell('name') ||
          (target.key === cell('number') ? '' : cell('number')) ||
          (bitNames.length > 0 ? '' : cell('note')),
      ),
    ),
    type,
    bits,
    unit,
    scale: printed ? fractionText(printed.scale) : null,
    min: inUnit(range?.min ?? low?.value),
    max: inUnit(range?.max ?? high?.value),
    default: defaultOf(cell('default'), choices, mark, inUnit),
    access:
      accessIn(firstWord(cell('access'))) ??
      accessIn(cell('access')) ??
      marks.find(({ access }) => access)?.access ??
      null,
    when: whenOf(cells, heading('when')?.words ?? '') ?? marks.find(({ when }) => when)?.when ?? null,
    choices,
    bitNames,
  };
}

const MARKED = ['number', 'address', 'name', 'access', 'when'] as const;

const firstLine = (text: string): string => text.split('\n')[0] ?? '';
const firstWord = (text: string): string => /^\S+/.exec(text)?.[0].replace(/[,;(].*$/, '') ?? '';

/** A bare digit behind a word is a footnote only where the legend has a note of that number. */
const withoutNotes = (legend: Legend, name: string): string =>
  withoutFootnote(/\p{L}[1-9]$/u.test(name) && legend.marks.has(name.slice(-1)) ? name.slice(0, -1) : name);

const nameOf = (text: string): string =>
  text
    .replace(/\s*\(?\s*0\s*[:=].*$/s, '')
    .replace(/\s+/g, ' ')
    .trim();

function listed(cells: ReadonlyMap<ColumnRole, string>): readonly Choice[] {
  const own = choicesIn(cells.get('choices') ?? '', 1);
  if (own.length > 0) return own;
  for (const role of ['range', 'note', 'name', 'unit'] as const) {
    const found = choicesIn(cells.get(role) ?? '');
    if (found.length > 0) return found;
  }
  return [];
}

const fromDecimals = (cell: string): { readonly scale: Rational; readonly unit: null } | null => {
  const places = /^-?(\d)$/.exec(cell)?.[1];
  return places === undefined ? null : { scale: ratio(1n, 10n ** BigInt(places)), unit: null };
};

/** In a remark only a full equation says what a count is worth. */
function scaleInNote(note: string, mark: DecimalMark): ReturnType<typeof scaleIn> {
  const equation = /(?:^|[\s(])(\d+\s*(?:counts?|digits?|lsb)?\s*=\s*[\d.,]+\s*\S+)/i.exec(note)?.[1];
  const found = equation === undefined ? null : scaleIn(equation.replace(/[).;]+$/, ''), '', mark);
  return found && found.unit !== null ? found : null;
}

function unitOf(cell: string, inScale: string | null | undefined): string | null {
  const bare = withoutMarks(cell);
  if (bare === '' || /^[-–—/.]+$/.test(bare)) return null;
  if (inScale !== undefined) return inScale;
  if (choicesIn(bare).length > 0) return null;
  return bare.replace(/^[[(]|[\])]$/g, '');
}

const sizeOf = (cell: string, heading: Heading | undefined, areBits: boolean): number | null =>
  cell === ''
    ? null
    : (sizeIn(cell, `${heading?.words ?? ''} ${heading?.inside ?? ''}`) ?? sizeIn(cell, areBits ? 'bits' : 'words'));

function typeOf(cell: string, size: number | null): ValueType | null {
  const type = typeIn(cell);
  const sign = /^(un)?signed$|^(u)?int(?:eger)?$|^([us])$/i.exec(plain(cell).trim());
  if (!sign || size === null || ![8, 16, 32, 64].includes(size)) return type;
  const isUnsigned = sign[1] ?? sign[2] ?? (/^u/i.test(sign[3] ?? '') ? 'u' : undefined);
  return `${isUnsigned === undefined ? '' : 'u'}int${size as 8 | 16 | 32 | 64}`;
}

function defaultOf(
  cell: string,
  choices: readonly Choice[],
  mark: DecimalMark,
  inUnit: (value: Rational) => string | null,
): string | null {
  const text = withoutMarks(cell.replace(/\s+/g, ' '));
  const number = numberIn(text, mark);
  if (number) return choices.length > 0 ? numberText(number.value) : inUnit(number.value);
  const chosen = choices.find(({ text: name }) => name.toLowerCase() === text.toLowerCase());
  if (chosen) return `${chosen.value}`;
  const inBrackets = parseRational(/\((-?\d+)\)$/.exec(text)?.[1] ?? '');
  return inBrackets.ok ? numberText(inBrackets.value) : null;
}

function whenOf(cells: ReadonlyMap<ColumnRole, string>, heading: string): 'always' | 'standstill' | null {
  const own = cells.get('when') ?? '';
  const said = whenIn(own);
  if (said) return said;
  if (/stop|stand|stillstand|arret/.test(heading) && own !== '')
    return YES.test(own) ? 'standstill' : NO.test(own) ? 'always' : null;
  const running = cells.get('changed-while-running') ?? '';
  if (running !== '') return YES.test(running) ? 'always' : NO.test(running) ? 'standstill' : whenIn(running);
  const inAccess = (cells.get('access') ?? '').replace(/^\S+?(?=[\s,;(])/, '').replace(/^[\s,;(]+|[)\s]+$/g, '');
  return (
    (inAccess === '' ? null : whenIn(inAccess)) ??
    (/stop only|stand[ -]?still|only (?:when|while|at)? ?(?:the )?(?:drive |motor )?(?:is )?stop|nur im stillstand|à l['’]arrêt/i.test(
      cells.get('note') ?? '',
    )
      ? 'standstill'
      : null)
  );
}
