import * as v from 'valibot';
import { failed, done, type Result } from '../result';
import { checkSheet } from './check-sheet';
import { migrateSheet } from './migrate';
import type { SheetFault } from './sheet-fault';
import { SHEET_FORMAT, SheetSchema, type Sheet } from './sheet';

/**
 * Reads a sheet of any known format: migrates, validates whole, then checks across fields. All faults come with their path;
 * a newer format is named as such.
 */
export function loadSheet(value: unknown): Result<Sheet, readonly SheetFault[]> {
  const migrated = migrateSheet(value);
  const format =
    typeof migrated === 'object' && migrated !== null && 'format' in migrated ? migrated.format : undefined;
  if (typeof format === 'number' && format > SHEET_FORMAT)
    return failed([
      { path: 'format', text: `format ${format} is newer than this program, which reads up to ${SHEET_FORMAT}` },
    ]);
  const parsed = v.safeParse(SheetSchema, migrated);
  if (!parsed.success)
    return failed(parsed.issues.map((issue) => ({ path: v.getDotPath(issue) ?? '', text: issue.message })));
  const faults = checkSheet(parsed.output);
  return faults.length > 0 ? failed(faults) : done(parsed.output);
}
