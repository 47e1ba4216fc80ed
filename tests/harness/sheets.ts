import tern from '../../sheets/tern.json';
import { indexSheet, type SheetIndex } from '../../src/core/sheet/index-sheet';
import { loadSheet } from '../../src/core/sheet/load-sheet';

/** The shipped sheet Tern, loaded as the program loads it. */
export function ternIndex(): SheetIndex {
  const loaded = loadSheet(tern);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return indexSheet(loaded.value);
}
