import type { ArchiveFile } from '../../core/handover/archive';

/** The JSON Schemas of an archive's files, as they are published: of `record.json`, `job.json`, `sheets/` and `values/`. They come when an archive is made. */
const SCHEMAS = {
  record: () => import('../../../docs/schema/record.schema.json'),
  job: () => import('../../../docs/schema/job.schema.json'),
  sheet: () => import('../../../docs/schema/sheet.schema.json'),
  set: () => import('../../../docs/schema/set.schema.json'),
} as const;

/** The schemas that a stranger needs to read an archive's JSON files, as files of it. */
export const schemaFiles = (): Promise<readonly ArchiveFile[]> =>
  Promise.all(
    Object.entries(SCHEMAS).map(async ([name, load]) => ({
      path: `schemas/${name}.schema.json`,
      text: `${JSON.stringify((await load()).default, null, 2)}\n`,
    })),
  );
