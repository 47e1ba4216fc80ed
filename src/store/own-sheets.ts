import { checkSheet } from '../core/sheet/check-sheet';
import { readSheetForm } from '../core/sheet/load-sheet';
import type { Sheet } from '../core/sheet/sheet';
import { breathe } from './breathe';
import type { SheetRow } from './database';

/** Every revision of the user's own sheets as it was kept; one that cannot be read any more is left where it is, and named. */
export async function readOwnSheets(
  rows: readonly SheetRow[],
): Promise<{ readonly own: readonly Sheet[]; readonly faults: readonly string[] }> {
  const own: Sheet[] = [];
  const faults: string[] = [];
  for (const { slug, revision, sheet } of rows) {
    // Some dozen revisions of thousands of entries: the form of each is a task, and what is checked across its fields another.
    const read = readSheetForm(sheet);
    await breathe();
    const wrong = read.ok ? checkSheet(read.value) : read.error;
    if (read.ok && wrong.length === 0) own.push(read.value);
    else
      faults.push(
        `sheet ${slug}, revision ${revision}: ${wrong.map(({ path, text }) => `${path}: ${text}`).join('; ')}`,
      );
  }
  return { own, faults };
}
