import type { ModbusTable } from '../registers/tables';
import { specOf } from './lookup';
import type { ModbusMessage } from './message';

/** The table that a function's addresses belong to; undefined where it has no addresses. */
export const tableOfFunction = (fc: number): ModbusTable | undefined => specOf(fc)?.touches?.table;

/** Places of one table in a row. */
export interface RegisterRange {
  readonly table: ModbusTable;
  readonly first: number;
  readonly quantity: number;
}

/** Places of one table in a row with what they hold: words, or 0 and 1. */
export interface TableRange {
  readonly table: ModbusTable;
  readonly first: number;
  readonly words: readonly number[];
}

/** What a request reads in a row, in the order in which its reply brings it; null for functions that read none. */
export function readBy(message: ModbusMessage): RegisterRange | null {
  const touches = specOf(message.fc)?.touches;
  if (!touches?.reads) return null;
  const [first, quantity] = [message[touches.reads.first], message[touches.reads.quantity]];
  return first === undefined ? null : { table: touches.table, first, quantity: quantity ?? 0 };
}

/**
 * What a request writes, whole words or coils only. A mask write is told with every bit that may be 1 afterwards, for nobody here knows the word
 * that is masked: whoever asks whether a shaft may turn must think of the worst.
 */
export function writtenBy(message: ModbusMessage): TableRange | null {
  const touches = specOf(message.fc)?.touches;
  const first = touches?.writes && message[touches.writes];
  if (!touches || first === undefined) return null;
  const { andMask, orMask } = message;
  const words =
    andMask !== undefined && orMask !== undefined
      ? [andMask | orMask]
      : touches.table === 'coil'
        ? message.coils
        : message.values;
  return words ? { table: touches.table, first, words } : null;
}

/** What an exchange tells. A mask write tells what may have changed, not what the word is now. */
export function learnedFrom(asked: ModbusMessage, said: ModbusMessage): readonly TableRange[] {
  if (said.exception !== undefined) return [];
  const writes = asked.andMask === undefined ? writtenBy(asked) : null;
  const reads = readBy(asked);
  const words = reads && (said.values ?? said.coils?.slice(0, reads.quantity));
  return [...(writes ? [writes] : []), ...(reads && words ? [{ table: reads.table, first: reads.first, words }] : [])];
}
