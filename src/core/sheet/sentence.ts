import { counted } from '../counted';
import { EXCEPTIONS, functionName } from '../modbus/layout';
import type { ModbusMessage } from '../modbus/message';
import { firstRegister, registerName } from './annotate';
import { wordText } from './describe';
import type { SheetIndex } from './index-sheet';

const MOST_NAMED = 5;

/** A request in a line: `write 9.03 speed reference ← 3909 = 17.498 Hz`. */
export function requestSentence(message: ModbusMessage, index: SheetIndex | null): string {
  const { fc, address, quantity, values } = message;
  if (address === undefined) return functionName(fc);
  if (values)
    return `write ${values
      .slice(0, MOST_NAMED)
      .map((word, i) => assignment(index, address + i, word))
      .join(' · ')}${more(values.length)}`;
  return readSentence(index, address, quantity ?? 0);
}

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
  if (fc === 6 || fc === 16) return 'confirmed';
  const first = firstRegister(message, request);
  if (!values) return functionName(fc);
  return `${values
    .slice(0, MOST_NAMED)
    .map((word, i) => reading(index, first === null ? null : first + i, word))
    .join(' · ')}${more(values.length)}`;
}

const more = (count: number): string => (count > MOST_NAMED ? ` and ${count - MOST_NAMED} more` : '');

const assignment = (index: SheetIndex | null, address: number, word: number): string => {
  const parameter = index?.byAddress.get(address);
  return `${registerName(index, address)} ← ${index && parameter ? wordText(index, parameter, word) : word}`;
};

const reading = (index: SheetIndex | null, address: number | null, word: number): string => {
  const parameter = address === null ? undefined : index?.byAddress.get(address);
  return index && parameter ? `${parameter.name} ${wordText(index, parameter, word)}` : `${word}`;
};
