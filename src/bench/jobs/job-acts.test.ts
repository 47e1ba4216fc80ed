import type { Job } from '../../core/job/job';
import { demoJob } from '../../../tests/harness/shipped';
import type { ShelfNews } from '../state/bench-state';
import { jobActs } from './job-acts';
import type { createJobShelf } from './job-shelf';

type Acts = ReturnType<typeof createJobShelf>;

function setup(fetch: (acts: Acts) => Promise<Acts>) {
  const called: (readonly [string, readonly unknown[]])[] = [];
  const news: (ShelfNews | null)[] = [];
  const note =
    (name: string) =>
    (...told: readonly unknown[]): void =>
      void called.push([name, told]);
  const own: Acts = {
    create: note('create'),
    rename: note('rename'),
    copy: note('copy'),
    remove: note('remove'),
    restore: note('restore'),
    open: note('open'),
    exportJob: note('exportJob'),
    exportTrace: note('exportTrace'),
    importFile: note('importFile'),
    settle: note('settle'),
    adopt: ({ job }) => Promise.resolve(job),
    exportRow: note('exportRow'),
  };
  return {
    own,
    called,
    news,
    acts: jobActs(
      () => fetch(own),
      (told) => news.push(told),
    ),
  };
}

const job: Job = demoJob();

it('every act reaches the shelf that comes with the first of them, with what it was told', async () => {
  const fetch = jest.fn((own: Acts) => Promise.resolve(own));
  const { own, acts, called } = setup(fetch);
  const file = { job, sheets: [] };
  acts.create('a');
  acts.rename(job, 'b');
  acts.copy(job);
  acts.remove(job);
  acts.restore(job);
  acts.open(job);
  acts.exportJob(job);
  acts.exportTrace(job, 'csv');
  acts.importFile(new File([], 'x'));
  acts.settle(file, 'keep-both');
  acts.exportRow({ id: 'r', row: 1, text: 't' });
  expect(await acts.adopt(file)).toBe(job);
  expect(called.map(([name]) => name)).toEqual(Object.keys(own).filter((name) => name !== 'adopt'));
  expect([called[1], called[7]]).toEqual([
    ['rename', [job, 'b']],
    ['exportTrace', [job, 'csv']],
  ]);
});

it('an act that does not come is told, and the next press fetches it again', async () => {
  const fetch = jest.fn((own: Acts) => Promise.resolve(own)).mockRejectedValueOnce(new Error('no server'));
  const { acts, called, news } = setup(fetch);
  acts.copy(job);
  await new Promise(setImmediate);
  expect([called, news]).toEqual([
    [],
    [{ text: 'That could not be done, and nothing was changed: no server', bad: true }],
  ]);
  acts.dismiss();
  acts.copy(job);
  await new Promise(setImmediate);
  expect([called.length, news.at(-1)]).toEqual([1, null]);
});
