/** A fault between fields that each look right, at its path in the sheet. */
export interface SheetFault {
  readonly path: string;
  readonly text: string;
}

/** What is wrong with a sheet at a path of its fields. */
export const sheetFault = (path: string, text: string): SheetFault => ({ path, text });
