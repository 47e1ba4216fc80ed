import { emptySheet } from './empty-sheet';
import { indexSheet, type SheetIndex } from './index-sheet';
import { pinnedIn, type SheetRef, type Sheets } from './shelf';

/** What stands for the sheet of a drive behind plain text: nobody describes its menu, and nothing of it is known by place. */
export const PLAIN_TEXT = indexSheet({ ...emptySheet('plain-text', 'plain text'), summary: 'a text menu' });

/** How a run on a line of plain text names its sheet. */
export const PLAIN_REF: SheetRef = { slug: PLAIN_TEXT.sheet.slug, revision: PLAIN_TEXT.sheet.revision };

/** The sheet by which a trial was run; null where it is not here any more. */
export const sheetOfRun = (sheets: Sheets, ref: SheetRef): SheetIndex | null =>
  pinnedIn(sheets, ref) ?? (ref.slug === PLAIN_REF.slug && ref.revision === PLAIN_REF.revision ? PLAIN_TEXT : null);
