import type { Parameter } from './parameter-section';
import { sheetFile } from './sheet-file';
import type { Sheet } from './sheet';

/** One thing in which two revisions of a sheet differ; null where one of them has none of it. */
export interface SheetDifference {
  readonly what: string;
  readonly before: string | null;
  readonly after: string | null;
}

const text = (value: unknown): string | null =>
  value === undefined ? null : typeof value === 'string' ? value : JSON.stringify(value);

/** What differs between two revisions: entries by their numbers and fields, other sections as wholes. Linear in both. */
export function compareSheets(before: Sheet, after: Sheet): readonly SheetDifference[] {
  const [old, fresh] = [sheetFile(before), sheetFile(after)] as [Record<string, unknown>, Record<string, unknown>];
  const sections = [...new Set([...Object.keys(old), ...Object.keys(fresh)])].filter(
    (key) => key !== 'parameters' && key !== 'revision',
  );
  return [
    ...sections.flatMap((key) => differing(key, old[key], fresh[key])),
    ...compareEntries(before.parameters ?? [], after.parameters ?? []),
  ];
}

const differing = (what: string, before: unknown, after: unknown): readonly SheetDifference[] =>
  text(before) === text(after) ? [] : [{ what, before: text(before), after: text(after) }];

function compareEntries(before: readonly Parameter[], after: readonly Parameter[]): readonly SheetDifference[] {
  const fresh = new Map(after.map((parameter) => [parameter.number, parameter]));
  const old = new Set(before.map(({ number }) => number));
  const name = ({ number, name: called }: Parameter): string => `${number} ${called}`;
  return [
    ...before.flatMap((parameter): readonly SheetDifference[] => {
      const now = fresh.get(parameter.number);
      if (!now) return [{ what: name(parameter), before: 'an entry', after: null }];
      const keys = new Set([...Object.keys(parameter), ...Object.keys(now)]) as Set<keyof Parameter>;
      return [...keys].flatMap((key) => differing(`${name(now)}, ${key}`, parameter[key], now[key]));
    }),
    ...after
      .filter(({ number }) => !old.has(number))
      .map((parameter) => ({ what: name(parameter), before: null, after: 'an entry' })),
  ];
}
