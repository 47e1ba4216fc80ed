import { demoJob } from '../../../tests/harness/shipped';
import { makeRecord } from './make-record';
import type { Photo, PhotoOf } from './photo';
import { photoPlaces, strayPlaces } from './sections/photographs';
import { NO_VISIT } from './visit';

const job = demoJob();
const photo = (id: string, of: PhotoOf): Photo => ({
  id,
  of,
  caption: id,
  atMs: 0,
  width: 4,
  height: 3,
  jpeg: Uint8Array.of(0xff, 0xd8, 0xff, 0xe0),
});

it('each line and each drive of the job can have photographs, by a name of its own', () => {
  const places = photoPlaces(job);
  expect(places).toHaveLength(1 + job.lines.reduce((sum, { stations }) => sum + 1 + stations.length, 0));
  expect(new Set(places.map(([name]) => name)).size).toBe(places.length);
  expect(
    strayPlaces(
      job,
      places.map(([name, of]) => photo(name, of)),
    ),
  ).toEqual([]);
});

it('photographs of what was taken out of the job stay in the record, and can be looked at and taken away', () => {
  const gone = { of: 'drive', line: 'gone', station: 'x' } as const;
  const photos = [photo('one', gone), photo('two', gone), photo('run', { of: 'run', run: 'r' })];
  expect(strayPlaces(job, photos)).toEqual([['a drive that is not in the job any more', gone]]);
  const record = makeRecord({ job, drives: [], photos, visit: NO_VISIT, madeMs: 0, zoneMinutes: 0 });
  const shown = record.sections.find(({ id }) => id === 'photographs')?.blocks ?? [];
  expect(shown.map((block) => ('title' in block ? block.title : ''))).toEqual([
    'a drive that is not in the job any more: one',
    'a drive that is not in the job any more: two',
  ]);
});
