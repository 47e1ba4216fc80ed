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
 * Copies the rows of some tables before a version of the database changes them, in the same transaction: if one of the two fails, nothing is changed. Only
 * what is changed is copied, so that a full disk does not keep a version from coming that changes little.
 */
export async function keepCopy(
  change: Transaction,
  before: number,
  names: readonly string[],
  madeMs: number,
): Promise<void> {
  const tables: Record<string, readonly unknown[]> = {};
  for (const name of names) tables[name] = await change.table(name).toArray();
  const row: CopyRow = { version: before, madeMs, tables };
  await change.table('copies').put(row);
}
