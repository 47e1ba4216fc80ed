import { readForm } from '../bounded-form';
import { failed, type Result } from '../result';
import { checkSheet } from './check-sheet';
import { migrateSheet } from './migrate';
import type { SheetFault } from './sheet-fault';
import { SHEET_FORMAT, SheetSchema, type Sheet } from './sheet';

/** Reads the form of a sheet of any known format: migrates, then validates whole. Faults come with their path; a newer format is named as such. */
export function readSheetForm(value: unknown): Result<Sheet, readonly SheetFault[]> {
  const migrated = migrateSheet(value);
  const format =
    typeof migrated === 'object' && migrated !== null && 'format' in migrated ? migrated.format : undefined;
  if (typeof format === 'number' && format > SHEET_FORMAT)
    return failed([
      { path: 'format', text: `format ${format} is newer than this program, which reads up to ${SHEET_FORMAT}` },
    ]);
  return readForm(SheetSchema, migrated);
}

/** Reads a sheet of any known format: its form, then checks across fields. All faults come with their path. */
export function loadSheet(value: unknown): Result<Sheet, readonly SheetFault[]> {
  const read = readSheetForm(value);
  if (!read.ok) return read;
  const faults = checkSheet(read.value);
  return faults.length > 0 ? failed(faults) : read;
}
