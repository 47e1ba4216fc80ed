import { readAddress } from '../registers/notation';
import { accessIn, bitNamesIn, choicesIn, numberIn, rangeIn, scaleIn, sizeIn, typeIn, whenIn, YES, NO } from './cells';
import type { ColumnRole } from './columns';
import type { Block, Roles } from './layout';
import { tableIn } from './legend';
import type { DecimalMark } from './numbers';
import { knownUnit } from './units';

/** A parameter's number, as manuals print them: `P1.02`, `12-03`, `0x2003:01`, `F101`, `1042`. */
const KEY =
  /^(?:[A-Za-z]{1,4}[ ._-]?)?\d{1,6}(?:[.\-:/]\d{1,4}){0,2}[A-Za-z]?$|^[0-9A-Fa-f]{4}(?::[0-9A-Fa-f]{1,2}|h)$|^0x[0-9A-Fa-f]{1,6}(?:[:.][0-9A-Fa-f]{1,3})?$|^(?:(?:BYTE|D?WORD)#)?16#[0-9A-Fa-f]{1,6}$|^&H[0-9A-Fa-f]{1,6}$|^\$[0-9A-Fa-f]{1,4}$/;

/** Whether a text looks like a number or an address that names an entry. */
export const isKey = (text: string): boolean => KEY.test(text);

/** A short code of letters, such as a drive's display shows; a key only where a whole column holds such. */
export const isCode = (text: string): boolean => /^[A-Za-z][A-Za-z0-9._-]{1,5}$/.test(text);

/** One register, or several in a row: `40108`, `40108-40109`, `40108/09`, `40108, 40109`. */
const SEVERAL = /^(\S+?)\s*(?:\.{2,3}|…|–|—|-|\/|,|;|\+|\bto\b|\bbis\b|\bà\b)\s*(\S+)$/;

export interface AddressCell {
  readonly first: string;
  /** How many in a row the cell names; 1 for a single one. */
  readonly count: number;
}

/** What stands in the cell of an address, without what it means yet; null where it is none. */
export function addressCellIn(cell: string): AddressCell | null {
  const text = cell.trim();
  if (readAddress(text).length > 0 || /^[0-9A-Fa-f]{3,4}$/.test(text)) return { first: text, count: 1 };
  const [, first = '', last = ''] = SEVERAL.exec(text) ?? [];
  const [from, to] = [readAddress(first)[0], readAddress(last)[0]];
  if (!from || !to) return null;
  const short =
    /^\d{1,3}$/.test(last) && last.length < first.length
      ? Number(`${first.slice(0, first.length - last.length)}${last}`) - Number(first)
      : to.address - from.address;
  return short > 0 && short < 128 ? { first, count: short + 1 } : null;
}

const EMPTY = /^[-–—/.]*$/;

/** Whether a cell may be what a role says. Roles of free text fit everything. */
const FITS: Readonly<Partial<Record<ColumnRole, (cell: string, mark: DecimalMark) => boolean>>> = {
  address: (cell) => addressCellIn(cell) !== null,
  number: (cell) => isKey(cell.replace(/[*†‡¹²³]+$/, '')) || isCode(cell),
  access: (cell) => accessIn(cell.replace(/[\s,;(].*$/, '')) !== null || accessIn(cell) !== null,
  when: (cell) => whenIn(cell) !== null,
  'changed-while-running': (cell) => YES.test(cell) || NO.test(cell) || whenIn(cell) !== null,
  type: (cell) =>
    typeIn(cell) !== null ||
    /^(?:enum|bit ?(?:field|map|mask)|bcd|\d+[ -]?bits?|(?:un)?signed|integer|list|date|time)\b/i.test(cell),
  size: (cell) => sizeIn(cell, 'words') !== null,
  unit: (cell, mark) =>
    knownUnit(cell) !== null || (scaleIn(cell, '', mark)?.unit ?? null) !== null || /^\S{1,8}$/.test(cell),
  scale: (cell, mark) => scaleIn(cell, '', mark) !== null,
  decimals: (cell) => /^-?\d$/.test(cell),
  range: (cell, mark) =>
    rangeIn(cell, mark) !== null ||
    choicesIn(cell, 1).length > 0 ||
    bitNamesIn(cell).length > 0 ||
    numberIn(cell, mark) !== null,
  min: (cell, mark) => numberIn(cell, mark) !== null,
  max: (cell, mark) => numberIn(cell, mark) !== null,
  table: (cell) => tableIn(cell) !== null || /^0?x?[0-9, /]{1,8}$/.test(cell),
  bit: (cell) => /^(?:bits?\s*|b)?\d{1,2}(?:\s*(?:-|–|\.\.\.?|to)\s*\d{1,2})?$/i.test(cell),
};

/** What a column without a known heading holds, tried in this order; each of them is hard to mistake. */
const BY_CONTENT: readonly (readonly [ColumnRole, (cell: string, mark: DecimalMark) => boolean])[] = [
  ['access', (cell) => accessIn(cell) !== null && !/^[elsw]$/i.test(cell)],
  ['type', (cell) => typeIn(cell) !== null],
  ['table', (cell) => tableIn(cell) !== null],
  ['when', (cell) => whenIn(cell) !== null],
  ['choices', (cell) => choicesIn(cell).length > 0],
  ['range', (cell, mark) => rangeIn(cell, mark) !== null || choicesIn(cell).length > 0],
  ['unit', (cell) => knownUnit(cell) !== null],
  ['scale', (cell, mark) => /[=x×*/÷]/.test(cell) && scaleIn(cell, '', mark) !== null],
];

/** Roles of all columns of a block: what the headings say where the cells agree, else what the cells are. */
export function rolesOf(block: Block, mark: DecimalMark): Roles {
  const rows = block.rows.filter(({ single }) => !single);
  const width = Math.max(block.headings?.length ?? 0, ...rows.map(({ cells }) => cells.length));
  const columns = Array.from({ length: width }, (_, i) =>
    rows.slice(0, 400).flatMap(({ cells }) => {
      const cell = cells[i]?.trim() ?? '';
      return EMPTY.test(cell) ? [] : [cell];
    }),
  );
  const share = (cells: readonly string[], fits: (cell: string, mark: DecimalMark) => boolean): number =>
    cells.length === 0 ? 0 : cells.filter((cell) => fits(cell, mark)).length / cells.length;
  const taken = new Set<ColumnRole>();
  const roles = columns.map((cells, i): ColumnRole | null => {
    const said = block.headings?.[i]?.role ?? null;
    const fits = said && FITS[said];
    if (!said || (fits && cells.length > 0 && share(cells, fits) < 0.34)) return null;
    taken.add(said);
    return said;
  });
  const isNamed = (i: number): boolean =>
    block.headings?.[i]?.role === 'number' && share(columns[i] ?? [], (cell) => /[A-Za-zÀ-ü]{3}/.test(cell)) > 0.6;
  const guessed = roles.map((role, i): ColumnRole => {
    // `Parameter` stands above names too; what was taken for the name then says more about it.
    if (role === 'name' && roles.some((other, n) => other === null && isNamed(n))) return 'note';
    if (role) return role;
    if (isNamed(i)) return 'name';
    const cells = columns[i] ?? [];
    const found = BY_CONTENT.find(([candidate, fits]) => !taken.has(candidate) && share(cells, fits) >= 0.7)?.[0];
    if (found) taken.add(found);
    return found ?? 'note';
  });
  if (
    block.headings &&
    !guessed.some((role) => role === 'number' || role === 'address' || role === 'bit' || role === 'value')
  ) {
    const keys = columns.findIndex((cells, i) => guessed[i] !== 'name' && share(cells, isKey) >= 0.7);
    if (keys >= 0) return guessed.map((role, i) => (i === keys ? 'number' : role));
  }
  return block.headings ? guessed : withoutHeadings(guessed, columns, share);
}

/** Without headings: the first column of keys, the first one of words, then numbers: one is a default, three are limits and default. */
function withoutHeadings(
  guessed: Roles,
  columns: readonly (readonly string[])[],
  share: (cells: readonly string[], fits: (cell: string, mark: DecimalMark) => boolean) => number,
): Roles {
  const roles = [...guessed];
  const free = (i: number): boolean => roles[i] === 'note' || roles[i] === 'range';
  const keys = columns.flatMap((cells, i) =>
    free(i) && share(cells, (cell) => isKey(cell) || addressCellIn(cell) !== null) >= 0.7 ? [i] : [],
  );
  const [first, second] = keys;
  if (first === undefined) return roles;
  const isAddress = (i: number): boolean => share(columns[i] ?? [], (cell) => addressCellIn(cell) !== null) >= 0.7;
  const words = columns.findIndex(
    (cells, i) => roles[i] === 'note' && i !== first && share(cells, (cell) => /[A-Za-zÀ-ü]{3}/.test(cell)) >= 0.6,
  );
  roles[first] = isAddress(first) ? 'address' : 'number';
  if (second !== undefined && second < (words < 0 ? 2 : words) && isAddress(second)) {
    roles[first] = 'number';
    roles[second] = 'address';
  }
  if (words >= 0) roles[words] = 'name';
  const numbers = columns.flatMap((cells, i) =>
    roles[i] === 'note' && share(cells, (cell, mark) => numberIn(cell, mark) !== null) >= 0.7 ? [i] : [],
  );
  const order: readonly ColumnRole[] =
    numbers.length >= 3 ? ['min', 'max', 'default'] : numbers.length === 2 ? ['min', 'max'] : ['default'];
  numbers.slice(0, order.length).forEach((i, n) => (roles[i] = order[n] ?? 'note'));
  return roles;
}
