import type { Sheet } from './sheet';

/** Longest slug of a sheet. */
const SLUG_MAX = 60;

/** A sheet under which a change of this one is kept: itself with the next revision where it is the user's own, else a copy with a name of its own. */
export function ownCopy(sheet: Sheet, revisionOf: (slug: string) => number): Sheet {
  const slug = sheet.base ? sheet.slug : `${sheet.slug}-mine`.slice(0, SLUG_MAX);
  return {
    ...sheet,
    slug,
    revision: revisionOf(slug) + 1,
    name: sheet.base ? sheet.name : `${sheet.name} (mine)`,
    base: sheet.base ?? { slug: sheet.slug, revision: sheet.revision },
  };
}
