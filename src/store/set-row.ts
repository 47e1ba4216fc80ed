import { readingOf } from '../core/sets/set-reading';
import { saidByFile } from '../core/sets/set-file';
import type { Job } from '../core/job/job';
import { indexSheet } from '../core/sheet/index-sheet';
import type { Sheet } from '../core/sheet/sheet';
import { lastVisit } from '../core/shipped/last-visit';
import type { SetRow } from './database';

/** Ids of sets that ship begin so: they are no rows of the database, and cannot be deleted. */
export const SHIPPED_SET = 'shipped ';

/** What was left of the demo's drives at an earlier visit. */
export function shippedSets(demo: Job, sheets: readonly Sheet[]): readonly SetRow[] {
  const fan = sheets.find(({ slug }) => slug === 'tern');
  const file = lastVisit(demo, fan && indexSheet(fan));
  if (file?.line === undefined || file.station === undefined) return [];
  const { name, line, station, at, sheet } = file;
  return [
    {
      id: `${SHIPPED_SET}${name}`,
      job: demo.id,
      line,
      station,
      kind: 'visit',
      name,
      sheet: { slug: sheet.slug, revision: sheet.revision },
      startedMs: Date.parse(at),
      reading: readingOf(saidByFile(file)),
    },
  ];
}
