import { loadSheet } from '../core/sheet/load-sheet';
import type { Sheet } from '../core/sheet/sheet';
import { SHIPPED_FILES } from '../core/shipped/files';

/** The sheets that ship, by their ids; each is read only when it is asked for. */
const FILES = SHIPPED_FILES.sheets;
export const SHEET_IDS: readonly string[] = Object.keys(FILES);

/** A sheet that ships, by its name in small letters; null where there is none. */
export function shippedSheet(id: string): Sheet | null {
  const loaded = Object.hasOwn(FILES, id) ? loadSheet(FILES[id]) : null;
  return loaded?.ok ? loaded.value : null;
}
