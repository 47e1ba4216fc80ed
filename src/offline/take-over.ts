/** What a page tells a version of the program that waits: a person wants it now. */
export const TAKE_OVER = 'take over';
