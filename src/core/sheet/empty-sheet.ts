import { SHEET_FORMAT, type Sheet } from './sheet';

/** A sheet that says nothing yet but how it is called. */
export const emptySheet = (slug: string, name: string): Sheet => ({
  format: SHEET_FORMAT,
  slug,
  revision: 0,
  name,
  summary: 'a sheet of your own, as far as it is known',
});

/** A name in machine form that is not taken. */
export function freeSlug(name: string, taken: (slug: string) => boolean): string {
  const plain =
    name
      .toLowerCase()
      .normalize('NFD')
      .replace(/[\u0300-\u036f]/g, '')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 50) || 'sheet';
  let slug = plain;
  for (let i = 2; taken(slug); i++) slug = `${plain}-${i}`;
  return slug;
}
