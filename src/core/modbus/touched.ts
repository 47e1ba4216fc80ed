import type { ModbusTable } from '../registers/notation';
import type { ModbusMessage } from './message';

/** The table that a function's addresses belong to; undefined where it has no addresses (Modbus Application Protocol V1.1b3, section 6). */
export const TABLE_OF_FUNCTION: Readonly<Partial<Record<number, ModbusTable>>> = {
  1: 'coil',
  2: 'discrete-input',
  3: 'holding-register',
  4: 'input-register',
  5: 'coil',
  6: 'holding-register',
  15: 'coil',
  16: 'holding-register',
  22: 'holding-register',
  23: 'holding-register',
  24: 'holding-register',
};

/** Registers in a row. */
export interface RegisterRange {
  readonly first: number;
  readonly quantity: number;
}

/** Registers with the words that go into them. */
export interface WrittenRegisters {
  readonly first: number;
  readonly words: readonly number[];
}

/** The holding registers that a request reads, in the order in which its reply brings them; null for functions that read none in a row. */
export function registersRead({
  fc,
  address,
  quantity = 0,
  readAddress,
  readQuantity = 0,
}: ModbusMessage): RegisterRange | null {
  if (fc === 3 && address !== undefined) return { first: address, quantity };
  if (fc === 23 && readAddress !== undefined) return { first: readAddress, quantity: readQuantity };
  return null;
}

/**
 * The registers that a request writes, whole words only. A mask write is told with every bit that may be 1 afterwards, for nobody here knows the
 * word that is masked: whoever asks whether a shaft may turn must think of the worst.
 */
export function registersWritten({
  fc,
  address,
  values,
  writeAddress,
  andMask,
  orMask,
}: ModbusMessage): WrittenRegisters | null {
  if ((fc === 6 || fc === 16) && address !== undefined && values) return { first: address, words: values };
  if (fc === 23 && writeAddress !== undefined && values) return { first: writeAddress, words: values };
  if (fc === 22 && address !== undefined && andMask !== undefined && orMask !== undefined)
    return { first: address, words: [andMask | orMask] };
  return null;
}

/** What an exchange tells of registers: address and word. A mask write tells what may have changed, not what the word is now. */
export function learnedRegisters(asked: ModbusMessage, said: ModbusMessage): readonly (readonly [number, number])[] {
  if (said.exception !== undefined) return [];
  const at = (first: number, words: readonly number[]): readonly (readonly [number, number])[] =>
    words.map((word, i) => [first + i, word] as const);
  const writes = asked.fc === 22 ? null : registersWritten(asked);
  const reads = registersRead(asked);
  return [...(writes ? at(writes.first, writes.words) : []), ...(reads ? at(reads.first, said.values ?? []) : [])];
}
