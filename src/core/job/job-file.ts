import { revisionKey } from '../sheet/shelf';
import { sheetFile } from '../sheet/sheet-file';
import type { Sheet } from '../sheet/sheet';
import type { Job } from './job';

/** What a job file carries: the job, and the sheets that its stations use, so that it means the same on another computer. */
export interface JobFile {
  readonly job: Job;
  readonly sheets: readonly Sheet[];
}

/** The sheets that a job's stations use, each once, in their order. */
export function sheetsOfJob({ lines }: Job, sheetOf: SheetOf): readonly Sheet[] {
  const refs = lines.flatMap(({ stations }) => stations.flatMap(({ sheet }) => sheet ?? []));
  const each = new Map(refs.map((ref) => [revisionKey(ref), ref]));
  return [...each.values()].flatMap(({ slug, revision }) => sheetOf(slug, revision) ?? []);
}

/** A job file: the record itself with its sheets, readable, with a line break at its end. */
export const jobFileText = ({ job, sheets }: JobFile): string =>
  `${JSON.stringify(sheets.length > 0 ? { ...job, sheets: sheets.map(sheetFile) } : job, null, 2)}\n`;

/** A revision of a sheet that is here, or the newest one where that revision is not. */
type SheetOf = (slug: string, revision: number) => Sheet | undefined;

const same = (a: Sheet, b: Sheet): boolean => JSON.stringify(sheetFile(a)) === JSON.stringify(sheetFile(b));

/**
 * A file as it is taken into a browser that has sheets of its own: a sheet that is not here is kept under its name, one that is the same is left,
 * and one that differs from the one here gets a name of its own, by which the job's stations then go. Nothing that is here changes.
 */
export function adoptFile({ job, sheets }: JobFile, sheetOf: SheetOf): JobFile {
  const renamed = new Map<string, Sheet>();
  const taken = new Set(sheets.map(({ slug }) => slug));
  const keep = sheets.flatMap((sheet): Sheet[] => {
    const here = sheetOf(sheet.slug, sheet.revision);
    if (!here) return [sheet];
    if (same(here, sheet)) return [];
    for (let i = 2; ; i++) {
      const slug = `${sheet.slug}-${i}`;
      const known = sheetOf(slug, sheet.revision);
      if (taken.has(slug) || (known && !same({ ...known, slug: sheet.slug, name: sheet.name }, sheet))) continue;
      const own = { ...sheet, slug, name: `${sheet.name} ${i}` };
      taken.add(slug);
      renamed.set(revisionKey(sheet), own);
      return known ? [] : [own];
    }
  });
  if (renamed.size === 0) return { job, sheets: keep };
  const lines = job.lines.map((line) => ({
    ...line,
    stations: line.stations.map((station) => {
      const own = station.sheet && renamed.get(revisionKey(station.sheet));
      return own ? { ...station, sheet: { slug: own.slug, revision: own.revision } } : station;
    }),
  }));
  return { job: { ...job, lines }, sheets: keep };
}
