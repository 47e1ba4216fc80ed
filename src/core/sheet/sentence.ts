import { hexNumber } from '../bytes/hex';
import { counted } from '../counted';
import { EXCEPTIONS } from '../modbus/exceptions';
import { functionName } from '../modbus/lookup';
import type { ModbusMessage } from '../modbus/message';
import { firstRegister, registerName } from './annotate';
import { wordText } from './describe';
import type { SheetIndex } from './index-sheet';

const MOST_NAMED = 5;

/** A request in a line: `write 11.03 speed reference ← 3909 = 17.498 Hz`. */
export function requestSentence(message: ModbusMessage, index: SheetIndex | null): string {
  const { fc, address, quantity, values } = message;
  const special = SPECIAL[fc]?.(message, index);
  if (special) return special;
  if (address === undefined) return functionName(fc, message.subFunction ?? message.meiType);
  if (values)
    return `write ${values
      .slice(0, MOST_NAMED)
      .map((word, i) => assignment(index, address + i, word))
      .join(' · ')}${more(values.length)}`;
  return readSentence(index, address, quantity ?? 0);
}

/** Requests that are neither a read nor a write of registers in a row. */
const SPECIAL: Readonly<Partial<Record<number, (message: ModbusMessage, index: SheetIndex | null) => string>>> = {
  1: ({ address = 0, quantity = 0 }) => `read ${counted(quantity, 'coil')} from ${address}`,
  2: ({ address = 0, quantity = 0 }) => `read ${counted(quantity, 'discrete input')} from ${address}`,
  4: ({ address = 0, quantity = 0 }) => `read ${counted(quantity, 'input register')} from ${address}`,
  5: ({ address = 0, coils }) =>
    `write coil ${address} ← ${coils?.[0] === 1 ? 'on' : coils ? 'off' : 'neither on nor off'}`,
  15: ({ address = 0, coils = [] }) => `write ${counted(coils.length, 'coil')} from ${address}`,
  22: ({ address = 0, andMask = 0, orMask = 0 }, index) =>
    `mask ${registerName(index, address)}: keep ${hexNumber(andMask)}, set ${hexNumber(orMask)}`,
  23: ({ readAddress = 0, readQuantity = 0, writeAddress = 0, values = [] }, index) =>
    `${requestSentence({ unit: 0, fc: 16, address: writeAddress, values }, index)}, then ${readSentence(index, readAddress, readQuantity)}`,
  24: ({ address = 0 }, index) => `read the queue at ${registerName(index, address)}`,
};

/** `read 6.02 to 6.05 · status word, torque, motor current, actual speed` */
function readSentence(index: SheetIndex | null, address: number, quantity: number): string {
  if (quantity <= 1) return `read ${registerName(index, address)}`;
  const number = (at: number): string => index?.byAddress.get(at)?.number ?? `register ${at}`;
  const known = Array.from({ length: quantity }, (_, i) => index?.byAddress.get(address + i)?.name).filter(
    (name) => name !== undefined,
  );
  const names = known.slice(0, MOST_NAMED);
  const rest = quantity - names.length;
  const others = rest === 0 ? '' : names.length === 0 ? counted(rest, 'register') : ` and ${rest} more`;
  return `read ${number(address)} to ${number(address + quantity - 1)} · ${names.join(', ')}${others}`;
}

/** A reply in a line; `request` tells which registers its values belong to. */
export function replySentence(message: ModbusMessage, request: ModbusMessage | null, index: SheetIndex | null): string {
  if (message.exception !== undefined) {
    const known = EXCEPTIONS[message.exception];
    return `refused, exception ${message.exception}: ${known ? `${known.name}; ${known.text}` : 'a code that the standard does not have'}`;
  }
  const { fc, values } = message;
  if (CONFIRMED.has(fc)) return 'confirmed';
  if (message.coils) return `${message.coils.slice(0, request?.quantity).join(' ')}, first one first`;
  const first = firstRegister(message, request);
  if (!values) return functionName(fc, message.subFunction ?? message.meiType);
  return `${placesOf(index, request, first, values.length)}${values
    .slice(0, MOST_NAMED)
    .map((word, i) => reading(index, first === null ? null : first + i, word))
    .join(' · ')}${more(values.length)}`;
}

const CONFIRMED: ReadonlySet<number> = new Set([5, 6, 15, 16, 21, 22]);

const more = (count: number): string => (count > MOST_NAMED ? ` and ${count - MOST_NAMED} more` : '');

const assignment = (index: SheetIndex | null, address: number, word: number): string => {
  const parameter = index?.byAddress.get(address);
  return `${registerName(index, address)} ← ${index && parameter ? wordText(index, parameter, word) : word}`;
};

/** Which registers a reply brings, where no sheet names them. */
function placesOf(
  index: SheetIndex | null,
  request: ModbusMessage | null,
  first: number | null,
  count: number,
): string {
  if (index && request?.fc !== 4) return '';
  const from = first ?? (request?.fc === 4 ? (request.address ?? null) : null);
  if (from === null) return '';
  const name = request?.fc === 4 ? 'input register' : 'register';
  return count > 1 ? `${name}s ${from} to ${from + count - 1}: ` : `${name} ${from}: `;
}

const reading = (index: SheetIndex | null, address: number | null, word: number): string => {
  const parameter = address === null ? undefined : index?.byAddress.get(address);
  return index && parameter ? `${parameter.name} ${wordText(index, parameter, word)}` : `${word}`;
};
