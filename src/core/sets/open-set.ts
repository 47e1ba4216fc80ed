import { done, failed, type Result } from '../result';
import type { SheetIndex } from '../sheet/index-sheet';
import type { SaidOf } from './said';
import { readSetCsv, type CsvSet } from './set-csv';
import { readSetFile, saidByFile, type SetFile } from './set-file';

/** What came out of a file, as another witness of a drive. */
export interface OpenedSet {
  /** As the file calls itself; null where it is a spreadsheet. */
  readonly name: string | null;
  readonly atMs: number | null;
  /** The sheet that it is read with; null: the one here. */
  readonly sheet: SetFile['sheet'] | null;
  readonly identity: Readonly<Record<string, string>>;
  readonly said: SaidOf;
  /** Values of it that the sheet here does not have. */
  readonly missing: readonly { readonly number: string; readonly name: string }[];
  readonly unread: CsvSet['unread'];
}

/** A set of values out of a file's text, JSON or the rows of a spreadsheet; a sentence where it is none. */
export function openSet(index: SheetIndex, text: string): Result<OpenedSet, string> {
  if (!/^\s*\{/.test(text)) {
    const read = readSetCsv(index, text);
    if (!read.ok) return read;
    return done({ name: null, atMs: null, sheet: null, identity: {}, missing: [], ...read.value });
  }
  const read = readSetFile(text);
  if (!read.ok) return failed(read.error);
  const { name, at, sheet, identity = {}, values } = read.value;
  return done({
    name,
    atMs: Date.parse(at),
    sheet,
    identity,
    said: saidByFile(read.value),
    missing: values
      .filter(({ number }) => !index.byNumber.has(number))
      .map(({ number, name: called }) => ({ number, name: called })),
    unread: [],
  });
}
