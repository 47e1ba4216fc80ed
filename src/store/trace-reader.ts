import Dexie from 'dexie';
import { unpackBlock } from '../core/trace/block';
import type { TraceEntry } from '../core/trace/entry';
import type { BujoDatabase, SessionRow } from './database';

/** The newest entries of earlier sessions, oldest first, at most `most`, with the sessions that they belong to. */
export async function readRecentTrace(
  database: BujoDatabase,
  exceptSession: string,
  most: number,
): Promise<{ readonly sessions: readonly SessionRow[]; readonly entries: readonly TraceEntry[] }> {
  const sessions: SessionRow[] = [];
  const parts: (readonly TraceEntry[])[] = [];
  let count = 0;
  const newest = await database.sessions.orderBy('startedAtMs').reverse().toArray();
  for (const session of newest) {
    if (session.id === exceptSession || count >= most) continue;
    const blocks = await database.traceBlocks
      .where('[session+first]')
      .between([session.id, Dexie.minKey], [session.id, Dexie.maxKey])
      .toArray();
    const entries = blocks.flatMap(unpackBlock).slice(-(most - count));
    if (entries.length === 0) continue;
    count += entries.length;
    sessions.unshift(session);
    parts.unshift(entries);
  }
  return { sessions, entries: parts.flat() };
}
