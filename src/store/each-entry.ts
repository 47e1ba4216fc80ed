import Dexie from 'dexie';
import { unpackBlock } from '../core/trace/block';
import type { TraceEntry } from '../core/trace/entry';
import type { BujoDatabase, SessionRow } from './database';

/** Everything that was kept of a job's trace, the oldest first, a block at a time: an evening does not have to fit into memory. */
export async function* eachEntry(
  database: BujoDatabase,
  job: string,
): AsyncGenerator<{ readonly session: SessionRow; readonly entries: readonly TraceEntry[] }> {
  for (const session of await database.sessions.where('job').equals(job).sortBy('startedAtMs')) {
    const keys = await database.traceBlocks
      .where('[session+first]')
      .between([session.id, Dexie.minKey], [session.id, Dexie.maxKey])
      .primaryKeys();
    for (const key of keys) {
      const block = await database.traceBlocks.get(key);
      if (block) yield { session, entries: unpackBlock(block) };
    }
  }
}
