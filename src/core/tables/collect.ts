import type { ModbusTable } from '../registers/tables';
import type { BitName, Choice } from '../values/described';
import { withoutFootnote } from './cells';
import { columnFacts, withoutMarks, type ColumnFacts } from './column-facts';
import type { ColumnRole } from './columns';
import type { Block, PlacedRow, Roles } from './layout';
import { tableIn, type Legend } from './legend';
import { plain, type DecimalMark } from './numbers';
import { parameterOf, type TableParameter } from './parameter-of';
import { placeOf } from './place-cell';
import { isKey } from './roles';

export interface Around {
  readonly legend: Legend;
  readonly mark: DecimalMark;
  readonly table: ModbusTable | null;
}

export interface UnreadLine {
  readonly line: number;
  readonly text: string;
  readonly why: string;
}

const MARK_ALONE = /^(?:[*†‡§■□●○◆▲✻#¹²³⁴⁵⁶]{1,3}|\(?[\dA-Z]\))$/u;

/** A sentence or a title: one piece, or a mark with its meaning. */
export function isSentence({ single, cells }: PlacedRow): boolean {
  const filled = cells.filter((cell) => cell.trim() !== '');
  return single || (filled.length === 2 && MARK_ALONE.test(filled[0]?.trim() ?? ''));
}

/** A row while others may still go on with it. */
interface OpenRow {
  readonly line: number;
  readonly key: string;
  readonly cells: Map<ColumnRole, string>;
  readonly read: (cells: ReadonlyMap<ColumnRole, string>) => TableParameter;
}

/** Entries of a table of bits or choices, which belong to a parameter that a sentence names or that stands before. */
interface Detail {
  readonly title: string;
  readonly before: OpenRow | null;
  readonly bits: BitName[];
  readonly choices: Choice[];
}

/** What was found in a table so far: rows, details that belong to them, lines that could not be read. */
export class Collected {
  readonly unread: UnreadLine[] = [];
  readonly #rows: OpenRow[] = [];
  readonly #details: Detail[] = [];
  /** The last title or sentence, and the table that one of them named. */
  title = '';
  table: ModbusTable | null = null;

  /** Whether the row that was read last was refused: what goes on with it belongs to no parameter. */
  #isRefused = false;

  get last(): OpenRow | null {
    return this.#isRefused ? null : (this.#rows[this.#rows.length - 1] ?? null);
  }

  open(row: OpenRow): void {
    this.#isRefused = false;
    this.#rows.push(row);
  }

  refuse(line: UnreadLine): void {
    this.#isRefused = true;
    this.unread.push(line);
  }

  /** A row without a key under a refused one is kept with its text. */
  goOnRefused(text: string): void {
    const line = this.#isRefused ? this.unread.pop() : undefined;
    if (line) this.unread.push({ ...line, text: `${line.text}\n${text}` });
  }

  detail(): Detail {
    const made: Detail = { title: this.title, before: this.last, bits: [], choices: [] };
    this.#details.push(made);
    return made;
  }

  parameters(): readonly TableParameter[] {
    const made = this.#rows.map((row) => ({ row, parameter: row.read(row.cells) }));
    const byKey = new Map(made.map(({ parameter }, i) => [parameter.key.toLowerCase(), i]));
    const all = made.map(({ parameter }) => parameter);
    for (const { title, before, bits, choices } of this.#details) {
      const words = title.toLowerCase();
      const named = [...words.matchAll(/[\w.:#%$-]+/g)]
        .map(([word]) => byKey.get(word.replace(/[.:]$/, '')))
        .find((i) => i !== undefined);
      const byName = all.findIndex(({ name }) => name.length > 3 && words.includes(name.toLowerCase()));
      const at = named ?? (byName >= 0 ? byName : made.findIndex(({ row }) => row === before));
      const target = all[at];
      if (target)
        all[at] = { ...target, bitNames: [...target.bitNames, ...bits], choices: [...target.choices, ...choices] };
    }
    return all;
  }
}

/** Reads one block of rows by the roles of its columns into what was found. */
export function readBlock(block: Block, roles: Roles, around: Around, found: Collected): void {
  const hasKeys = roles.includes('address') || roles.includes('number');
  if (block.headings && roles.includes('bit') && !hasKeys) return readDetails(block, roles, found, 'bit');
  if (block.headings && roles.includes('value') && !hasKeys) return readDetails(block, roles, found, 'value');
  const column = columnFacts(block, roles, around.legend, around.mark);
  for (const row of block.rows) {
    if (isSentence(row)) {
      found.title = row.text;
      found.table = tableIn(row.text) ?? found.table;
      continue;
    }
    takeRow(row, roles, column, around, found);
  }
}

function takeRow(row: PlacedRow, roles: Roles, column: ColumnFacts, around: Around, found: Collected): void {
  const cells = new Map<ColumnRole, string>();
  roles.forEach((role, i) => {
    const cell = row.cells[i]?.trim() ?? '';
    if (cell !== '') cells.set(role, cells.has(role) ? `${cells.get(role) ?? ''}\n${cell}` : cell);
  });
  const address = withoutMarks(cells.get('address') ?? '');
  const number = withoutMarks(cells.get('number') ?? '');
  const keyText = number === '' ? address : number;
  const bit = /^(?:bit\s*|b)?(\d{1,2})$/i.exec(cells.get('bit') ?? '')?.[1];
  const bitText = `bit ${bit ?? ''}: ${cells.get('name') ?? cells.get('note') ?? ''}`;
  if (bit !== undefined && found.last && (keyText === '' || keyText === found.last.key))
    return append(found.last, 'note', bitText);
  const bitRow = /^(?:bit\s*|b|\.)(\d{1,2})$/i.exec(keyText);
  if (bitRow && found.last)
    return append(found.last, 'note', `bit ${bitRow[1] ?? ''}: ${cells.get('name') ?? cells.get('note') ?? ''}`);
  if (keyText === '' || (roles.includes('address') && address === '' && cells.size <= 2 && !isKey(number))) {
    if (found.last && cells.size < Math.max(4, roles.length / 2)) return goOn(found.last, cells);
    if (cells.size > 2)
      found.refuse({ line: row.line, text: row.text, why: 'no number and no address stands in this row' });
    else found.goOnRefused(row.text.trim());
    return;
  }
  const target = placeOf(address, number, cells, column, around.legend, around.table ?? found.table);
  if (target === 'no-key') {
    // Words alone in front of a table are a title; with cells behind they look like a row.
    if (cells.size > 2 || (cells.size === 2 && /\d/.test(keyText)))
      found.refuse({ line: row.line, text: row.text, why: `“${keyText}” is no address and no parameter number` });
    else {
      found.title = row.text;
      found.table = tableIn(row.text) ?? found.table;
    }
    return;
  }
  if (cells.size === 1 && roles.length > 2) {
    found.refuse({ line: row.line, text: row.text, why: 'nothing stands beside the number' });
    return;
  }
  if (bit !== undefined) {
    cells.set('note', bitText);
    cells.delete('name');
  }
  found.open({
    line: row.line,
    key: keyText,
    cells,
    read: (all) => parameterOf(row.line, target, all, column, around.legend, around.mark),
  });
}

/** A row whose key is missing goes on with the one before it. */
function goOn(last: OpenRow, cells: ReadonlyMap<ColumnRole, string>): void {
  for (const [role, text] of cells) {
    const isDetail =
      role === 'name' && (/^(?:bit\s*|b)\d{1,2}\b/i.test(text) || /^-?\d+\s*[:=–-]\s*\S/.test(plain(text)));
    append(last, isDetail ? 'note' : role, text);
  }
}

/** What begins a choice, a bit or a value of its own; other lines go on with the sentence above. */
const NEXT_ITEM = /^(?:[-−+]?[\d.,]+\b|bits?\b|b\d)/i;

function append(row: OpenRow, role: ColumnRole, text: string): void {
  const before = row.cells.get(role);
  const isWord = role === 'name' || role === 'unit' || role === 'access';
  const joined =
    isWord && before?.endsWith('-') && /^[a-zà-ü]/.test(text)
      ? `${before.slice(0, -1)}${text}`
      : `${before ?? ''}${isWord || !NEXT_ITEM.test(text) ? ' ' : '\n'}${text}`;
  row.cells.set(role, before === undefined ? text : joined);
}

function readDetails(block: Block, roles: Roles, found: Collected, kind: 'bit' | 'value'): void {
  let detail = found.detail();
  for (const row of block.rows) {
    if (isSentence(row)) {
      found.title = row.text;
      detail = found.detail();
      continue;
    }
    const cell = (role: ColumnRole): string => row.cells[roles.indexOf(role)]?.trim() ?? '';
    const text = withoutFootnote(cell('name') || cell('choices') || cell('range') || cell('note'));
    const digits = /^(?:bits?\s*|b)?(-?\d{1,5}|0x[0-9a-f]{1,4})$/i.exec(plain(cell(kind)))?.[1];
    if (digits !== undefined && text !== '') {
      if (kind === 'bit') detail.bits.push({ bit: Number(digits), text });
      else detail.choices.push({ value: Number(digits), text });
    } else if (cell(kind) === '' && text !== '') {
      const list = kind === 'bit' ? detail.bits : detail.choices;
      const last = list.pop();
      if (last) (list as { text: string }[]).push({ ...last, text: `${last.text} ${text}` });
    } else if (text !== '' && !/^(?:bits?\s*)?\d+\s*(?:-|–|…|\.\.+|to)\s*\d+$/i.test(cell(kind)))
      found.unread.push({
        line: row.line,
        text: row.text,
        why: `“${cell(kind)}” is no ${kind === 'bit' ? 'bit' : 'value'}`,
      });
  }
}
