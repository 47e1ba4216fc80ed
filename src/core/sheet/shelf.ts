import { indexSheet, type SheetIndex } from './index-sheet';
import type { Sheet } from './sheet';

/** A sheet as a station pins it. */
export interface SheetRef {
  readonly slug: string;
  readonly revision: number;
}

/**
 * Sheets by slug, which is their newest revision, and each revision by slug and revision. Sheets that only stand-ins run from stand under a key of
 * their own: nothing that looks for a sheet finds them.
 */
export type Sheets = ReadonlyMap<string, SheetIndex>;

/** How one revision of a sheet is named in maps. */
export const revisionKey = ({ slug, revision }: SheetRef): string => `${slug} ${revision}`;

const standinKey = (slug: string): string => `standin ${slug}`;

/** The sheet that a stand-in runs from where the bench has none. */
export const standinSheet = (sheets: Sheets, slug: string): SheetIndex | null => sheets.get(standinKey(slug)) ?? null;

/** A shelf with sheets that only stand-ins know. */
export const withStandins = (sheets: Sheets, unlisted: readonly Sheet[]): Sheets =>
  new Map([...sheets, ...unlisted.map((sheet) => [standinKey(sheet.slug), indexSheet(sheet)] as const)]);

/** A shelf of sheets, every revision of each. */
export function shelfOf(sheets: readonly Sheet[], before: Sheets = new Map()): Sheets {
  const shelf = new Map(before);
  for (const sheet of sheets) {
    const index = indexSheet(sheet);
    shelf.set(revisionKey(sheet), index);
    const newest = shelf.get(sheet.slug);
    if (!newest || newest.sheet.revision <= sheet.revision) shelf.set(sheet.slug, index);
  }
  return shelf;
}

/** The newest revision of every sheet, in the order in which they came. */
export const newestOf = (sheets: Sheets): readonly SheetIndex[] =>
  [...sheets].flatMap(([key, index]) => (key === index.sheet.slug ? [index] : []));

/** The sheet that a station pins: that revision, or the newest one where it is not here. */
export const pinnedIn = (sheets: Sheets, ref: SheetRef | undefined): SheetIndex | null =>
  ref ? (sheets.get(revisionKey(ref)) ?? sheets.get(ref.slug) ?? null) : null;

/** All revisions of a sheet, the newest first. */
export const revisionsOf = (sheets: Sheets, slug: string): readonly SheetIndex[] =>
  [...sheets]
    .flatMap(([key, index]) => (index.sheet.slug === slug && key === revisionKey(index.sheet) ? [index] : []))
    .sort((a, b) => b.sheet.revision - a.sheet.revision);
