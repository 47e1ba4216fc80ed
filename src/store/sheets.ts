import { shelfOf, type Sheets } from '../core/sheet/shelf';
import { sheetFile } from '../core/sheet/sheet-file';
import type { Sheet } from '../core/sheet/sheet';
import type { BujoDatabase, SheetRow } from './database';

/** All sheets, every revision: those that ship, and the user's own, with what is wrong with those that cannot be read. */
export async function readSheets(
  database: BujoDatabase,
  shipped: readonly Sheet[],
): Promise<{ readonly sheets: Sheets; readonly faults: readonly string[] }> {
  const rows = await database.sheetRevisions.toArray();
  // Whoever has made no sheet yet need not wait for what reads one.
  if (rows.length === 0) return { sheets: shelfOf(shipped), faults: [] };
  const { readOwnSheets } = await import('./own-sheets');
  const { own, faults } = await readOwnSheets(rows);
  return { sheets: shelfOf([...shipped, ...own]), faults };
}

/** Another tab kept another sheet under this slug and revision meanwhile; neither may take the place of the other. */
export class RevisionTaken extends Error {}

/**
 * Keeps a sheet of the user's. Sheets that ship are read-only: their names are taken. A revision that is kept never changes: rejects with
 * `RevisionTaken` where it holds something else.
 */
export async function keepSheet(database: BujoDatabase, shipped: readonly Sheet[], sheet: Sheet): Promise<void> {
  if (shipped.some(({ slug }) => slug === sheet.slug))
    throw new Error(`the sheet ${sheet.slug} ships with the program; give yours another name`);
  const row: SheetRow = { slug: sheet.slug, revision: sheet.revision, sheet: sheetFile(sheet) };
  await database.transaction('rw', database.sheetRevisions, async () => {
    const kept = await database.sheetRevisions.get([sheet.slug, sheet.revision]);
    if (kept && JSON.stringify(kept.sheet) !== JSON.stringify(row.sheet))
      throw new RevisionTaken(
        `another tab kept revision ${sheet.revision} of ${sheet.name} meanwhile; press again to keep yours after it`,
      );
    await database.sheetRevisions.put(row);
  });
}

/** Takes all revisions of a sheet of the user's away; what was there, so that it can be put back. */
export async function dropSheet(database: BujoDatabase, slug: string): Promise<readonly SheetRow[]> {
  return database.transaction('rw', database.sheetRevisions, async () => {
    const rows = await database.sheetRevisions.where('slug').equals(slug).toArray();
    await database.sheetRevisions.where('slug').equals(slug).delete();
    return rows;
  });
}
