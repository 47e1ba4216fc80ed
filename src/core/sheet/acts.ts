import { readRtu } from '../modbus/rtu';
import { asksToTurn } from '../words/sentence';
import type { SheetIndex } from './index-sheet';

/** What a request does to a drive, told from its bytes and the sheet, whichever view built it. Words are raw; undefined = untouched. */
export interface DriveAct {
  readonly control?: number;
  readonly reference?: number;
}

/** The control word and reference that a request would write; empty for anything else, faulty bytes included. */
export function actOf(bytes: Uint8Array, index: SheetIndex): DriveAct {
  const { message, faults } = readRtu(bytes, 'request');
  if (!message || faults.length > 0 || !message.values || message.address === undefined) return {};
  const { address, values } = message;
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
