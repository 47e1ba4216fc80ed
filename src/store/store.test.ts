import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import Papa from 'papaparse';
import { rtu } from '../../tests/harness/line';
import { demoJob, shippedSheets, unlistedSheets } from '../../tests/harness/shipped';
import { packBlock, unpackBlock } from '../core/trace/block';
import { EXPORT_COLUMNS } from '../core/trace/export';
import type { TraceEntry } from '../core/trace/entry';
import { BujoDatabase, type RunRow, type TrialRunRow } from './database';
import { chooseJob, keepJob, readShelf, removeJob, storedJob, updateJob } from './jobs';
import { keepNonvolatile, readNonvolatile } from './nonvolatile';
import { pinnedIn, revisionsOf } from '../core/sheet/shelf';
import { dropSheet, keepSheet, readSheets, RevisionTaken } from './sheets';
import { beginLook } from '../core/registers/look';
import { lookShelf } from './look-shelf';
import { photoShelf } from './photo-shelf';
import { setShelf } from './set-shelf';
import { shippedSets } from './set-row';
import { readShipped } from './read-shipped';
import { fetchShipped } from './shipped';
import { GET as shippedRoute } from '../app/shipped/route';
import { beginRun, endRun, type RunEnd, type RunState } from '../core/procedure/run-state';
import { lineOf } from '../core/trial/seen-line';
import type { CompiledStep } from '../core/trial/compile';
import type { Procedure } from '../core/procedure/procedure';
import { NO_VISIT } from '../core/handover/visit';
import { shippedRecords } from './record-row';
import { recordShelf } from './record-shelf';
import { keepCopy } from './copies';
import { roomOf } from './room';
import { RunKeeper, tellCutRuns } from './runs';
import { readTrace } from './trace-reader';
import { exportTrace } from './trace-export';
import type { Sheet } from '../core/sheet/sheet';
import { sheetFile } from '../core/sheet/sheet-file';
import { TraceWriter } from './trace-writer';
import { trialShelf } from './trial-shelf';

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

/** All that the reader gives, put in order. */
async function everything(database: BujoDatabase, except = '') {
  const sessions: string[] = [];
  let entries: readonly TraceEntry[] = [];
  for await (const { session, blocks } of readTrace(database, 'j', except)) {
    if (!sessions.includes(session.id)) sessions.push(session.id);
    entries = [...blocks.flatMap(unpackBlock), ...entries];
  }
  return { sessions, entries };
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
  expect((await everything(database)).entries).toEqual(entries);
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
  expect((await everything(database)).entries).toEqual(entries);
});

it('reads what earlier sessions left, newest first, and not the present one', async () => {
  const database = fresh();
  const { own } = writer(database);
  for (const [i, session] of ['a', 'b', 'now'].entries()) {
    await database.sessions.put({ id: session, startedAtMs: i, job: 'j' });
    own.add(Array.from({ length: 300 }, (_, k) => entry(session, k)));
    await own.flush();
  }
  const { sessions, entries } = await everything(database, 'now');
  expect(sessions).toEqual(['b', 'a']);
  expect(entries.map(({ session, sequence }) => `${session} ${sequence}`)).toEqual(
    ['a', 'b'].flatMap((session) => Array.from({ length: 300 }, (_, k) => `${session} ${k}`)),
  );
});

it('reads one job’s sessions only: entries of another job would have no meaning here', async () => {
  const database = fresh();
  const { own } = writer(database);
  for (const [session, job] of [
    ['a', 'j'],
    ['b', 'other'],
  ] as const) {
    await database.sessions.put({ id: session, startedAtMs: 1, job });
    own.add([entry(session, 0)]);
    await own.flush();
  }
  expect((await everything(database)).sessions).toEqual(['a']);
});

it('what comes while blocks are joined is written without waiting for another entry', async () => {
  const database = fresh();
  const { own, kept } = writer(database);
  const transaction = jest.spyOn(database, 'transaction');
  transaction.mockImplementationOnce(() => {
    own.add([entry('s', 2000)]);
    return Promise.resolve() as never;
  });
  own.add(Array.from({ length: 2000 }, (_, i) => entry('s', i)));
  await own.flush();
  expect(transaction).toHaveBeenCalled();
  expect(kept[kept.length - 1]).toBe(2000);
  transaction.mockRestore();
});

/** Sessions of other tabs, which end when the test says so; `cutIn` is a start of the page. */
function sessionsAlive(...names: readonly string[]) {
  const waiting: (readonly [session: string, act: () => void])[] = [];
  let told: readonly RunRow[] = [];
  const alive = {
    held: () => Promise.resolve(new Set(names)),
    whenEnds: (session: string, act: () => void) => void waiting.push([session, act]),
  };
  const fail = (error: unknown): never => {
    throw error;
  };
  let database: BujoDatabase;
  return {
    cutIn: async (of: BujoDatabase): Promise<readonly RunRow[]> => {
      database = of;
      told = [];
      await tellCutRuns(of, 'own', alive, (rows) => (told = [...told, ...rows]), fail);
      return told;
    },
    end: async (session: string): Promise<readonly RunRow[]> => {
      told = [];
      for (const [of, act] of waiting) if (of === session) act();
      // What was begun in the database is done and told before this.
      await database.runs.toArray();
      await new Promise((resolve) => setTimeout(resolve, 50));
      return told;
    },
  };
}

describe('procedures that a reload cut off', () => {
  const procedure: Procedure = {
    kind: 'list',
    title: 'two frames',
    station: 3,
    steps: [1, 2].map((step) => ({
      kind: 'request',
      text: `${step}`,
      station: 3,
      bytes: Uint8Array.of(step),
      needs: 'end',
    })),
    rounds: 1,
    standsStill: false,
  };

  it('are told with the step at which they ended, once, and not those of a tab that lives', async () => {
    const database = fresh();
    const timers: (() => void)[] = [];
    const keeper = new RunKeeper(
      database,
      (error) => {
        throw error;
      },
      (action) => timers.push(action),
    );
    const run = beginRun(procedure, 'one', 0);
    keeper.keep({ id: 'one', session: 'old', line: 'K1', procedure, run });
    keeper.keep({ id: 'two', session: 'alive', line: 'K1', procedure, run: { ...run, id: 'two' } });
    keeper.keep({ id: 'one', session: 'old', line: 'K1', procedure, run: { ...run, at: 1, sent: 1 } });
    timers.forEach((action) => action());
    const over = { ...endRun(run, 'stop', 'Stop'), id: 'three' };
    keeper.keep({ id: 'three', session: 'old', line: 'K1', procedure, run: over });
    keeper.posted(7, [run, over]);
    keeper.taken(7);
    expect(await database.runs.get('three')).toBeDefined();
    timers[timers.length - 1]?.();
    await database.runs.toArray();
    const sessions = sessionsAlive('alive');
    const cut = await sessions.cutIn(database);
    expect(cut.map(({ id, run: { end, why } }) => [id, end, why])).toEqual([
      ['one', 'reload', 'its page was reloaded or closed at step 2 of 2; the step may have been done'],
    ]);
    expect(await sessions.cutIn(database)).toEqual([]);
    // The other tab goes, as one that was reloaded does a moment after its successor looked: its run is told then, and once.
    const told = await sessions.end('alive');
    expect(told.map(({ id, run: { end } }) => [id, end])).toEqual([['two', 'reload']]);
    expect(await sessions.end('alive')).toEqual([]);
  });

  it('are told as they ended where the page was on its way out and took no batch any more, and only then', async () => {
    const database = fresh();
    const keeper = new RunKeeper(
      database,
      (error) => {
        throw error;
      },
      (action) => action(),
    );
    const end = (id: string, end: RunEnd, why: string): RunState => {
      const run = { ...endRun(beginRun(procedure, id, 0), end, why), id };
      keeper.keep({ id, session: 'old', line: 'K1', procedure, run });
      return run;
    };
    keeper.posted(1, [end('seen', 'done', '')]);
    keeper.posted(2, [end('silent', 'stop', 'the page did not answer for 1.2 s')]);
    end('never posted', 'done', '');
    keeper.taken(0);
    expect(await database.runs.count()).toBe(3);
    keeper.taken(1);
    const cut = await sessionsAlive().cutIn(database);
    expect(cut.map(({ id, run: { end, why } }) => [id, end, why])).toEqual([
      ['never posted', 'done', 'done; its page was reloaded or closed just then'],
      ['silent', 'stop', 'the page did not answer for 1.2 s; its page was reloaded or closed just then'],
    ]);
    // The whole of what was posted before counts as taken with a later batch.
    keeper.posted(3, [end('third', 'done', '')]);
    keeper.taken(9);
    expect(await database.runs.count()).toBe(0);
  });
});

it('a long session is read a few blocks at a time, and may be left in between', async () => {
  const database = fresh();
  await database.sessions.put({ id: 's', startedAtMs: 1, job: 'j' });
  for (let first = 0; first < 600; first += 10)
    await database.traceBlocks.put(packBlock(Array.from({ length: 10 }, (_, k) => entry('s', first + k))));
  const sizes: number[] = [];
  for await (const { blocks } of readTrace(database, 'j', '')) sizes.push(blocks.length);
  expect(sizes).toEqual([25, 25, 10]);
  for await (const { blocks } of readTrace(database, 'j', '')) {
    expect(blocks[blocks.length - 1]?.first).toBe(590);
    break;
  }
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

describe('the shelf of jobs', () => {
  it('has the demo job on the first start, and then whatever people made of it', async () => {
    const database = fresh();
    expect(await readShelf(database, demoJob())).toEqual({ open: demoJob(), all: [demoJob()], bad: [] });
    await keepJob(database, { ...demoJob(), name: 'renamed' });
    expect((await readShelf(database, demoJob())).all.map(({ name }) => name)).toEqual(['renamed']);
  });

  it('remembers which job is open, by name in order', async () => {
    const database = fresh();
    await readShelf(database, demoJob());
    await keepJob(database, { ...demoJob(), id: 'z', name: 'Zinc Lane' });
    await chooseJob(database, 'z');
    const shelf = await readShelf(database, demoJob());
    expect([shelf.open.name, shelf.all.map(({ name }) => name)]).toEqual(['Zinc Lane', ['Alder Ford', 'Zinc Lane']]);
  });

  it('a broken row locks no other out: it is left where it is, named and given as it stands', async () => {
    const database = fresh();
    await readShelf(database, demoJob());
    const broken = { id: 'broken', name: 7, lines: 'none' };
    await database.jobs.add(broken as never);
    const shelf = await readShelf(database, demoJob());
    expect(shelf.all).toEqual([demoJob()]);
    expect(shelf.bad).toEqual([{ id: 'broken', text: 'it has no lines, so it is no job', row: broken }]);
    expect(await database.jobs.get('broken')).toEqual(broken);
    await database.jobs.delete(demoJob().id);
    expect((await readShelf(database, demoJob())).open).toEqual(demoJob());
  });

  it('two tabs change one job: nobody’s change is lost', async () => {
    const name = `test ${count++}`;
    const [one, other] = [new BujoDatabase(name), new BujoDatabase(name)];
    await readShelf(one, demoJob());
    const changes = Array.from({ length: 20 }, (_, i) =>
      updateJob(i % 2 ? one : other, demoJob(), (job) => ({ ...job, about: `${job.about ?? ''} ${i}` })),
    );
    await Promise.all(changes);
    const about = (await storedJob(one, demoJob().id))?.about ?? '';
    expect(Array.from({ length: 20 }, (_, i) => about.split(' ').includes(`${i}`))).not.toContain(false);
  });

  it('a job that was deleted meanwhile is changed as it is shown', async () => {
    const database = fresh();
    const next = await updateJob(database, demoJob(), (job) => ({ ...job, name: 'kept' }));
    expect([next, await storedJob(database, next.id)]).toEqual([next, next]);
  });

  it('gives back what was deleted', async () => {
    const database = fresh();
    const { open } = await readShelf(database, demoJob());
    const removed = await removeJob(database, open.id);
    expect(await database.jobs.count()).toBe(0);
    await keepJob(database, removed!);
    expect((await readShelf(database, demoJob())).open).toEqual(open);
  });
});

it('what stand-ins kept comes back by station, a line at a time', async () => {
  const database = fresh();
  await keepNonvolatile(database, 'K1', 3, { '2.01': 2 });
  await keepNonvolatile(database, 'K1', 200, { '2.01': 7 });
  await keepNonvolatile(database, 'K10', 3, { '2.01': 9 });
  await keepNonvolatile(database, 'K1', 3, { '2.01': 4 });
  expect([...(await readNonvolatile(database, 'K1'))]).toEqual([
    [3, { '2.01': 4 }],
    [200, { '2.01': 7 }],
  ]);
  expect((await readNonvolatile(database, 'K2')).size).toBe(0);
});

it('migrates a database of version 1 and keeps all that is in it', async () => {
  const name = `test ${count++}`;
  const old = new Dexie(name);
  old.version(1).stores({
    jobs: 'id',
    sessions: 'id, startedAtMs, job',
    traceBlocks: '[session+first]',
    nonvolatile: '[line+station]',
  });
  await old.table('jobs').put({ ...demoJob(), name: 'an old evening' });
  await old.table('nonvolatile').put({ line: 'K1', station: 3, values: { '11.02': 90 } });
  await old.table('traceBlocks').put(packBlock([entry('s', 0)]));
  old.close();
  const database = new BujoDatabase(name);
  expect((await readShelf(database, demoJob())).open.name).toBe('an old evening');
  expect((await database.nonvolatile.get(['K1', 3]))?.values).toEqual({ '11.02': 90 });
  expect((await database.traceBlocks.toArray())[0]?.count).toBe(1);
});

it('migrates a database of version 2 and keeps its open job; sheets of the user’s own can be kept from then on', async () => {
  const name = `test ${count++}`;
  const old = new Dexie(name);
  old.version(1).stores({
    jobs: 'id',
    sessions: 'id, startedAtMs, job',
    traceBlocks: '[session+first]',
    nonvolatile: '[line+station]',
  });
  old.version(2).stores({ settings: 'key' });
  await old.table('jobs').put({ ...demoJob(), name: 'yesterday' });
  await old.table('settings').put({ key: 'current-job', value: demoJob().id });
  old.close();
  const database = new BujoDatabase(name);
  expect((await readShelf(database, demoJob())).open.name).toBe('yesterday');
  const linnet = shippedSheets().find(({ slug }) => slug === 'linnet')!;
  await keepSheet(database, shippedSheets(), { ...linnet, slug: 'mine', name: 'Mine' });
  await expect(keepSheet(database, shippedSheets(), linnet)).rejects.toThrow('ships with the program');
  await database.sheetRevisions.put({ slug: 'broken', revision: 1, sheet: { format: 1, slug: 'broken' } });
  const { sheets, faults } = await readSheets(database, shippedSheets());
  expect(sheets.get('mine')?.sheet.dialect?.commands).toHaveLength(5);
  expect(faults).toEqual([expect.stringMatching(/^sheet broken, revision 1: /)]);
});

it('migrates the sheets of version 4: each is a revision from then on, and all of them stay', async () => {
  const name = `test ${count++}`;
  const old = new Dexie(name);
  old.version(1).stores({
    jobs: 'id',
    sessions: 'id, startedAtMs, job',
    traceBlocks: '[session+first]',
    nonvolatile: '[line+station]',
  });
  old.version(2).stores({ settings: 'key' });
  old.version(3).stores({ sheets: 'slug' });
  old.version(4).stores({ runs: 'id, session' });
  const format1 = { format: 1, slug: 'mine', revision: 4, name: 'Mine', summary: 'a test' };
  await old.table('sheets').put({ slug: 'mine', sheet: format1 });
  old.close();
  const database = new BujoDatabase(name);
  const { sheets } = await readSheets(database, shippedSheets());
  expect(sheets.get('mine')?.sheet).toMatchObject({ format: 2, revision: 4 });
  await keepSheet(database, shippedSheets(), { ...sheets.get('mine')!.sheet, revision: 5, name: 'Mine, later' });
  const later = (await readSheets(database, shippedSheets())).sheets;
  expect(later.get('mine')?.sheet.name).toBe('Mine, later');
  expect(pinnedIn(later, { slug: 'mine', revision: 4 })?.sheet.name).toBe('Mine');
  expect(revisionsOf(later, 'mine').map(({ sheet }) => sheet.revision)).toEqual([5, 4]);
  const rows = await dropSheet(database, 'mine');
  expect(rows.map(({ revision }) => revision)).toEqual([4, 5]);
  expect((await readSheets(database, shippedSheets())).sheets.get('mine')).toBeUndefined();
});

it('keeps a manual by its digest once, and leaves what version 6 held', async () => {
  const name = `test ${count++}`;
  const old = new Dexie(name);
  old.version(6).stores({ jobs: 'id', sheetRevisions: '[slug+revision], slug', runs: 'id, session' });
  await old.table('jobs').put({ ...demoJob(), name: 'Of version 6' });
  old.close();
  const database = new BujoDatabase(name);
  const digest = 'a'.repeat(64);
  for (const words of ['first', 'second'])
    await database.papers.put({ digest, name: `${words}.pdf`, file: new Blob([words]) });
  expect(await database.papers.count()).toBe(1);
  expect(await database.papers.get(digest)).toMatchObject({ name: 'second.pdf' });
  expect(await database.jobs.get(demoJob().id)).toMatchObject({ name: 'Of version 6' });
});

it('keeps a plan until it is empty, and leaves what version 8 held', async () => {
  const name = `test ${count++}`;
  const old = new Dexie(name);
  old.version(8).stores({ jobs: 'id', sets: 'id, job', writings: 'id, job' });
  await old.table('sets').put({ id: 'a visit', job: 'j', name: 'Of version 8' });
  old.close();
  const shelf = setShelf(new BujoDatabase(name), () => Promise.resolve([]));
  const plan = new Map([['11.02', { words: [45], reason: 'typed' }]]);
  await shelf.keepPlan({ drive: 'k 3', job: 'j', plan });
  await shelf.keepPlan({ drive: 'k 4', job: 'j', plan });
  await shelf.keepPlan({ drive: 'k 4', job: 'j', plan: new Map() });
  const { sets, plans } = await shelf.of('j');
  expect(sets.map((row) => row.name)).toEqual(['Of version 8']);
  expect(plans).toEqual([{ drive: 'k 3', job: 'j', plan }]);
});

it('keeps one look of each drive of a job, and leaves what version 11 held', async () => {
  const name = `test ${count++}`;
  const old = new Dexie(name);
  old.version(11).stores({ visits: 'job', records: 'digest, job' });
  await old.table('visits').put({ job: 'j', visit: { by: 'of version 11' } });
  old.close();
  const database = new BujoDatabase(name);
  const shelf = lookShelf(database);
  const row = (drive: string, to: number) =>
    ({ job: 'j', drive, name: 'fan', look: beginLook('holding-register', 0, to), before: null, commands: [] }) as const;
  await shelf.keep(row('k 3', 99));
  await shelf.keep(row('k 3', 10));
  await shelf.keep(row('k 4', 20));
  expect((await shelf.of('j', 'k 3'))?.look.to).toBe(10);
  expect(await shelf.of('other', 'k 3')).toBeUndefined();
  expect((await database.visits.get('j'))?.visit).toMatchObject({ by: 'of version 11' });
});

describe('runs of trials', () => {
  const procedure: Procedure = {
    kind: 'trial',
    title: 'stops',
    station: 3,
    steps: [{ kind: 'pause', text: 'wait', us: 1 }],
    rounds: 1,
    standsStill: false,
  };
  const step = (from: number, to: number): CompiledStep => ({
    from,
    to,
    step: { id: 'one', kind: 'hold', s: 1 },
    time: 1,
    text: 'wait',
    turns: false,
    fault: '',
    isLeftOut: false,
  });
  const row = (id: string, run: RunState | null): TrialRunRow => ({
    id,
    job: 'j',
    line: 'k',
    station: 3,
    name: 'fan',
    sheet: { slug: 'tern', revision: 1 },
    startedMs: 0,
    compiled: {
      trial: { format: 1, id: 'stops', name: 'stops', proves: 'a', leaves: 'b', steps: [] },
      steps: [step(0, 1)],
      procedure,
      why: '',
    },
    rampS: null,
    run,
    samples: lineOf([{ x: 1, y: 2 }]),
    remark: 'quiet',
  });

  it('are kept with what was seen, and leave what version 9 held', async () => {
    const name = `test ${count++}`;
    const old = new Dexie(name);
    old.version(9).stores({ jobs: 'id', runs: 'id, session', plans: 'drive, job' });
    await old.table('plans').put({ drive: 'k 3', job: 'j', plan: new Map() });
    old.close();
    const database = new BujoDatabase(name);
    const shelf = trialShelf(database);
    const over = row('over', endRun(beginRun(procedure, 'over', 0), 'done', ''));
    await shelf.keep(over);
    expect(await shelf.of('j')).toEqual([over]);
    // So they were kept before the line was one piece.
    await database.trialRuns.put({ ...over, samples: [{ x: 1, y: 2 }] });
    expect(await shelf.of('j')).toEqual([over]);
    expect(await shelf.of('another')).toEqual([]);
    await shelf.drop('over');
    expect(await shelf.of('j')).toEqual([]);
    expect(await database.plans.count()).toBe(1);
  });

  it('that a reload cut tell so in their own row, whoever looks at it and when', async () => {
    const database = fresh();
    const shelf = trialShelf(database);
    const run = beginRun(procedure, 'cut', 0);
    await shelf.keep(row('cut', null));
    await database.runs.put({ id: 'cut', session: 'gone', line: 'k', procedure, run });
    expect((await shelf.of('j'))[0]?.run).toBeNull();
    expect(await sessionsAlive().cutIn(database)).toHaveLength(1);
    expect((await shelf.of('j'))[0]).toMatchObject({
      remark: 'quiet',
      run: { end: 'reload', why: 'its page was reloaded or closed at step 1 of 1; the step may have been done' },
    });
  });

  it('that a reload cut count the steps of the trial, as the screen did, and not those of its procedure', async () => {
    const database = fresh();
    const shelf = trialShelf(database);
    const three = { ...procedure, steps: [...procedure.steps, ...procedure.steps, ...procedure.steps] };
    const run = { ...beginRun(three, 'cut', 0), at: 2 };
    const own = row('cut', null);
    await shelf.keep({ ...own, compiled: { ...own.compiled, procedure: three, steps: [step(0, 2), step(2, 3)] } });
    await database.runs.put({ id: 'cut', session: 'gone', line: 'k', procedure: three, run });
    await sessionsAlive().cutIn(database);
    expect((await shelf.of('j'))[0]?.run?.why).toContain('at step 2 of 2;');
  });

  it('of which nobody tells any more say that, and are under way no longer', async () => {
    const shelf = trialShelf(fresh());
    await shelf.keep(row('lost', beginRun(procedure, 'lost', 0)));
    await shelf.keep(row('never begun', null));
    for (const { run } of await shelf.of('j'))
      expect(run).toMatchObject({
        phase: 'over',
        end: 'reload',
        why: expect.stringMatching(/was not seen$/) as string,
      });
  });
});

describe('export of the trace', () => {
  const lineId = demoJob().lines[0]!.id;
  const frames: readonly Partial<TraceEntry>[] = [
    { direction: 'event', bytes: new Uint8Array(0), outcome: 'opened', exchange: 0, cause: 'line' },
    { direction: 'sent', bytes: rtu('03 06 02C3 0F45'), exchange: 1, outcome: 'none', cause: 'Words, by hand' },
    { direction: 'received', bytes: rtu('03 06 02C3 0F45'), exchange: 1, outcome: 'answered', cause: 'Words, by hand' },
  ];

  async function exported(form: 'csv' | 'jsonl'): Promise<string> {
    const database = fresh();
    await database.sessions.put({ id: 's', startedAtMs: Date.UTC(2026, 10, 25, 9, 14, 22), job: demoJob().id });
    await database.sessions.put({ id: 'other', startedAtMs: 0, job: 'another job' });
    await database.traceBlocks.put(packBlock(frames.map((part, i) => ({ ...entry('s', i), line: lineId, ...part }))));
    await database.traceBlocks.put(packBlock([entry('other', 0)]));
    const { blob, entries } = await exportTrace(database, demoJob(), form, shippedSheets());
    expect(entries).toBe(3);
    return new TextDecoder().decode(await blob.arrayBuffer());
  }

  it('CSV reads back with a general CSV reader, commas and all', async () => {
    const { data, errors } = Papa.parse<Record<string, string>>(await exported('csv'), {
      header: true,
      skipEmptyLines: true,
    });
    expect(errors).toEqual([]);
    expect(data).toHaveLength(3);
    expect(data[1]).toMatchObject({
      time: '2026-11-25T09:14:22.001Z',
      line: 'K1 kiln',
      station: '3',
      direction: 'sent',
      hex: '03 06 02 c3 0f 45 bd af',
      cause: 'Words, by hand',
    });
    expect(data[1]?.meaning).toBe('write 11.03 speed reference ← 3909 = 17.498 Hz');
    expect(data[2]?.meaning).toBe('confirmed');
  });

  it('an entry says what it said when it was made, also after the drive got another revision and another number', async () => {
    const database = fresh();
    const [own] = demoJob().lines;
    const tern = shippedSheets().find(({ slug }) => slug === 'tern')!;
    // The newer revision says that one count is a tenth of a hertz.
    const newer: Sheet = {
      ...tern,
      revision: 99,
      parameters: (tern.parameters ?? []).map((entry) =>
        entry.role === 'speed-reference' ? { ...entry, scale: { kind: 'resolution', value: '0.1' } } : entry,
      ),
    };
    const changed = {
      ...own!,
      stations: own!.stations.map((one) =>
        one.station === 3 ? { ...one, station: 13, sheet: { slug: 'tern', revision: 99 } } : one,
      ),
    };
    const job = { ...demoJob(), lines: [changed] };
    await database.sheetRevisions.put({ slug: 'tern', revision: 99, sheet: sheetFile(newer) });
    await database.sessions.put({
      id: 's',
      startedAtMs: 0,
      job: job.id,
      lines: [changed],
      earlier: [{ before: 2, lines: [own!] }],
    });
    const to = (station: number, sequence: number): TraceEntry => ({
      ...entry('s', sequence),
      line: lineId,
      station,
      direction: 'sent',
      bytes: rtu(`${station.toString(16).padStart(2, '0')} 06 02C3 0F45`),
      exchange: sequence,
      outcome: 'none',
    });
    await database.traceBlocks.put(packBlock([to(3, 0), to(3, 1), to(13, 2)]));
    const { blob } = await exportTrace(database, job, 'jsonl', shippedSheets());
    const meanings = new TextDecoder()
      .decode(await blob.arrayBuffer())
      .trim()
      .split('\n')
      .map((line) => (JSON.parse(line) as { meaning: string }).meaning);
    expect(meanings).toEqual([
      'write 11.03 speed reference ← 3909 = 17.498 Hz',
      'write 11.03 speed reference ← 3909 = 17.498 Hz',
      'write 11.03 speed reference ← 3909 = 390.9 Hz',
    ]);
  });

  it('JSON Lines: one object a line, with every column', async () => {
    const rows = (await exported('jsonl'))
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, unknown>);
    expect(rows.map(({ sequence, outcome }) => [sequence, outcome])).toEqual([
      [0, 'opened'],
      [1, 'none'],
      [2, 'answered'],
    ]);
    for (const row of rows) expect(Object.keys(row)).toEqual([...EXPORT_COLUMNS]);
  });
});

describe('what ships', () => {
  const answering = (answer: Response): void => void jest.spyOn(globalThis, 'fetch').mockResolvedValueOnce(answer);
  afterEach(() => jest.restoreAllMocks());

  it('comes from the local server as it stands in its files', async () => {
    answering(shippedRoute());
    expect(await fetchShipped()).toEqual({
      sheets: shippedSheets(),
      unlisted: unlistedSheets(),
      demo: demoJob(),
    });
  });

  it('what was left of the demo’s fan is a set as any file holds one, and stands beside the user’s own', async () => {
    const database = fresh();
    const [visit] = shippedSets(demoJob(), shippedSheets());
    const shelf = setShelf(database, () => Promise.resolve(visit ? [visit] : []));
    const job = demoJob().id;
    await shelf.keepSet({ ...visit!, id: 'own', name: 'mine' });
    await shelf.keepWriting({ ...visit!, writing: { items: [], silences: 0 } });
    const { sets, writings } = await shelf.of(job);
    expect(sets.map(({ name, reading }) => [name, reading.said.size])).toEqual([
      ['the last visit', 203],
      ['mine', 203],
    ]);
    expect(writings).toHaveLength(1);
    await shelf.dropSet('own');
    expect((await shelf.of(job)).sets).toHaveLength(1);
    expect((await shelf.of('another job')).writings).toEqual([]);
  });

  it('is refused with the sheet and the place where a file is broken, or where the server has none', async () => {
    expect(() =>
      readShipped({ sheets: { tern: { format: 1, slug: 'tern' } }, earlier: {}, unlisted: {}, demo: demoJob() }),
    ).toThrow('the shipped sheet tern is broken: revision:');
    answering(Response.json({ hello: 1 }));
    await expect(fetchShipped()).rejects.toThrow('what it gives is something else');
    answering(new Response('', { status: 503 }));
    await expect(fetchShipped()).rejects.toThrow('the local server has no sheets: it answers 503');
  });
});

it('every station of the demo job that is built has a shipped sheet, or a stand-in with one that the bench does not have', () => {
  const slugs = new Set(shippedSheets().map(({ slug, revision }) => `${slug} ${revision}`));
  const built = demoJob().lines.filter(({ far }) => far === 'yard');
  expect(built.map(({ name }) => name)).toEqual(['K1 kiln', 'K2 vents', 'S1 saw', 'G1 flap']);
  const hidden = new Set(unlistedSheets().map(({ slug }) => slug));
  for (const { sheet, standin } of built.flatMap(({ stations }) => stations))
    expect(slugs.has(`${sheet?.slug} ${sheet?.revision}`) || hidden.has(standin?.sheet ?? '')).toBe(true);
});

it('two tabs that keep the same revision: the second is told, nothing is lost, and the next number is free', async () => {
  const database = new BujoDatabase(`test ${count++}`);
  const linnet = shippedSheets().find(({ slug }) => slug === 'linnet')!;
  const first = { ...linnet, slug: 'mine', revision: 2, name: 'of the first tab' };
  const second = { ...first, name: 'of the second tab' };
  await keepSheet(database, shippedSheets(), first);
  // The same once more is no conflict.
  await keepSheet(database, shippedSheets(), first);
  await expect(keepSheet(database, shippedSheets(), second)).rejects.toThrow(RevisionTaken);
  expect((await readSheets(database, shippedSheets())).sheets.get('mine')?.sheet.name).toBe('of the first tab');
  await keepSheet(database, shippedSheets(), { ...second, revision: 3 });
  const { sheets } = await readSheets(database, shippedSheets());
  expect(revisionsOf(sheets, 'mine').map(({ sheet }) => sheet.name)).toEqual(['of the second tab', 'of the first tab']);
});

describe('records of visits', () => {
  it('are kept once under their digest with what a person put to the next one, and leave what version 10 held', async () => {
    const name = `test ${count++}`;
    const old = new Dexie(name);
    old.version(10).stores({ jobs: 'id', trialRuns: 'id, job' });
    await old.table('jobs').put(demoJob());
    await old.table('trialRuns').put({ id: 'r', job: demoJob().id });
    old.close();
    const database = new BujoDatabase(name);
    expect(await database.jobs.get(demoJob().id)).toEqual(demoJob());
    expect(await database.trialRuns.count()).toBe(1);
    const shelf = recordShelf(database, () => shippedRecords(demoJob(), shippedSheets()));
    const { visit, records } = await shelf.of(demoJob().id);
    expect(visit).toEqual(NO_VISIT);
    // What ships is the same at every start: its digest is its name.
    expect(records).toEqual(await shippedRecords(demoJob(), shippedSheets()));
    const [ships] = records;
    const row = { ...ships!, digest: 'd'.repeat(64), keptMs: 7, ships: false };
    await shelf.keep(row);
    await shelf.keep({ ...row, keptMs: 8 });
    // Two tabs that put something to it at once: nobody's is lost.
    await Promise.all([
      shelf.changeVisit(demoJob().id, (visit) => ({ ...visit, by: 'E. Moss' })),
      shelf.changeVisit(demoJob().id, (visit) => ({ ...visit, remarks: { ...visit.remarks, values: 'spare motor' } })),
    ]);
    expect(await shelf.of(demoJob().id)).toEqual({
      visit: { ...NO_VISIT, by: 'E. Moss', remarks: { values: 'spare motor' } },
      records: [ships, row],
    });
    await shelf.drop(row.digest);
    expect((await shelf.of(demoJob().id)).records).toEqual([ships]);
  });
});

describe('the room that traces take', () => {
  it('is told by session, a trace is let go whole and put back as it was, and one that is written to stays', async () => {
    const database = fresh();
    const { own } = writer(database);
    for (const id of ['old', 'new']) await database.sessions.put({ id, startedAtMs: id === 'old' ? 1 : 2, job: 'j' });
    const entries = Array.from({ length: 1500 }, (_, i) => entry('old', i));
    own.add(entries);
    await own.flush();
    await database.traceBlocks.put(packBlock([entry('new', 0)]));
    const room = roomOf(database, () => Promise.resolve(new Set(['new'])));
    const before = await room.of();
    expect(before).toMatchObject([
      { kind: 'trace', key: 'old', entries: 1500, isOpen: false },
      { kind: 'trace', key: 'new', entries: 1, isOpen: true },
    ]);
    // Three bytes an entry at least, and its columns.
    expect(before.map((item) => item.kind === 'trace' && item.bytes > 3 * item.entries)).toEqual([true, true]);
    await expect(room.letGo({ kind: 'trace', key: 'new' })).rejects.toThrow('a page of this browser writes to it now');
    const restore = await room.letGo({ kind: 'trace', key: 'old' });
    expect((await room.of()).map(({ key }) => key)).toEqual(['new']);
    expect((await everything(database)).entries).toHaveLength(1);
    await restore();
    expect(await room.of()).toEqual(before);
    expect((await everything(database)).entries.filter(({ session }) => session === 'old')).toEqual(entries);
    // Nothing of what never was is let go.
    await (
      await room.letGo({ kind: 'trace', key: 'never' })
    )();
    expect(await room.of()).toEqual(before);
  });
});

it('photographs of a job and copies of before a change are told, let go and put back', async () => {
  const database = fresh();
  const photo = { of: { of: 'plant' }, caption: '', width: 4, height: 3, atMs: 1 } as const;
  await database.photos.bulkPut([
    { ...photo, id: 'a', job: 'j', jpeg: new Uint8Array(500) },
    { ...photo, id: 'b', job: 'j', jpeg: new Uint8Array(700) },
    { ...photo, id: 'c', job: 'k', jpeg: new Uint8Array(5) },
  ]);
  await database.copies.put({ version: 13, madeMs: 5, tables: { jobs: [{ id: 'j' }], sets: [{}, {}] } });
  const room = roomOf(database, () => Promise.resolve(new Set()));
  const before = await room.of();
  expect(before).toEqual([
    { kind: 'photos', key: 'j', photos: 2, bytes: 1200 },
    { kind: 'photos', key: 'k', photos: 1, bytes: 5 },
    { kind: 'copy', key: '13', madeMs: 5, rows: 3 },
  ]);
  const back = [await room.letGo(before[0]!), await room.letGo(before[2]!)];
  expect(await room.of()).toEqual([before[1]]);
  expect(await room.copyText('13')).toBeNull();
  for (const put of back) await put();
  expect(await room.of()).toEqual(before);
});

/** A program after this one, whose version changes the names of jobs; `then` is what comes after it. */
function newer(name: string, then: () => void = () => undefined): Dexie {
  const own = new BujoDatabase(name);
  own.version(15).upgrade(async (change) => {
    await keepCopy(change, 14, ['jobs'], 5);
    await change
      .table('jobs')
      .toCollection()
      .modify((job: { name: string }) => void (job.name = 'changed'));
    then();
  });
  return own;
}

it('a version that changes rows copies them first, and if it fails neither is there', async () => {
  const name = `migration ${count++}`;
  const before = new BujoDatabase(name);
  await before.jobs.put({ ...demoJob(), name: 'Of version 14' });
  before.close();
  const failing = newer(name, () => {
    throw new Error('it cannot');
  });
  await expect(failing.open()).rejects.toThrow('it cannot');
  failing.close();
  const still = new BujoDatabase(name);
  expect([(await still.jobs.toArray()).map((job) => job.name), await still.copies.count()]).toEqual([
    ['Of version 14'],
    0,
  ]);
  still.close();
  const changed = newer(name);
  expect(((await changed.table('jobs').toArray()) as { name: string }[]).map((job) => job.name)).toEqual(['changed']);
  expect(await changed.table('copies').toArray()).toMatchObject([
    { version: 14, madeMs: 5, tables: { jobs: [{ name: 'Of version 14' }] } },
  ]);
  changed.close();
});

it('a copy is a file of its own, bytes as hex', async () => {
  const database = fresh();
  await database.copies.put({ version: 14, madeMs: 5, tables: { sets: [{ id: 's', words: Uint8Array.of(1, 0xfe) }] } });
  const text = await roomOf(database, () => Promise.resolve(new Set())).copyText('14');
  expect(JSON.parse(text ?? '')).toEqual({
    format: 1,
    program: 'Bujo',
    version: 14,
    madeMs: 5,
    tables: { sets: [{ id: 's', words: { hex: '01fe' } }] },
  });
});

it('keeps the photographs of a job in the order in which they came, and leaves what version 12 held', async () => {
  const name = `migration ${count++}`;
  const old = new Dexie(name);
  old.version(12).stores({ looks: '[job+drive]', jobs: 'id' });
  await old.table('jobs').put({ ...demoJob(), name: 'Of version 12' });
  old.close();
  const database = new BujoDatabase(name);
  const shelf = photoShelf(database);
  const photo = { job: 'j', of: { of: 'plant' }, caption: '', width: 4, height: 3, jpeg: Uint8Array.of(1, 2) } as const;
  const told: string[][] = [];
  const end = shelf.follow(
    'j',
    (rows) => told.push(rows.map(({ id }) => id)),
    () => told.push(['it could not be read']),
  );
  await shelf.keep({ ...photo, id: 'late', atMs: 2 });
  await shelf.keep({ ...photo, id: 'early', atMs: 1 });
  await shelf.keep({ ...photo, id: 'other', job: 'k', atMs: 0 });
  await shelf.call('late', 'the plate');
  await shelf.call('gone', 'nobody');
  expect((await shelf.of('j')).map(({ id, caption, jpeg }) => [id, caption, [...jpeg]])).toEqual([
    ['early', '', [1, 2]],
    ['late', 'the plate', [1, 2]],
  ]);
  await shelf.drop('early');
  expect((await shelf.of('j')).map(({ id }) => id)).toEqual(['late']);
  // Who follows them hears of each change, also of another tab's.
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(told.at(-1)).toEqual(['late']);
  expect(told.flat()).toContain('early');
  end();
  expect(await database.jobs.get(demoJob().id)).toMatchObject({ name: 'Of version 12' });
});
