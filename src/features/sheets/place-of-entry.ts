import { indexSheet } from '../../core/sheet/index-sheet';
import type { Sheet } from '../../core/sheet/sheet';

/** Where an entry of a draft is found, in words; a sentence where nothing says it. */
export const placeOfEntry = (sheet: Sheet, number: string): string =>
  indexSheet(sheet).byNumber.get(number)?.working ?? 'nothing says yet how it is reached';
