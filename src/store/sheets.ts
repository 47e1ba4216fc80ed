import { indexSheet, type SheetIndex } from '../core/sheet/index-sheet';
import { loadSheet } from '../core/sheet/load-sheet';
import { sheetFile } from '../core/sheet/sheet-file';
import type { Sheet } from '../core/sheet/sheet';
import type { BujoDatabase } from './database';

/** All sheets by slug: those that ship, and the user's own. One of the user's that cannot be read any more is left where it is, and named. */
export async function readSheets(
  database: BujoDatabase,
  shipped: readonly Sheet[],
): Promise<{ readonly sheets: ReadonlyMap<string, SheetIndex>; readonly faults: readonly string[] }> {
  const faults: string[] = [];
  const own = (await database.sheets.toArray()).flatMap(({ slug, sheet }): Sheet[] => {
    const loaded = loadSheet(sheet);
    if (loaded.ok) return [loaded.value];
    faults.push(`sheet ${slug}: ${loaded.error.map(({ path, text }) => `${path}: ${text}`).join('; ')}`);
    return [];
  });
  return { sheets: indexed([...shipped, ...own]), faults };
}

export const indexed = (sheets: readonly Sheet[]): ReadonlyMap<string, SheetIndex> =>
  new Map(sheets.map((sheet) => [sheet.slug, indexSheet(sheet)]));

/** Keeps a sheet of the user's. Sheets that ship are read-only: their names are taken. */
export async function keepSheet(database: BujoDatabase, shipped: readonly Sheet[], sheet: Sheet): Promise<void> {
  if (shipped.some(({ slug }) => slug === sheet.slug))
    throw new Error(`the sheet ${sheet.slug} ships with the program; give yours another name`);
  await database.sheets.put({ slug: sheet.slug, sheet: sheetFile(sheet) });
}
