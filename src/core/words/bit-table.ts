import { fault, type Fault } from '../fault';
import type { BitSpec, FieldSpec } from './spec';

/** Bits and fields read from a pasted table, and what could not be read, at its characters in the whole text. */
export interface BitTable {
  readonly bits: readonly BitSpec[];
  readonly fields: readonly FieldSpec[];
  readonly faults: readonly Fault[];
}

/** Columns are parted by tabs, bars or semicolons; else by two blanks or more; else by commas. */
const SEPARATORS: readonly RegExp[] = [/[\t|;]/, /\s{2,}/, /,/];
/** No row of a manual is longer; blanks without end are no reason to look at them one by one. */
const LONGEST_ROW = 2_000;
/** With headings, footers and wrapped rows a page may have more rows than a word has bits, but not more than this. */
const MOST_ROWS = 300;
const ONE_BIT = /^(?:bit\s*|b)?(\d{1,2})\.?$/i;
const SEVERAL = /^(?:bits?\s*|b)?(\d{1,2})\s*(?:-|–|\.\.\.?|to|\.\.)\s*(\d{1,2})\.?$/i;
const HEADING = /^(?:bit|no\.?|number|#)$/i;
const RISE = /\b(?:rising|rise|edge|0\s*(?:->|→)\s*1)\b/i;
const LOW = /\b(?:active[ -]low|low[ -]active|inverted|negated)\b/i;
const IGNORED = /^(?:reserved|not used|unused|free|spare|-+|–)$/i;
const HIGHEST = 31;

function columnsOf(line: string): readonly string[] {
  for (const separator of SEPARATORS) {
    const parts = line.split(separator).map((part) => part.trim());
    const full = parts[0] === '' ? parts.slice(1) : parts;
    if (full.length > 1) return full[full.length - 1] === '' ? full.slice(0, -1) : full;
  }
  return [line.trim()];
}

/** `0: slow, 1: fast` or `0 = slow / 1 = fast` as named values. */
function valuesIn(text: string): FieldSpec['values'] {
  return [...text.matchAll(/(\d+)\s*[:=]\s*([^,;/]+)/g)].map(([, value = '', name = '']) => ({
    value: parseInt(value, 10),
    name: name.trim(),
  }));
}

/** Meanings of 1 and of 0, where one cell holds both: `1 = run, 0 = stop`. */
function levelsIn(text: string): { readonly one?: string | undefined; readonly zero?: string | undefined } {
  const values = valuesIn(text);
  return { one: values.find(({ value }) => value === 1)?.name, zero: values.find(({ value }) => value === 0)?.name };
}

/**
 * Reads a table of "bit, name, meaning" as it is copied from a manual's page: a line a bit, with a heading or without; `4-6` is a field; a fourth
 * column is the meaning of 0. "rising edge" and "active low" in a meaning are understood. A bit named reserved is left out. Nothing is lost:
 * what is no such line is a fault at its characters.
 */
export function readBitTable(text: string, width: number): BitTable {
  const bits: BitSpec[] = [];
  const fields: FieldSpec[] = [];
  const faults: Fault[] = [];
  const taken = new Map<number, string>();
  let start = 0;
  let rows = 0;
  for (const line of text.split('\n')) {
    if (++rows > MOST_ROWS) {
      faults.push(
        fault(
          'too-long',
          start,
          text.length,
          `from here on nothing is read: a word has ${HIGHEST + 1} bits, a page ${MOST_ROWS} rows`,
        ),
      );
      break;
    }
    const end = start + line.length;
    const say = (why: string): void => void faults.push(fault('bad-token', start, end, why));
    const [first = '', name = '', meaning = '', other = ''] =
      line.trim() === '' ? [] : columnsOf(line.slice(0, LONGEST_ROW));
    const several = SEVERAL.exec(first);
    const one = ONE_BIT.exec(first);
    if (line.trim() === '' || HEADING.test(first) || IGNORED.test(name)) {
      start = end + 1;
      continue;
    }
    if (line.length > LONGEST_ROW) say(`a row of ${line.length} characters; ${LONGEST_ROW} at most are read`);
    else if (!several && !one) say(`“${first}” is no bit number such as 3, or 4-6 for a field`);
    else if (name === '')
      say(`bit ${first} has no name; expected number, name and meaning, parted by tabs, semicolons or commas`);
    else if (several) {
      const ends = [parseInt(several[1] ?? '', 10), parseInt(several[2] ?? '', 10)];
      const [from, to] = [Math.min(...ends), Math.max(...ends)];
      const clash = claim(taken, from, to, name, width);
      if (clash !== '') say(clash);
      else if (from === to) bits.push(bitOf(from, name, meaning, other));
      else fields.push({ from, width: to - from + 1, name, values: valuesIn(`${meaning}, ${other}`) });
    } else {
      const bit = parseInt(one?.[1] ?? '', 10);
      const clash = claim(taken, bit, bit, name, width);
      if (clash === '') bits.push(bitOf(bit, name, meaning, other));
      else say(clash);
    }
    start = end + 1;
  }
  return { bits: bits.sort((a, b) => a.bit - b.bit), fields: fields.sort((a, b) => a.from - b.from), faults };
}

/** Takes bits for a name; a sentence where they are not there or somebody has them. */
function claim(taken: Map<number, string>, from: number, to: number, name: string, width: number): string {
  if (to >= width || to > HIGHEST) return `bit ${to} does not exist in a word of ${width} bits`;
  for (let bit = from; bit <= to; bit++) {
    const other = taken.get(bit);
    if (other !== undefined) return `bit ${bit} of ${name} is also ${other}`;
  }
  for (let bit = from; bit <= to; bit++) taken.set(bit, name);
  return '';
}

function bitOf(bit: number, name: string, meaning: string, other: string): BitSpec {
  const levels = levelsIn(meaning);
  const low = LOW.test(`${name} ${meaning} ${other}`);
  return {
    bit,
    name,
    one: levels.one ?? (meaning || name),
    zero: levels.zero ?? (other || `not ${name}`),
    ...(low ? { active: 'low' as const } : {}),
    ...(RISE.test(`${meaning} ${other}`) ? { acts: 'rise' as const } : {}),
  };
}

/** The same table as text, to go on from: number, name, meaning of 1, meaning of 0, parted by tabs. */
export const bitTableText = (bits: readonly BitSpec[], fields: readonly FieldSpec[] = []): string =>
  [
    ...bits.map(({ bit, name, one, zero }) => [`${bit}`, name, one, zero]),
    ...fields.map(({ from, width, name, values }) => [
      `${from}-${from + width - 1}`,
      name,
      values.map(({ value, name: text }) => `${value}: ${text}`).join(', '),
    ]),
  ]
    .map((cells) => cells.join('\t'))
    .join('\n');
