import Dexie from 'dexie';
import type { TraceBlock } from '../core/trace/block';
import type { BujoDatabase, SessionRow } from './database';
import { heldSessions } from './session-locks';

/** What the trace of one start of the page takes. */
export interface SessionRoom {
  readonly session: SessionRow;
  readonly entries: number;
  readonly bytes: number;
  /** A page writes to it now: this one or another tab. */
  readonly isOpen: boolean;
}

export interface Room {
  /** Every session that has entries, the oldest first. */
  readonly of: () => Promise<readonly SessionRoom[]>;
  /** Lets the trace of a session go, whole; what is given puts it back. Rejects while a page writes to it. */
  readonly letGo: (session: string) => Promise<() => Promise<void>>;
}

/** Columns are most of a block; names in it are few. */
const bytesOf = (block: TraceBlock): number =>
  Object.values(block).reduce<number>((sum, part) => sum + (ArrayBuffer.isView(part) ? part.byteLength : 0), 0);

/** `held`: sessions to which a page writes now. */
export const roomOf = (database: BujoDatabase, held: typeof heldSessions = heldSessions): Room => ({
  of: async () => {
    const open = await held();
    const taken = new Map<string, { entries: number; bytes: number }>();
    await database.traceBlocks.each((block) => {
      const own = taken.get(block.session) ?? { entries: 0, bytes: 0 };
      taken.set(block.session, { entries: own.entries + block.count, bytes: own.bytes + bytesOf(block) });
    });
    return (await database.sessions.orderBy('startedAtMs').toArray()).flatMap((session): readonly SessionRoom[] => {
      const own = taken.get(session.id);
      return own ? [{ session, ...own, isOpen: open.has(session.id) }] : [];
    });
  },
  letGo: async (session) => {
    if ((await held()).has(session)) throw new Error('a page of this browser writes to it now');
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
  },
});
