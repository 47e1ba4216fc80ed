import { SHEET_CHECKS } from '../core/sheet/check-sheet';
import { readSheetForm } from '../core/sheet/load-sheet';
import type { Sheet } from '../core/sheet/sheet';
import type { SheetFault } from '../core/sheet/sheet-fault';
import { breaths } from './breathe';
import type { SheetRow } from './database';

/** So many faults of a revision are told one by one. */
const MOST_TOLD = 20;

/** Every revision of the user's own sheets as it was kept; one that cannot be read any more is left where it is, and named. */
export async function readOwnSheets(
  rows: readonly SheetRow[],
): Promise<{ readonly own: readonly Sheet[]; readonly faults: readonly string[] }> {
  const own: Sheet[] = [];
  const faults: string[] = [];
  const breath = breaths();
  for (const { slug, revision, sheet } of rows) {
    // Some dozen revisions of thousands of entries: the form of each is a task, and so are the checks across its fields.
    const read = readSheetForm(sheet);
    await breath();
    const wrong = read.ok ? await checked(read.value, breath) : read.error;
    if (read.ok && wrong.length === 0) own.push(read.value);
    else {
      const told = wrong.slice(0, MOST_TOLD).map(({ path, text }) => `${path}: ${text}`);
      const more = wrong.length > MOST_TOLD ? `; and ${wrong.length - MOST_TOLD} more` : '';
      faults.push(`sheet ${slug}, revision ${revision}: ${told.join('; ')}${more}`);
    }
  }
  return { own, faults };
}

async function checked(sheet: Sheet, breath: () => Promise<void>): Promise<readonly SheetFault[]> {
  let faults: readonly SheetFault[] = [];
  for (const check of SHEET_CHECKS) {
    faults = [...faults, ...check(sheet)];
    await breath();
  }
  return faults;
}
