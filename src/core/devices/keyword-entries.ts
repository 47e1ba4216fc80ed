import type { FaultList } from './description';

/** One field of an entry; a quoted one is a text even where it looks like a number. */
export interface EntryField {
  readonly text: string;
  readonly quoted: boolean;
}

export interface KeywordEntry {
  readonly section: string;
  readonly keyword: string;
  readonly fields: readonly EntryField[];
  readonly line: number;
}

/** The most fields of one entry. */
const MOST_FIELDS = 4_000;

/**
 * Entries `Keyword = field, field, "text" "goes on" ;` under `[Section]`s, with comments from `$` to the end of the line. One pass over the text;
 * a quotation mark that is never closed ends at its line, and is a fault.
 */
export function readEntries(text: string, faults: FaultList): readonly KeywordEntry[] {
  const entries: KeywordEntry[] = [];
  let section = '';
  let line = 1;
  let at = 0;
  const skip = (): void => {
    for (; at < text.length; at++) {
      const char = text[at] as string;
      if (char === '$') while (at + 1 < text.length && text[at + 1] !== '\n') at++;
      else if (char === '\n') line++;
      else if (!/\s/.test(char)) return;
    }
  };
  for (skip(); at < text.length; skip()) {
    if (text[at] === '[') {
      const end = text.indexOf(']', at);
      const name = end < 0 ? '' : text.slice(at + 1, end);
      if (end < 0 || name.includes('\n')) faults.add(line, 'a section without its closing bracket');
      section = name.trim();
      at = end < 0 ? text.length : end + 1;
      continue;
    }
    const started = line;
    const word = /[^=;\n[$]*/y;
    word.lastIndex = at;
    const keyword = (word.exec(text)?.[0] ?? '').trim();
    at = word.lastIndex;
    skip();
    if (text[at] !== '=') {
      faults.add(started, `“${keyword.slice(0, 60)}” is no entry: = is missing`);
      // Goes on behind this word, so that every step takes at least one character.
      if (at < text.length && text[at] !== '[') at++;
      continue;
    }
    at++;
    const fields: EntryField[] = [];
    let field = '';
    let quoted = false;
    const close = (): void => {
      if (fields.length < MOST_FIELDS) fields.push({ text: quoted ? field : field.trim(), quoted });
      field = '';
      quoted = false;
    };
    let isClosed = false;
    for (skip(); at < text.length; skip()) {
      const char = text[at] as string;
      if (char === ';') {
        at++;
        isClosed = true;
        break;
      }
      if (char === ',') {
        close();
        at++;
        continue;
      }
      if (char === '"') {
        const end = endOfQuote(text, at);
        if (text[end] !== '"') faults.add(line, 'a text without its closing quotation mark');
        field = `${quoted ? field : ''}${text.slice(at + 1, end).replace(/\\(.)/g, '$1')}`;
        quoted = true;
        at = end + 1;
        continue;
      }
      // A section that begins here means that the entry was never ended.
      if (char === '[' && !quoted && /^\[[\w ]+\]/.test(text.slice(at, at + 80))) break;
      const plainText = /[^,;"$\n]+/y;
      plainText.lastIndex = at;
      const part = plainText.exec(text)?.[0] ?? '';
      if (!quoted) field = `${field} ${part}`;
      at += Math.max(1, part.length);
    }
    close();
    if (!isClosed) faults.add(started, `the entry ${keyword.slice(0, 60)} is not ended by a semicolon`);
    entries.push({ section, keyword, fields, line: started });
  }
  return entries;
}

function endOfQuote(text: string, from: number): number {
  for (let at = from + 1; at < text.length; at++) {
    if (text[at] === '\\') at++;
    else if (text[at] === '"' || text[at] === '\n') return at;
  }
  return text.length;
}
