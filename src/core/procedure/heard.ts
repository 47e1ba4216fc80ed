import { literalBytes } from '../dialect/literal';

/** What of a text was waited for. */
export interface Heard {
  readonly text: string;
  /** The number that stood where the `#` is; null where none was asked for. */
  readonly number: number | null;
}

/** Of a text that does not end, so much is kept. */
export const LONGEST_HEARD = 4096;
/** Of an answer of which nothing was asked, so much is shown. */
const LONGEST_SHOWN = 80;

const literal = (text: string): string => String.fromCharCode(...literalBytes(text));
const escaped = (text: string): string => literal(text).replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/**
 * Looks for a piece of text, control characters in it by their names (`<CR>`), a number in place of its first `#`. With nothing to look for, any text is
 * what was waited for. Null where it is not there yet; a number at the end may go on, so something must follow it.
 */
export function heardIn(hears: string, text: string): Heard | null {
  if (hears === '') return text === '' ? null : { text: text.slice(0, LONGEST_SHOWN), number: null };
  const at = hears.indexOf('#');
  if (at < 0) return text.includes(literal(hears)) ? { text: literal(hears), number: null } : null;
  const [before, after] = [hears.slice(0, at), hears.slice(at + 1)];
  const end = after === '' ? '(?=[^\\d.,])' : escaped(after);
  // Bounded, so that a text without end is gone through once.
  const found = new RegExp(`${escaped(before)}[ \\t]{0,80}([-+]?\\d{1,20}(?:[.,]\\d{1,20})?)[ \\t]{0,80}${end}`).exec(
    text,
  );
  return found ? { text: found[0], number: Number((found[1] ?? '').replace(',', '.')) } : null;
}
