import type { ModbusMessage } from '../modbus/message';
import { writtenBy } from '../modbus/touched';
import { ownCell, type SheetIndex } from '../sheet/index-sheet';
import { registerCell } from '../sheet/place';
import { wordMayTurn } from './turning';
import { patternIn } from './seen';

/** What a request does to a drive, told from its message and the sheet, whichever view built it. Words are raw; undefined = untouched. */
export interface RequestEffect {
  readonly control?: number;
  readonly reference?: number;
  /** The words hold every bit that may be set, since only the drive knows the word that a mask write changes: never to be sent again. */
  readonly masked?: boolean;
}

/** The control word and reference that a request would write; empty for anything else. */
export function effectOf(message: ModbusMessage, index: SheetIndex): RequestEffect {
  const writes = writtenBy(message);
  if (!writes) return {};
  // By whichever way a value is reached: a drive turns by its list of gathered values as by the register itself.
  const put = new Map(
    writes.words.map((word, i) => {
      return [ownCell(index, registerCell(writes.first + i, writes.table)), word] as const;
    }),
  );
  const written = (role: 'control-word' | 'speed-reference'): number | undefined => {
    const place = index.byRole.get(role);
    // A part of a wide value says nothing of the whole.
    return place && patternIn(place, (cell) => put.get(cell));
  };
  const control = written('control-word');
  const reference = written('speed-reference');
  const touched = { ...(control === undefined ? {} : { control }), ...(reference === undefined ? {} : { reference }) };
  return message.fc === 22 && Object.keys(touched).length > 0 ? { ...touched, masked: true } : touched;
}

/** Whether an act may turn the shaft by itself: a control word with run or jog in it. */
export const mayTurn = ({ control }: RequestEffect, index: SheetIndex): boolean =>
  control !== undefined && wordMayTurn(index, control);
