import type { Transaction } from 'dexie';

/** What was there before a newer program changed the database. */
export interface CopyRow {
  /** The version of the database that it is of. */
  readonly version: number;
  readonly madeMs: number;
  /** Rows as they were, by the names of their tables. */
  readonly tables: Readonly<Record<string, readonly unknown[]>>;
}

/**
 * What people made, by the names of its tables. The trace, the photographs and the manuals are not among them: they take most of the room, and no version
 * changes a row of theirs; one that did would have to copy them.
 */
const COPIED = [
  'jobs',
  'settings',
  'sheetRevisions',
  'sets',
  'writings',
  'plans',
  'trialRuns',
  'looks',
  'visits',
  'records',
  'runs',
  'nonvolatile',
] as const;

/** Copies what was there before a version of the database changes it, in the same transaction: if one of the two fails, nothing is changed. */
export async function keepCopy(change: Transaction, before: number, madeMs: number): Promise<void> {
  const there = COPIED.filter((name) => change.idbtrans.objectStoreNames.contains(name));
  const tables: Record<string, readonly unknown[]> = {};
  for (const name of there) {
    const rows: readonly unknown[] = await change.table(name).toArray();
    if (rows.length > 0) tables[name] = rows;
  }
  if (Object.keys(tables).length === 0) return;
  const row: CopyRow = { version: before, madeMs, tables };
  await change.table('copies').put(row);
}
