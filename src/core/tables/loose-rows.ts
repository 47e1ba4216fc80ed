import { NUMBER, plain } from './numbers';
import { addressCellIn, isKey } from './roles';
import { UNITS } from './units';

/** Longer lines are sentences. */
const LONGEST = 300;
const UNIT = String.raw`(?:\s?(?:${UNITS.map((unit) => unit.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&'))
  .sort((a, b) => b.length - a.length)
  .join('|')})(?=\s|$))?`;
const RANGE = String.raw`${NUMBER}${UNIT}(?:\s*(?:\.{2,3}|…|–|~|-)\s*|\s+(?:to|bis|à)\s+)${NUMBER}${UNIT}`;
const ACCESS = String.raw`R\/W|RW|RO|R|WO|W|L\/S|L\/E|read[ -]only|read\/write`;
const ROW = new RegExp(String.raw`^(\S+) (\S.*?)(?: (${RANGE}))?(?: (${NUMBER}${UNIT}))?(?: (${ACCESS}))?$`);

/**
 * A table that lost its columns on the way, one blank between all words: `40108 Ramp up time 0.1 to 600.0 s 5.0 R/W`. What can be told from the
 * right end of each line is put into columns again; null where hardly any line begins with a number.
 */
export function looseRows(text: string): string | null {
  const lines = text.split('\n');
  const filled = lines.filter((line) => line.trim() !== '').length;
  let found = 0;
  const rows = lines.map((line) => {
    const bare = plain(line).replace(/\s+/g, ' ').trim();
    const [, key = '', name = '', range = '', byDefault = '', access = ''] =
      (bare.length <= LONGEST && ROW.exec(bare)) || [];
    if (!(isKey(key) && /\d{2}|\d[.:-]\d/.test(key)) && !(key !== '' && addressCellIn(key))) return line;
    if (!/[A-Za-zÀ-ü]{2}/.test(name)) return line;
    found++;
    return [key, name, range, byDefault, access].join('\t');
  });
  return found >= 2 && found * 2 >= filled ? rows.join('\n') : null;
}
