import { hexNumber } from '../bytes/hex';
import { counted } from '../counted';
import { EXCEPTIONS } from '../modbus/exceptions';
import { functionName, specOf } from '../modbus/lookup';
import { readBy, tableOfFunction, writtenBy, type RegisterRange, type TableRange } from '../modbus/touched';
import { TABLE_NAMES, type ModbusTable } from '../registers/tables';
import { registerCell } from '../sheet/place';
import type { ModbusMessage } from '../modbus/message';
import { firstRegister, registerName } from './annotate-modbus';
import { cellsText } from '../drive/cells-text';
import { ownCell, type PlacedParameter, type SheetIndex } from '../sheet/index-sheet';

const MOST_NAMED = 5;

/** A request in a line: `write 11.03 speed reference ← 3909 = 17.498 Hz`. */
export function requestSentence(message: ModbusMessage, index: SheetIndex | null): string {
  const { fc, andMask, orMask, address = 0 } = message;
  if (andMask !== undefined && orMask !== undefined)
    return `mask ${registerName(index, address)}: keep ${hexNumber(andMask)}, set ${hexNumber(orMask)}`;
  const [writes, reads] = [writtenBy(message), readBy(message)];
  const parts = [...(writes ? [writeSentence(writes, index)] : []), ...(reads ? [readSentence(reads, index)] : [])];
  if (parts.length > 0) return parts.join(', then ');
  const table = tableOfFunction(fc);
  const name = functionName(fc, message.subFunction ?? message.meiType);
  if (table === 'coil') return `write coil ${address} ← neither on nor off`;
  return table && message.address !== undefined ? `read the queue at ${registerName(index, address, table)}` : name;
}

function writeSentence({ table, first, words }: TableRange, index: SheetIndex | null): string {
  if (table !== 'coil')
    return `write ${valuesOf(index, table, first, words)
      .map(({ address, text }) => `${registerName(index, address, table)} ← ${text}`)
      .slice(0, MOST_NAMED)
      .join(' · ')}${more(words.length)}`;
  return words.length === 1
    ? `write ${registerName(index, first, table)} ← ${words[0] === 1 ? 'on' : 'off'}`
    : `write ${counted(words.length, 'coil')} from ${first}`;
}

/** `read 6.02 to 6.05 · status word, torque, motor current, actual speed` */
function readSentence({ table, first, quantity }: RegisterRange, index: SheetIndex | null): string {
  const at = (i: number): PlacedParameter | undefined => index?.byCell.get(registerCell(first + i, table));
  const own = index ? parametersIn(at, quantity) : [];
  const holding = table === 'holding-register';
  if (!holding && own.length === 0) return `read ${counted(quantity, TABLE_NAMES[table])} from ${first}`;
  if (quantity <= 1) return `read ${registerName(index, first, table)}`;
  const [only] = own;
  if (
    own.length === 1 &&
    only &&
    only.cells.length === quantity &&
    only.cells[0] === ownCell(index, registerCell(first, table))
  )
    return `read ${only.number} ${only.name}`;
  const number = (i: number): string => at(i)?.number ?? `${holding ? 'register' : TABLE_NAMES[table]} ${first + i}`;
  const names = own.slice(0, MOST_NAMED).map(({ name }) => name);
  const named = own.slice(0, MOST_NAMED).reduce((sum, { cells }) => sum + cells.length, 0);
  const rest = quantity - named;
  const others = rest <= 0 ? '' : names.length === 0 ? counted(rest, 'register') : ` and ${rest} more`;
  return `read ${number(0)} to ${number(quantity - 1)} · ${names.join(', ')}${others}`;
}

/** The parameters of so many places, each once, in their order. */
function parametersIn(at: (i: number) => PlacedParameter | undefined, quantity: number): readonly PlacedParameter[] {
  const own = new Set<PlacedParameter>();
  for (let i = 0; i < quantity; i++) {
    const parameter = at(i);
    if (parameter) own.add(parameter);
  }
  return [...own];
}

/** A value of some words in a row, where it begins, and what the sheet calls it; nothing where there is no sheet or it has no name for it. */
interface SaidValue {
  readonly address: number;
  readonly short: string;
  readonly text: string;
}

/** Words in a row as values: those of one parameter together, others by themselves. */
function valuesOf(
  index: SheetIndex | null,
  table: ModbusTable,
  first: number,
  words: readonly number[],
): readonly SaidValue[] {
  const values: SaidValue[] = [];
  for (let i = 0; i < words.length && values.length <= MOST_NAMED; i++) {
    const address = first + i;
    const bare = `${words[i] ?? 0}`;
    const cell = index && registerCell(address, table);
    const parameter = cell && index.byCell.get(cell);
    if (!parameter) {
      values.push({ address, short: '', text: bare });
      continue;
    }
    const { name, cells } = parameter;
    const own = words.slice(i, i + cells.length);
    const part = cells.indexOf(ownCell(index, cell));
    if (part === 0 && own.length === cells.length) {
      values.push({ address, short: `${name} `, text: cellsText(index, parameter, own) });
      i += cells.length - 1;
    } else values.push({ address, short: `${name}${cells.length > 1 ? `, word ${part + 1}` : ''} `, text: bare });
  }
  return values;
}

/** A reply in a line; `request` tells which registers its values belong to. */
export function replySentence(message: ModbusMessage, request: ModbusMessage | null, index: SheetIndex | null): string {
  if (message.exception !== undefined) {
    const known = EXCEPTIONS[message.exception];
    return `refused, exception ${message.exception}: ${known ? `${known.name}; ${known.text}` : 'a code that the standard does not have'}`;
  }
  const { fc, values } = message;
  const spec = specOf(fc);
  if (spec?.writes && !readBy({ unit: 0, fc, address: 0, readAddress: 0 })) return 'confirmed';
  if (message.coils) return `${message.coils.slice(0, request?.quantity).join(' ')}, first one first`;
  const first = firstRegister(message, request);
  if (!values) return functionName(fc, message.subFunction ?? message.meiType);
  const table = tableOfFunction(request?.fc ?? fc) ?? 'holding-register';
  if (first === null) return `${values.slice(0, MOST_NAMED).join(' · ')}${more(values.length)}`;
  const said = valuesOf(index, table, first, values)
    .slice(0, MOST_NAMED)
    .map(({ short, text }) => `${short}${text}`);
  return `${placesOf(index, table, first, values.length)}${said.join(' · ')}${more(values.length)}`;
}

const more = (count: number): string => (count > MOST_NAMED ? ` and ${count - MOST_NAMED} more` : '');

/** Which registers a reply brings, where no sheet names them. */
function placesOf(index: SheetIndex | null, table: ModbusTable, first: number, count: number): string {
  if (index?.byCell.has(registerCell(first, table)) || (index && table === 'holding-register')) return '';
  const name = table === 'holding-register' ? 'register' : TABLE_NAMES[table];
  return count > 1 ? `${name}s ${first} to ${first + count - 1}: ` : `${name} ${first}: `;
}
