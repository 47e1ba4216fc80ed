/** What Enter sends, by name. */
export const LINE_ENDS = [
  ['cr', 'CR'],
  ['lf', 'LF'],
  ['crlf', 'CR LF'],
] as const;
export type LineEnd = (typeof LINE_ENDS)[number][0];

const ENDS: Readonly<Record<LineEnd, string>> = { cr: '\r', lf: '\n', crlf: '\r\n' };

/** Characters for an Enter; an unknown name is CR, which most old drives want. */
export const lineEnd = (name: LineEnd): string => ENDS[name] ?? ENDS.cr;

/**
 * Received bytes as text for a screen. `cr`: each CR begins a new line although the drive sends no LF; `lf`: each LF returns to the left
 * although it sends no CR; anything else: as it came. Bytes beyond 127 are taken as Latin-1, so none is lost.
 */
export function incoming(bytes: Uint8Array, ends: string): string {
  const text = Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');
  if (ends === 'cr') return text.replace(/\r\n?/g, '\r\n');
  if (ends === 'lf') return text.replace(/\r?\n/g, '\r\n');
  return text;
}

/** Lines of a captured listing to send back: without control sequences, prompts and empty lines. */
export const listingLines = (text: string): readonly string[] =>
  text
    // Control sequences of a screen: cursor moves and saved places.

    .replace(/\x1b(?:\[[0-9;]*[A-Za-z]|[78])/g, '')
    .split(/\r\n|\r|\n/)
    .map((line) => line.replace(/^>\s*/, '').trimEnd())
    .filter((line) => line !== '');
