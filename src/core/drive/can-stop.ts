import type { SheetIndex } from '../sheet/index-sheet';

/** Whether the sheet says how its drive is stopped: by words, or by a command of its dialect. */
export const canStop = ({ sheet }: SheetIndex): boolean =>
  sheet.commands !== undefined || sheet.dialect?.commands.some(({ role }) => role === 'stop') === true;
