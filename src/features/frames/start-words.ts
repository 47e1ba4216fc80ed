import type { ModbusMessage } from '../../core/modbus/message';
import { isWrite } from './draft-frame';

/** The words that a write begins with, and the registers among them of which nothing is known, so that a value must be given first. */
export interface StartWords {
  readonly values: readonly number[];
  readonly unset: ReadonlySet<number>;
}

/**
 * A write that goes elsewhere, or to more registers, begins with what the drive is known to hold there: the number of another parameter means
 * something else here. A register that was in the request keeps its word.
 */
export function startWords(
  before: ModbusMessage,
  change: Partial<ModbusMessage>,
  known: (address: number) => number | undefined,
): StartWords {
  const { fc, address = 0, quantity, values } = { ...before, ...change };
  const count = fc === 6 ? 1 : (quantity ?? values?.length ?? 1);
  const kept = isWrite(before.fc) ? (before.values ?? []) : [];
  const words = Array.from({ length: count }, (_, i): number | undefined => {
    const register = address + i;
    return kept[register - (before.address ?? 0)] ?? known(register);
  });
  return {
    values: words.map((word) => word ?? 0),
    unset: new Set(words.flatMap((word, i) => (word === undefined ? [address + i] : []))),
  };
}
