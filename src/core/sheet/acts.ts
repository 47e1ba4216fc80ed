import type { ModbusMessage } from '../modbus/message';
import { asksToTurn } from '../words/sentence';
import type { SheetIndex } from './index-sheet';

/** What a request does to a drive, told from its message and the sheet, whichever view built it. Words are raw; undefined = untouched. */
export interface DriveAct {
  readonly control?: number;
  readonly reference?: number;
}

/** The control word and reference that a request would write; empty for anything else. */
export function actOf({ address, values }: ModbusMessage, index: SheetIndex): DriveAct {
  if (!values || address === undefined) return {};
  const written = (role: 'control-word' | 'speed-reference'): number | undefined => {
    const place = index.byRole.get(role);
    return place ? values[place.address - address] : undefined;
  };
  const control = written('control-word');
  const reference = written('speed-reference');
  return { ...(control === undefined ? {} : { control }), ...(reference === undefined ? {} : { reference }) };
}

/** Whether an act may turn the shaft by itself: a control word with run or jog in it. */
export const mayTurn = ({ control }: DriveAct, { sheet }: SheetIndex): boolean =>
  control !== undefined && sheet.words !== undefined && asksToTurn(sheet.words.control, control);
