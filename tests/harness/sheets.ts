import { shippedSheet } from '../../src/cli/sheets';
import { indexSheet, registerWay, type PlacedParameter, type SheetIndex } from '../../src/core/sheet/index-sheet';

/** A shipped sheet, loaded as the program loads it. */
export function shippedIndex(id: string): SheetIndex {
  const sheet = shippedSheet(id);
  if (!sheet) throw new Error(`the shipped sheet ${id} is missing or broken`);
  return indexSheet(sheet);
}

export const ternIndex = (): SheetIndex => shippedIndex('tern');

/** The address of a parameter that is a register. */
export function registerOf(parameter: PlacedParameter | undefined): number {
  const way = parameter && registerWay(parameter);
  if (!way) throw new Error(`${parameter?.number ?? 'nothing'} is no register`);
  return way.address;
}
