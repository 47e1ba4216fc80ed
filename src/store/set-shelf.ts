import { saidByFile, type SetFile } from '../core/sets/set-file';
import type { BujoDatabase, SetRow, WritingRow } from './database';

/** Sets of values and writings of a job. */
export interface SetShelf {
  readonly of: (job: string) => Promise<{ readonly sets: readonly SetRow[]; readonly writings: readonly WritingRow[] }>;
  readonly keepSet: (row: SetRow) => Promise<void>;
  readonly dropSet: (id: string) => Promise<void>;
  readonly keepWriting: (row: WritingRow) => Promise<void>;
}

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

/** `shipped` gives what comes with the demo. */
export const setShelf = (database: BujoDatabase, shipped: Promise<readonly SetFile[]>): SetShelf => ({
  of: async (job) => {
    const visits = (await shipped).flatMap((file) =>
      file.job === job && file.line !== undefined && file.station !== undefined
        ? [rowOfFile(`${SHIPPED_SET}${file.name}`, file, { job, line: file.line, station: file.station }, 'visit')]
        : [],
    );
    return database.transaction('r', database.sets, database.writings, async () => ({
      sets: [...visits, ...(await database.sets.where('job').equals(job).toArray())],
      writings: await database.writings.where('job').equals(job).toArray(),
    }));
  },
  keepSet: async (row) => {
    await database.sets.put(row);
  },
  dropSet: (id) => database.sets.delete(id),
  keepWriting: async (row) => {
    await database.writings.put(row);
  },
});
