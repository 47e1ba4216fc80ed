import 'fake-indexeddb/auto';
import type { TraceEntry } from '../core/trace/entry';
import { BujoDatabase } from './database';
import { ensureJob } from './jobs';
import { demoJob, shippedSheets } from './shipped';
import { readRecentTrace } from './trace-reader';
import { TraceWriter } from './trace-writer';

let count = 0;
const fresh = (): BujoDatabase => new BujoDatabase(`test ${count++}`);

const entry = (session: string, sequence: number): TraceEntry => ({
  session,
  sequence,
  line: 'K1',
  station: 3,
  atUs: sequence * 1000,
  direction: sequence % 2 === 0 ? 'sent' : 'received',
  bytes: Uint8Array.of(3, 3, sequence & 0xff),
  lineFaults: sequence % 5 === 0 ? ['parity'] : [],
  exchange: sequence >> 1,
  outcome: sequence % 2 === 0 ? 'none' : 'answered',
  cause: sequence % 3 === 0 ? 'poll' : 'Words',
});

function writer(database: BujoDatabase) {
  const kept: number[] = [];
  const failed: string[] = [];
  const timers: (() => void)[] = [];
  const own = new TraceWriter(
    database,
    { kept: (sequence) => kept.push(sequence), failed: (reason) => failed.push(reason) },
    (action) => timers.push(action),
  );
  return { own, kept, failed, timers };
}

it('keeps every entry as it was, in blocks, and tells it after the commit only', async () => {
  const database = fresh();
  const { own, kept, timers } = writer(database);
  const entries = Array.from({ length: 1234 }, (_, i) => entry('s', i));
  await database.sessions.put({ id: 's', startedAtMs: 1, job: 'j' });
  own.add(entries.slice(0, 10));
  expect(kept).toEqual([]);
  expect(timers).toHaveLength(1);
  own.add(entries.slice(10));
  await own.flush();
  expect(kept[kept.length - 1]).toBe(1233);
  expect((await readRecentTrace(database, 'other', 5000)).entries).toEqual(entries);
});

it('joins small blocks when there is enough for a large one, and loses nothing', async () => {
  const database = fresh();
  const { own } = writer(database);
  const entries = Array.from({ length: 2100 }, (_, i) => entry('s', i));
  await database.sessions.put({ id: 's', startedAtMs: 1, job: 'j' });
  for (let i = 0; i < 2100; i += 100) {
    own.add(entries.slice(i, i + 100));
    await own.flush();
  }
  expect(await database.traceBlocks.count()).toBeLessThan(5);
  expect((await readRecentTrace(database, '', 5000)).entries).toEqual(entries);
});

it('reads the newest entries of earlier sessions, oldest first, and not the present one', async () => {
  const database = fresh();
  const { own } = writer(database);
  for (const [i, session] of ['a', 'b', 'now'].entries()) {
    await database.sessions.put({ id: session, startedAtMs: i, job: 'j' });
    own.add(Array.from({ length: 300 }, (_, k) => entry(session, k)));
    await own.flush();
  }
  const { sessions, entries } = await readRecentTrace(database, 'now', 400);
  expect(sessions.map(({ id }) => id)).toEqual(['a', 'b']);
  expect(entries).toHaveLength(400);
  expect([entries[0]?.session, entries[0]?.sequence, entries[399]?.session]).toEqual(['a', 200, 'b']);
});

it('says so when writing fails, keeps the entries and writes them later', async () => {
  const database = fresh();
  const { own, kept, failed } = writer(database);
  const put = jest.spyOn(database.traceBlocks, 'put').mockRejectedValueOnce(new Error('the disk is full'));
  own.add([entry('s', 0)]);
  await own.flush();
  expect([failed, kept]).toEqual([['the disk is full'], []]);
  own.add([entry('s', 1)]);
  await own.flush();
  expect(kept).toEqual([1]);
  expect((await database.traceBlocks.toArray())[0]?.count).toBe(2);
  put.mockRestore();
});

it('puts the demo job there once and then leaves it alone', async () => {
  const database = fresh();
  const job = await ensureJob(database);
  expect(job).toEqual(demoJob());
  await database.jobs.put({ ...job, name: 'renamed' });
  expect((await ensureJob(database)).name).toBe('renamed');
  expect(await database.jobs.count()).toBe(1);
});

it('every station of the demo job that is built has a shipped sheet', () => {
  const slugs = new Set(shippedSheets().map(({ slug, revision }) => `${slug} ${revision}`));
  const built = demoJob().lines.filter(({ far }) => far === 'yard');
  expect(built.map(({ name }) => name)).toEqual(['K1 kiln']);
  for (const { sheet } of built.flatMap(({ stations }) => stations))
    expect(slugs).toContain(`${sheet?.slug} ${sheet?.revision}`);
});
