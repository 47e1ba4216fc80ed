import Dexie from 'dexie';
import type { TraceBlock } from '../core/trace/block';
import type { BujoDatabase, SessionRow } from './database';
import { heldSessions } from './session-locks';

/** What one thing takes that can be let go; `key` tells it from others of its kind. */
export type RoomItem =
  /** The trace of one start of the page. */
  | {
      readonly kind: 'trace';
      readonly key: string;
      readonly session: SessionRow;
      readonly entries: number;
      readonly bytes: number;
      /** A page writes to it now: this one or another tab. */
      readonly isOpen: boolean;
    }
  /** The photographs of a job. */
  | { readonly kind: 'photos'; readonly key: string; readonly photos: number; readonly bytes: number }
  /** What was there before a newer program changed the database. */
  | { readonly kind: 'copy'; readonly key: string; readonly madeMs: number; readonly rows: number };

/** What an item is, without its size. */
export type RoomKey = Pick<RoomItem, 'kind' | 'key'>;

export interface Room {
  /** Traces, the oldest first, then photographs by job, then copies. */
  readonly of: () => Promise<readonly RoomItem[]>;
  /** Lets an item go, whole; what is given puts it back. Rejects a trace while a page writes to it. */
  readonly letGo: (item: RoomKey) => Promise<() => Promise<void>>;
  /** A copy as the text of a file; null where it is not there any more. */
  readonly copyText: (key: string) => Promise<string | null>;
}

/** Columns are most of a block; names in it are few. */
const bytesOf = (block: TraceBlock): number =>
  Object.values(block).reduce<number>((sum, part) => sum + (ArrayBuffer.isView(part) ? part.byteLength : 0), 0);

/** `held`: sessions to which a page writes now. */
export const roomOf = (database: BujoDatabase, held: typeof heldSessions = heldSessions): Room => ({
  of: async () => [...(await traces(database, await held())), ...(await photos(database)), ...(await copies(database))],
  letGo: async ({ kind, key }) => {
    if (kind === 'photos') return letPhotosGo(database, key);
    if (kind === 'copy') return letCopyGo(database, parseInt(key, 10));
    if ((await held()).has(key)) throw new Error('a page of this browser writes to it now');
    return letTraceGo(database, key);
  },
  copyText: async (key) => {
    const row = await database.copies.get(parseInt(key, 10));
    // Its writer comes when it is asked for.
    return row ? (await import('./copy-file')).copyFile(row) : null;
  },
});

async function traces(database: BujoDatabase, open: ReadonlySet<string>): Promise<readonly RoomItem[]> {
  const taken = new Map<string, { entries: number; bytes: number }>();
  await database.traceBlocks.each((block) => {
    const own = taken.get(block.session) ?? { entries: 0, bytes: 0 };
    taken.set(block.session, { entries: own.entries + block.count, bytes: own.bytes + bytesOf(block) });
  });
  return (await database.sessions.orderBy('startedAtMs').toArray()).flatMap((session): readonly RoomItem[] => {
    const own = taken.get(session.id);
    return own ? [{ kind: 'trace', key: session.id, session, ...own, isOpen: open.has(session.id) }] : [];
  });
}

async function photos(database: BujoDatabase): Promise<readonly RoomItem[]> {
  const taken = new Map<string, { photos: number; bytes: number }>();
  await database.photos.each(({ job, jpeg }) => {
    const own = taken.get(job) ?? { photos: 0, bytes: 0 };
    taken.set(job, { photos: own.photos + 1, bytes: own.bytes + jpeg.byteLength });
  });
  return [...taken].map(([key, own]) => ({ kind: 'photos', key, ...own }));
}

const copies = async (database: BujoDatabase): Promise<readonly RoomItem[]> =>
  (await database.copies.toArray()).map(({ version, madeMs, tables }) => ({
    kind: 'copy',
    key: `${version}`,
    madeMs,
    rows: Object.values(tables).reduce((sum, rows) => sum + rows.length, 0),
  }));

async function letTraceGo(database: BujoDatabase, session: string): Promise<() => Promise<void>> {
  const { sessions, traceBlocks } = database;
  const range = () => traceBlocks.where('[session+first]').between([session, Dexie.minKey], [session, Dexie.maxKey]);
  const [row, blocks] = await database.transaction('rw', sessions, traceBlocks, async () => {
    const had = [await sessions.get(session), await range().toArray()] as const;
    await range().delete();
    await sessions.delete(session);
    return had;
  });
  return () =>
    database.transaction('rw', sessions, traceBlocks, async () => {
      if (row) await sessions.put(row);
      await traceBlocks.bulkPut(blocks);
    });
}

async function letPhotosGo(database: BujoDatabase, job: string): Promise<() => Promise<void>> {
  const own = database.photos.where('job').equals(job);
  const rows = await own.toArray();
  await own.delete();
  return async () => void (await database.photos.bulkPut(rows));
}

async function letCopyGo({ copies: table }: BujoDatabase, version: number): Promise<() => Promise<void>> {
  const row = await table.get(version);
  await table.delete(version);
  return async () => {
    if (row) await table.put(row);
  };
}
