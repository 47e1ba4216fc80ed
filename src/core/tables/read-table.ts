import type { ModbusTable } from '../registers/tables';
import { Collected, isSentence, readBlock, type UnreadLine } from './collect';
import type { ColumnRole } from './columns';
import { blocksOf, type Block, type Roles } from './layout';
import { readLegend } from './legend';
import { looseRows } from './loose-rows';
import { decimalMarkOf, plain, type DecimalMark } from './numbers';
import type { TableParameter } from './parameter-of';
import { isKey, rolesOf } from './roles';
import { partingOf, splitRows, type Parting } from './split';

export interface TableReading {
  readonly parting: Parting;
  readonly mark: DecimalMark;
  readonly columns: readonly { readonly index: number; readonly role: ColumnRole; readonly heading: string | null }[];
  readonly parameters: readonly TableParameter[];
  /** Lines that look like a row and gave no parameter. */
  readonly unread: readonly UnreadLine[];
  /** Whether values of several registers have their low word first. */
  readonly lowFirst: { readonly whole: boolean; readonly float: boolean };
  /** What the sentences around the table were taken for. */
  readonly said: readonly string[];
}

/** What a user sets by hand instead of what was recognised. */
export interface TableSettings {
  readonly parting?: Parting;
  readonly roles?: Roles;
  readonly mark?: DecimalMark;
  readonly countsFrom?: 0 | 1;
  readonly offset?: number;
  readonly table?: ModbusTable;
}

/** Beyond this a text is cut: no manual's table is longer. */
const LONGEST_TEXT = 4_000_000;
const LONGEST_LINE = 4_000;
const PAGE_LINE = /^\W*(?:(?:page|seite|p\.|pag\.?)\s*)?\d{1,4}(?:\s*(?:\/|of|von|sur|de)\s*\d{1,4})?\W*$/i;
const FOOTER =
  /\b(?:page|seite|manual|handbuch|manuel|edition|ausgabe|revision|rev\.|chapter|kapitel|chapitre|continued|fortsetzung|suite|copyright)\b|©/i;

/**
 * Reads parameters from rows copied from a manual's page, a spreadsheet or a CSV file. Linear in the text; never throws; nothing is lost: what looks
 * like a row and is none stands in `unread` with its reason.
 */
export function readTable(text: string, settings: TableSettings = {}): TableReading {
  const whole = tidy(text);
  const reading = readWhole(whole, settings);
  const loose = reading.parameters.length === 0 ? looseRows(whole) : null;
  return loose === null
    ? reading
    : readWhole(loose, { ...settings, parting: 'tab', roles: settings.roles ?? LOOSE_ROLES });
}

const LOOSE_ROLES: Roles = ['address', 'name', 'range', 'default', 'access'];

/** One kind of line end, no invisible hyphens, no line or text of absurd length. */
const tidy = (text: string): string =>
  text
    .slice(0, LONGEST_TEXT)
    .replace(/\r\n?/g, '\n')
    .replace(/[\f\v]/g, '\n')
    .replace(/\u00AD/g, '')
    .split('\n')
    .map((line) => line.slice(0, LONGEST_LINE))
    .join('\n');

function readWhole(whole: string, settings: TableSettings): TableReading {
  const parting = settings.parting ?? partingOf(whole);
  const rows = withoutFooters(splitRows(whole, parting));
  const blocks = blocksOf(rows, parting);
  const mark = settings.mark ?? markOf(blocks, parting);
  const sentences = blocks.flatMap((block) => block.rows.filter(isSentence).map(({ text: line }) => line));
  const said = readLegend(sentences);
  const legend = {
    ...said,
    countsFrom: settings.countsFrom ?? said.countsFrom,
    offset: settings.offset ?? said.offset,
  };
  const found = new Collected();
  const columns = blocks.map((block) => settings.roles ?? rolesOf(block, mark));
  blocks.forEach((block, i) =>
    readBlock(block, columns[i] ?? [], { legend, mark, table: settings.table ?? null }, found),
  );
  const main = Math.max(
    0,
    columns.findIndex((roles) => roles.includes('address') || roles.includes('number')),
  );
  return {
    parting,
    mark,
    columns: (columns[main] ?? []).map((role, index) => ({
      index,
      role,
      heading: blocks[main]?.headings?.[index]?.words ?? null,
    })),
    parameters: found.parameters(),
    unread: found.unread,
    lowFirst: said.lowFirst,
    said: said.said,
  };
}

const NUMERIC: ReadonlySet<ColumnRole> = new Set(['range', 'min', 'max', 'default', 'scale', 'unit', 'note']);
/** Headings of languages that write decimals behind a comma. */
const COMMA_LANGUAGE =
  /bezeichnung|einheit|werk|zugriff|bereich|unite|plage|reglage|usine|acces|designation|ander|grenze|beschreibung/i;

/** The decimal mark of the columns that hold numbers: a parameter's number may have a point of its own. */
function markOf(blocks: readonly Block[], parting: Parting): DecimalMark {
  const headings = blocks.flatMap(({ headings: all }) => all?.map((one) => one?.words ?? '') ?? []).join(' ');
  const usual = parting === 'semicolon' || COMMA_LANGUAGE.test(headings) ? ',' : '.';
  const cells = blocks.flatMap((block) => {
    const roles = rolesOf(block, usual);
    return block.rows.flatMap(({ cells: row, single }) =>
      single ? [] : row.filter((_, i) => NUMERIC.has(roles[i] ?? 'ignored')),
    );
  });
  return decimalMarkOf(plain(cells.join('\n')), usual);
}

/** Page numbers, and lines that come back on every page with another number in them. */
function withoutFooters(rows: ReturnType<typeof splitRows>): ReturnType<typeof splitRows> {
  const shape = (text: string): string => text.replace(/\d+/g, '#').replace(/\s+/g, ' ').trim();
  const seen = new Map<string, number>();
  for (const { text } of rows) seen.set(shape(text), (seen.get(shape(text)) ?? 0) + 1);
  return rows.filter(({ text, cells }) => {
    const isPage = PAGE_LINE.test(text) && cells.filter((cell) => cell.text.trim() !== '').length === 1;
    const first = cells.find((cell) => cell.text.trim() !== '')?.text.trim() ?? '';
    const comesBack = (seen.get(shape(text)) ?? 0) > 1 || /\b(?:page|seite)\b/i.test(text);
    return !isPage && !(FOOTER.test(text) && comesBack && !isKey(first) && cells.length < 5);
  });
}
