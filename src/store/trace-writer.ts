import { messageOf } from '../core/message-of';
import { packBlock, unpackBlock, type TraceBlock } from '../core/trace/block';
import type { TraceEntry } from '../core/trace/entry';
import type { BujoDatabase } from './database';

/** A block is written when it has this many entries or when the oldest has waited this long. */
const MOST_ENTRIES = 500;
const LONGEST_WAIT_MS = 250;
/** Small blocks are joined up to this many entries when nothing else is to be written. */
const MERGED_ENTRIES = 2000;

export interface TraceWriterEvents {
  /** All entries up to this sequence number are committed. */
  kept(sequence: number): void;
  /** Writing failed; the entries stay in memory and are tried again with the next ones. */
  failed(reason: string): void;
}

/** The only writer of a session's trace. An entry counts as kept after the commit, not before. */
export class TraceWriter {
  readonly #database: BujoDatabase;
  readonly #events: TraceWriterEvents;
  readonly #later: (action: () => void, ms: number) => void;
  #waiting: TraceEntry[] = [];
  #timer = false;
  #writing: Promise<void> | null = null;
  /** Blocks of this session that are smaller than they could be, oldest first. */
  #small: Pick<TraceBlock, 'session' | 'first' | 'count'>[] = [];

  constructor(database: BujoDatabase, events: TraceWriterEvents, later: (action: () => void, ms: number) => void) {
    this.#database = database;
    this.#events = events;
    this.#later = later;
  }

  add(entries: readonly TraceEntry[]): void {
    for (const entry of entries) this.#waiting.push(entry);
    if (this.#waiting.length >= MOST_ENTRIES) void this.flush();
    else if (!this.#timer && this.#waiting.length > 0) {
      this.#timer = true;
      this.#later(() => {
        this.#timer = false;
        void this.flush();
      }, LONGEST_WAIT_MS);
    }
  }

  /** Writes all that waits; resolves when it is committed or has failed. */
  flush(): Promise<void> {
    this.#writing ??= this.#write().finally(() => {
      this.#writing = null;
    });
    return this.#writing;
  }

  async #write(): Promise<void> {
    do {
      if (!(await this.#writeWaiting())) return;
      await this.#mergeIfWorthIt();
      // What came while blocks were joined does not wait for the next entry.
    } while (this.#waiting.length > 0);
  }

  /** False where writing failed. */
  async #writeWaiting(): Promise<boolean> {
    while (this.#waiting.length > 0) {
      const batch = this.#waiting.slice(0, MOST_ENTRIES);
      const block = packBlock(batch);
      try {
        await this.#database.traceBlocks.put(block);
      } catch (error) {
        this.#events.failed(messageOf(error));
        return false;
      }
      this.#waiting = this.#waiting.slice(batch.length);
      this.#small.push({ session: block.session, first: block.first, count: block.count });
      this.#events.kept(block.first + block.count - 1);
    }
    return true;
  }

  async #mergeIfWorthIt(): Promise<void> {
    const total = this.#small.reduce((sum, { count }) => sum + count, 0);
    if (total < MERGED_ENTRIES) return;
    const keys = this.#small.map(({ session, first }): [string, number] => [session, first]);
    this.#small = [];
    await mergeBlocks(this.#database, keys);
  }
}

/** Joins consecutive blocks into one, in one transaction: a crash leaves either the old ones or the new one. */
async function mergeBlocks(database: BujoDatabase, keys: readonly [string, number][]): Promise<void> {
  await database.transaction('rw', database.traceBlocks, async () => {
    const blocks = (await database.traceBlocks.bulkGet([...keys])).filter(
      (block): block is TraceBlock => block !== undefined,
    );
    const merged = packBlock(blocks.flatMap(unpackBlock));
    await database.traceBlocks.bulkDelete([...keys]);
    await database.traceBlocks.put(merged);
  });
}
