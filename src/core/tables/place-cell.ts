import { addressOf } from '../registers/address';
import type { ModbusTable } from '../registers/tables';
import { readAddress, type AddressReading } from '../registers/notation';
import type { ColumnFacts } from './column-facts';
import type { ColumnRole } from './columns';
import { tableIn, type Legend } from './legend';
import { addressCellIn, isCode, isKey } from './roles';

/** What a row's key says of where the value is. */
export interface Target {
  readonly key: string;
  readonly address: number | null;
  readonly table: ModbusTable | null;
  /** Registers that the cell itself names. */
  readonly count: number;
}

/** Where an entry is reached, from its cells for address, number, table and size. */
export function placeOf(
  address: string,
  number: string,
  cells: ReadonlyMap<ColumnRole, string>,
  column: ColumnFacts,
  legend: Legend,
  context: ModbusTable | null,
): Target | 'no-key' {
  const key = number === '' ? address : number;
  const named = tableIn(cells.get('table') ?? '') ?? tableOfCode(cells.get('table')) ?? column.table ?? context;
  const cell = address === '' ? null : addressCellIn(address);
  if (address !== '' && !cell) return 'no-key';
  if (cell) {
    const reading = readingOf(cell.first, named, column, legend);
    if (!reading && number === '') return 'no-key';
    return { key, address: reading?.address ?? null, table: reading?.table ?? named, count: cell.count };
  }
  if (!isKey(key) && !(column.hasCodes && isCode(key))) return 'no-key';
  const { rule } = legend;
  const plainNumber = key.replace(/^[A-Za-z]+[ ._-]?/, '').replace(/[-:]/, '.');
  const worked =
    rule &&
    (addressOf(rule, plainNumber) ?? (rule.kind === 'number' ? addressOf(rule, plainNumber.replace('.', '')) : null));
  if (worked) return { key, address: worked.address, table: named, count: 1 };
  const [sure] = readAddress(key).filter(
    ({ form }) => form === 'prefixed' || form === 'word' || form === 'reference-6',
  );
  const reference = /^[34]\d{4}$/.test(key) ? readAddress(key)[0] : undefined;
  const said = sure ?? reference;
  return { key, address: said?.address ?? null, table: said ? (said.table ?? named) : null, count: 1 };
}

/** A function code as a table: 3, 03, 0x04, `3, 6, 16`. */
function tableOfCode(cell: string | undefined): ModbusTable | null {
  const [, code] = /^\s*(?:0x|fc\s*)?0?(\d{1,2})h?\b/i.exec(cell ?? '') ?? [];
  return code === undefined ? null : tableIn(`function ${code}`);
}

function readingOf(
  text: string,
  table: ModbusTable | null,
  column: ColumnFacts,
  legend: Legend,
): AddressReading | null {
  const isBareHex = column.isHex && /^[0-9A-F]{1,4}$/i.test(text);
  if (isBareHex) return { table, address: parseInt(text, 16) + legend.offset - legend.countsFrom, form: 'hex' };
  const readings = readAddress(text);
  const reference = readings.find(
    ({ form }) => form === 'reference-5' || form === 'reference-6' || form === 'prefixed' || form === 'word',
  );
  if (reference && (column.areReferences || reference.form === 'prefixed' || reference.form === 'word'))
    return reference;
  const rule = legend.rule && addressOf(legend.rule, text);
  if (rule) return { table, address: rule.address, form: 'from-0' };
  const plainOne = readings.find(({ form }) => form === 'from-0' || form === 'hex');
  if (!plainOne) return reference ?? null;
  const address = plainOne.address + legend.offset - (plainOne.form === 'hex' ? 0 : legend.countsFrom);
  return address < 0 || address > 0xffff ? null : { ...plainOne, table, address };
}
