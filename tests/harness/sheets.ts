import { shippedSheet } from '../../src/cli/sheets';
import { indexSheet, registerWay, type PlacedParameter, type SheetIndex } from '../../src/core/sheet/index-sheet';

const loaded = new Map<string, SheetIndex>();

/** A shipped sheet, loaded as the program loads it: once, since tests build lines of it by the thousand. */
export function shippedIndex(id: string): SheetIndex {
  const known = loaded.get(id);
  if (known) return known;
  const sheet = shippedSheet(id);
  if (!sheet) throw new Error(`the shipped sheet ${id} is missing or broken`);
  const index = indexSheet(sheet);
  loaded.set(id, index);
  return index;
}

export const ternIndex = (): SheetIndex => shippedIndex('tern');

/** The address of a parameter that is a register. */
export function registerOf(parameter: PlacedParameter | undefined): number {
  const way = parameter && registerWay(parameter);
  if (!way) throw new Error(`${parameter?.number ?? 'nothing'} is no register`);
  return way.address;
}
