import { saidByFile, type SetFile } from '../core/sets/set-file';
import type { Job } from '../core/job/job';
import { indexSheet } from '../core/sheet/index-sheet';
import type { Sheet } from '../core/sheet/sheet';
import { lastVisit } from '../core/shipped/last-visit';
import type { SetRow } from './database';

/** Ids of sets that ship begin so: they are no rows of the database, and cannot be deleted. */
export const SHIPPED_SET = 'shipped ';

/** A set out of a file as a row of a job. */
export function rowOfFile(
  id: string,
  file: SetFile,
  where: Pick<SetRow, 'job' | 'line' | 'station'>,
  kind: SetRow['kind'] = 'file',
): SetRow {
  const said = saidByFile(file);
  const { slug, revision } = file.sheet;
  return {
    ...where,
    id,
    kind,
    name: file.name,
    sheet: { slug, revision },
    startedMs: Date.parse(file.at),
    reading: { waiting: [], said, of: said.size, requests: 0, tries: 0, silences: 0 },
  };
}

/** What was left of the demo's drives at an earlier visit. */
export function shippedSets(demo: Job, sheets: readonly Sheet[]): readonly SetRow[] {
  const fan = sheets.find(({ slug }) => slug === 'tern');
  const file = lastVisit(demo, fan && indexSheet(fan));
  return file?.line !== undefined && file.station !== undefined
    ? [rowOfFile(`${SHIPPED_SET}${file.name}`, file, { job: demo.id, line: file.line, station: file.station }, 'visit')]
    : [];
}
