import type { ModbusTable } from '../registers/tables';
import { compare, divide, ratio } from '../scaling/rational';
import { rangeOfType } from '../values/type';
import { numberIn, rangeIn, scaleIn, typeIn } from './cells';
import type { ColumnRole, Heading } from './columns';
import type { Block, PlacedRow, Roles } from './layout';
import { tableIn, type Legend } from './legend';
import type { DecimalMark } from './numbers';
import { addressCellIn, isCode, isKey } from './roles';

/** What a whole column of addresses tells that no single cell does. */
export interface ColumnFacts {
  readonly isHex: boolean;
  /** Five digits in a row are references, and no plain numbers. */
  readonly areReferences: boolean;
  readonly table: ModbusTable | null;
  readonly headings: readonly (Heading | null)[];
  readonly limitsAreCounts: boolean;
  /** Keys are short codes of letters. */
  readonly hasCodes: boolean;
  /** Sizes without a noun are bits, else registers. */
  readonly sizesAreBits: boolean;
}

/** What only all cells of a column tell: base, form of addresses, where counting begins. */
export function columnFacts(block: Block, roles: Roles, legend: Legend, mark: DecimalMark): ColumnFacts {
  const at = roles.indexOf('address');
  const headings = block.headings ?? [];
  const cells = cellsOf(block, roles, 'address').map((cell) => addressCellIn(withoutMarks(cell))?.first ?? cell);
  const [numbers, sizes] = [cellsOf(block, roles, 'number'), cellsOf(block, roles, 'size')];
  const all = (form: RegExp): boolean => cells.length > 0 && cells.every((cell) => form.test(cell));
  const bare = /^[0-9A-F]{2,4}$/i;
  const heading = at < 0 ? null : (headings[at] ?? null);
  const isHex =
    /hex|16#|0x/i.test(heading?.inside ?? '') ||
    legend.isHex ||
    (cells.some((cell) => bare.test(cell) && /[A-F]/i.test(cell)) &&
      cells.filter((cell) => bare.test(cell)).length * 10 >= cells.length * 9);
  // References of coils and inputs look like plain numbers of five digits; rows of words with scales or signs cannot be such.
  const hasWords =
    ['scale', 'unit', 'min', 'range'].some((role) => roles.includes(role as ColumnRole)) &&
    !block.rows.some(({ text }) => /\bbool|\bcoil|\bdiscrete/i.test(text));
  const references = all(/^[0134]\d{4,5}$/) && !(hasWords && all(/^[01]\d{4}$/));
  const mixed = cells.some((cell) => /^\d{1,4}$/.test(cell) && !/^0/.test(cell));
  return {
    isHex,
    areReferences:
      references || (!mixed && cells.some((cell) => /^[34]\d{4,5}$/.test(cell)) && !(hasWords && all(/^[01]\d{4}$/))),
    table: tableIn(heading?.words ?? '') ?? tableIn(heading?.inside ?? ''),
    headings,
    hasCodes: share(numbers, isCode) > 0.7 && share(numbers, isKey) < 0.5,
    sizesAreBits: sizes.every((size) => /^(?:1|8|16|32|64)$/.test(size)) && sizes.some((size) => Number(size) > 8),
    limitsAreCounts: legend.limitsAreCounts || isCounts(headings, roles) || limitsOverflow(block, roles, mark),
  };
}

const cellsOf = (block: Block, roles: Roles, role: ColumnRole): readonly string[] =>
  block.rows.flatMap(({ cells, single }) => {
    const cell = single ? '' : (cells[roles.indexOf(role)]?.trim() ?? '');
    return cell === '' ? [] : [cell];
  });
const share = (cells: readonly string[], fits: (cell: string) => boolean): number =>
  cells.length === 0 ? 0 : cells.filter(fits).length / cells.length;

const isCounts = (headings: readonly (Heading | null)[], roles: Roles): boolean =>
  roles.some(
    (role, i) =>
      ['range', 'min', 'max'].includes(role) &&
      /raw|count|internal|dec|digit|roh|brut|inc/i.test(headings[i]?.inside ?? ''),
  );

/** A limit that its type could not hold if it were in the unit is a count, and so are those beside it. */
function limitsOverflow(block: Block, roles: Roles, mark: DecimalMark): boolean {
  const cell = (row: PlacedRow, role: ColumnRole): string => row.cells[roles.indexOf(role)]?.trim() ?? '';
  let over = false;
  for (const row of block.rows) {
    if (row.single) continue;
    const heading = block.headings?.[roles.indexOf('scale')]?.words ?? '';
    const scale = scaleIn(cell(row, 'scale'), heading, mark)?.scale ?? scaleIn(cell(row, 'unit'), '', mark)?.scale;
    const range = rangeIn(cell(row, 'range'), mark);
    const max = range?.max ?? numberIn(cell(row, 'max'), mark)?.value;
    if (!scale || !max || scale.den === 1n) continue;
    const decimals = range?.decimals ?? numberIn(cell(row, 'max'), mark)?.decimals ?? 0;
    if (decimals > 0 || (range?.unit ?? null) !== null) return false;
    const type = typeIn(cell(row, 'type')) ?? 'uint16';
    const most = rangeOfType(type)?.max;
    if (most !== undefined && compare(divide(max, scale), ratio(most)) > 0) over = true;
  }
  return over;
}

/** A cell without the footnote marks at its end. */
export const withoutMarks = (cell: string): string => cell.replace(/\s*[*†‡§¹²³⁴⁵■●]+\)?$/u, '').trim();
