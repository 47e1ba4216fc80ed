import { linesOfPage, type PlacedText } from '../../../core/tables/page-lines';
import type { Manual } from './pdf-document';

const EVERYWHERE = { x: -1e6, y: -1e6, width: 2e6, height: 2e6 };
const fold = (text: string): string => text.toLowerCase().replace(/\s+/g, ' ');

/** The pieces of a page in which a text stands; letters are joined to lines first, since a file may hold each word for itself. */
export function piecesWith(placed: readonly PlacedText[], text: string): readonly PlacedText[] {
  const wanted = fold(text.trim());
  if (wanted === '') return [];
  return linesOfPage(placed, EVERYWHERE).flatMap(({ pieces }) =>
    pieces.filter((piece) => fold(piece.text).includes(wanted)),
  );
}

/** The next page with a text, from one on and round to it again; null where none has it. Asks after each page whether to go on. */
export async function nextPageWith(
  manual: Manual,
  text: string,
  from: number,
  goesOn: (looked: number) => boolean,
): Promise<number | null> {
  for (let i = 0; i < manual.pages; i++) {
    const page = ((from - 1 + i) % manual.pages) + 1;
    if (!goesOn(i)) return null;
    if (piecesWith(await manual.text(page), text).length > 0) return page;
  }
  return null;
}
