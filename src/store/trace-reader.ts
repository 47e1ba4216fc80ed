import Dexie from 'dexie';
import type { TraceBlock } from '../core/trace/block';
import type { BujoDatabase, SessionRow } from './database';

/** Blocks read in one go: few enough that the page's thread stays free between two of them. */
const AT_ONCE = 25;

/** Some blocks of one session, oldest first. */
export interface OlderBlocks {
  readonly session: SessionRow;
  readonly blocks: readonly TraceBlock[];
}

/** Everything that earlier sessions of a job left, newest first, a few blocks at a time; the reader may end it anywhere. */
export async function* readTrace(
  database: BujoDatabase,
  job: string,
  exceptSession: string,
): AsyncGenerator<OlderBlocks> {
  const oldest = await database.sessions.where('job').equals(job).sortBy('startedAtMs');
  for (const session of oldest.reverse()) {
    if (session.id === exceptSession) continue;
    const all = database.traceBlocks.where('[session+first]');
    const keys = await all.between([session.id, Dexie.minKey], [session.id, Dexie.maxKey]).primaryKeys();
    // A stretch of keys is one request; one for each block takes longer than the blocks do.
    const before = async (end: number): Promise<readonly TraceBlock[]> => {
      const last = keys[end - 1];
      return last === undefined ? [] : all.between(keys[Math.max(0, end - AT_ONCE)], last, true, true).toArray();
    };
    // The next blocks are read while these are taken.
    let reading = before(keys.length);
    for (let end = keys.length; end > 0; end -= AT_ONCE) {
      const blocks = await reading;
      reading = before(Math.max(0, end - AT_ONCE));
      if (blocks.length > 0) yield { session, blocks };
    }
  }
}
