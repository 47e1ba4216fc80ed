import Dexie from 'dexie';
import type { BujoDatabase, NonvolatileRow } from './database';

type Values = NonvolatileRow['values'];

/** What the stand-ins of a line kept without power, by station; one question however many they are. */
export async function readNonvolatile(database: BujoDatabase, line: string): Promise<ReadonlyMap<number, Values>> {
  const rows = await database.nonvolatile
    .where('[line+station]')
    .between([line, Dexie.minKey], [line, Dexie.maxKey])
    .toArray();
  return new Map(rows.map(({ station, values }) => [station, values]));
}

/** Keeps what a stand-in would keep without power. */
export const keepNonvolatile = async (
  database: BujoDatabase,
  line: string,
  station: number,
  values: Values,
): Promise<void> => {
  await database.nonvolatile.put({ line, station, values });
};
