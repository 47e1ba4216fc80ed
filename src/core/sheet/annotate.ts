import { leavesOf, type Field } from '../bytes/field';
import type { ModbusMessage } from '../modbus/message';
import { registersRead, registersWritten, TABLE_OF_FUNCTION } from '../modbus/touched';
import { TABLE_NAMES, type ModbusTable } from '../registers/notation';
import type { PlacedParameter, SheetIndex } from './index-sheet';
import { wordText } from './describe';

/** First register that the values of a message belong to; a reply to a read does not say it, its request does. */
export function firstRegister(message: ModbusMessage, request: ModbusMessage | null): number | null {
  // A reply to a read brings what its request named; everything else names its registers itself.
  const reads = request && registersRead(request);
  if (message.values && message.address === undefined && message.writeAddress === undefined)
    return reads?.first ?? null;
  return registersWritten(message)?.first ?? registersRead(message)?.first ?? null;
}

const REGISTER_FIELDS: ReadonlySet<string> = new Set(['address', 'readAddress', 'writeAddress']);
/** `11.03 speed reference`, or the bare register where the sheet has none: it says nothing of coils and inputs. */
export const registerName = (
  index: SheetIndex | null,
  address: number,
  table: ModbusTable = 'holding-register',
): string => {
  if (table !== 'holding-register') return `${TABLE_NAMES[table]} ${address}`;
  const parameter = index?.byAddress.get(address);
  return parameter ? `${parameter.number} ${parameter.name}` : `register ${address}`;
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
  const table = message ? TABLE_OF_FUNCTION[message.fc] : undefined;
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
    const parameter = index?.byAddress.get(register);
    return index && parameter
      ? valueText(index, parameter, field.value, leavesOf(fields).length > 8)
      : `register ${register}: ${field.text}`;
  };
  const walk = (field: Field): Field => ({
    ...field,
    text: textOf(field) ?? field.text,
    ...(field.children ? { children: field.children.map(walk) } : {}),
  });
  return fields.map(walk);
}

const valueText = (index: SheetIndex, parameter: PlacedParameter, word: number, named: boolean): string => {
  const text = wordText(index, parameter, word);
  return named ? `${parameter.name} ${text}` : text;
};
