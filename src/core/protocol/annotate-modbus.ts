import { leavesOf, type Field } from '../bytes/field';
import type { ModbusMessage } from '../modbus/message';
import { readBy, tableOfFunction, writtenBy } from '../modbus/touched';
import { TABLE_NAMES, type ModbusTable } from '../registers/tables';
import { ownCell, type SheetIndex } from '../sheet/index-sheet';
import { cellsText } from '../drive/cells-text';
import { registerCell } from '../sheet/place';

/** First register that the values of a message belong to; a reply to a read does not say it, its request does. */
export function firstRegister(message: ModbusMessage, request: ModbusMessage | null): number | null {
  // A reply to a read brings what its request named; everything else names its registers itself.
  const reads = request && readBy(request);
  if (message.values && message.address === undefined && message.writeAddress === undefined)
    return reads?.first ?? null;
  return writtenBy(message)?.first ?? readBy(message)?.first ?? null;
}

const REGISTER_FIELDS: ReadonlySet<string> = new Set(['address', 'readAddress', 'writeAddress']);
/** `11.03 speed reference`, or the bare place where the sheet has none; a further word of a wide value says which one it is. */
export const registerName = (
  index: SheetIndex | null,
  address: number,
  table: ModbusTable = 'holding-register',
): string => {
  const cell = registerCell(address, table);
  const parameter = index?.byCell.get(cell);
  const bare = table === 'holding-register' ? `register ${address}` : `${TABLE_NAMES[table]} ${address}`;
  if (!parameter) return bare;
  const part = parameter.cells.indexOf(ownCell(index, cell));
  return `${parameter.number} ${parameter.name}${part > 0 ? `, word ${part + 1} of ${parameter.cells.length}` : ''}`;
};

/**
 * Adds what a sheet knows to the texts of a frame's fields: station names, parameter numbers, values with unit and state.
 * Structure, paths and byte ranges stay.
 */
export function annotate(
  fields: readonly Field[],
  message: ModbusMessage | null,
  request: ModbusMessage | null,
  index: SheetIndex | null,
  stationName: (station: number) => string | null,
): readonly Field[] {
  const first = message ? firstRegister(message, request) : null;
  const table = message ? tableOfFunction(message.fc) : undefined;
  const textOf = (field: Field): string | null => {
    if (field.path === 'unit' && typeof field.value === 'number') {
      const name = stationName(field.value);
      return name ? `${field.value} · ${name}` : null;
    }
    if (REGISTER_FIELDS.has(field.path) && typeof field.value === 'number' && index && table)
      return registerName(index, field.value, table);
    const place = /^values\[(\d+)\]$/.exec(field.path)?.[1];
    if (place === undefined || first === null || typeof field.value !== 'number') return null;
    const register = first + parseInt(place, 10);
    const cell = registerCell(register, table);
    const parameter = index?.byCell.get(cell);
    if (!index || !parameter) return `register ${register}: ${field.text}`;
    const part = parameter.cells.indexOf(ownCell(index, cell));
    // A value of several words is said at its first one, from all of them.
    const words = (message?.values ?? []).slice(parseInt(place, 10), parseInt(place, 10) + parameter.cells.length);
    if (part > 0 || words.length !== parameter.cells.length)
      return `${registerName(index, register, table)}: ${field.text}`;
    const text = cellsText(index, parameter, words);
    return leavesOf(fields).length > 8 ? `${parameter.name} ${text}` : text;
  };
  const walk = (field: Field): Field => ({
    ...field,
    text: textOf(field) ?? field.text,
    ...(field.children ? { children: field.children.map(walk) } : {}),
  });
  return fields.map(walk);
}
