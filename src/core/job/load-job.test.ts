import fc from 'fast-check';
import alderFord from '../../../demo/alder-ford.json';
import { shippedSheets } from '../../../tests/harness/shipped';
import { copyOfJob, withLine, type Job } from './job';
import { adoptFile, jobFileText, sheetsOfJob } from './job-file';
import { lineBack, stationAsItWas, stationBack, withoutLine, withoutStation } from './take-away';
import { loadJob, readJobText } from './load-job';

type Loose = Record<string, unknown>;
const copy = (): Loose => structuredClone(alderFord);
const lines = (job: Loose): Loose[] => job.lines as Loose[];
const stations = (job: Loose): Loose[] => lines(job)[0]!.stations as Loose[];

const demo = (): Job => {
  const loaded = loadJob(alderFord);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return loaded.value;
};

const sheetOf = (slug: string) => shippedSheets().find((sheet) => sheet.slug === slug);
const fileOf = (job: Job) => ({ job, sheets: sheetsOfJob(job, sheetOf) });

it('a job goes out as a file with the sheets of its stations and comes back the same', () => {
  expect(fileOf(demo()).sheets.map(({ slug }) => slug)).toContain('tern');
  for (const file of [fileOf(demo()), { job: demo(), sheets: [] }]) {
    const back = readJobText(jobFileText(file));
    expect(back.ok && back.value).toEqual(file);
  }
});

it('a broken sheet in a file is named at its place, and nothing of the file is used', () => {
  const file = JSON.parse(jobFileText(fileOf(demo()))) as { sheets: Loose[] };
  file.sheets[1]!.name = 7;
  const read = readJobText(JSON.stringify(file));
  expect(read.ok ? '' : read.error[0]?.path).toBe('sheets.1.name');
  for (const sheets of [{}, 'all', new Array(201).fill(0)])
    expect(readJobText(JSON.stringify({ ...file, sheets })).ok).toBe(false);
});

it('on another computer: an unknown sheet is kept, a known one left, and one that differs gets a name of its own', () => {
  const file = fileOf(demo());
  const [tern, ...others] = file.sheets;
  const changed = { ...tern!, summary: 'another' };
  const there = { ...file, sheets: [changed, ...others] };
  expect(adoptFile(file, sheetOf)).toEqual({ job: file.job, sheets: [] });
  expect(adoptFile(file, () => undefined)).toEqual(file);
  const taken = adoptFile(there, sheetOf);
  expect(taken.sheets).toEqual([{ ...changed, slug: `${tern!.slug}-2`, name: `${tern!.name} 2` }]);
  const slugs = (job: Job) => job.lines.flatMap(({ stations: all }) => all.map(({ sheet }) => sheet?.slug));
  expect(slugs(taken.job)).toEqual(slugs(file.job).map((slug) => (slug === tern!.slug ? `${tern!.slug}-2` : slug)));
  // A second time nothing more is kept.
  const known = (slug: string) => sheetOf(slug) ?? taken.sheets.find((sheet) => sheet.slug === slug);
  expect(adoptFile(there, known)).toEqual({ job: taken.job, sheets: [] });
});

it('a changed station becomes what it was, unless it is gone or its number is taken', () => {
  const job = demo();
  const [line] = job.lines;
  const [first, second] = line!.stations;
  const { text, restore } = stationAsItWas(line!, first!);
  expect(text).toBe(`Changed ${first!.station} · ${first!.name}.`);
  const stationsNow = (now: Job) => now.lines[0]!.stations;
  const withFirst = (change: object): Job =>
    withLine(job, line!.id, (own) => ({ ...own, stations: own.stations.with(0, { ...first!, ...change }) }));
  expect(restore(withFirst({ station: 99, name: 'other' }))).toEqual(job);
  const gone = withoutStation(job, line!.id, first!.id);
  expect(stationsNow(restore(gone))).toEqual(stationsNow(gone));
  const taken = withLine(withFirst({ station: 99 }), line!.id, (own) => ({
    ...own,
    stations: own.stations.with(1, { ...second!, station: first!.station }),
  }));
  expect(restore(taken)).toEqual(taken);
});

it('what was deleted comes back where it stood, whatever else was changed, and never twice', () => {
  const job = demo();
  for (const line of job.lines) {
    const back = lineBack(job, line);
    const less = withoutLine(job, line.id);
    expect(back.restore(less)).toEqual(job);
    expect(back.restore(job)).toBe(job);
    expect(back.restore({ ...less, name: 'renamed' })).toEqual({ ...job, name: 'renamed' });
    for (const { id } of line.stations) {
      const way = stationBack(line, id);
      expect(way.restore(withoutStation(job, line.id, id))).toEqual(job);
      expect(way.restore(job)).toEqual(job);
      expect(way.restore(less)).toEqual(less);
    }
  }
});

it('a copy has ids of its own throughout and is a good job', () => {
  let next = 0;
  const other = copyOfJob(demo(), 'copy', () => `id ${next++}`);
  expect(loadJob(other).ok).toBe(true);
  const ids = (job: Job): readonly string[] => [
    job.id,
    ...job.lines.flatMap((line) => [line.id, ...line.stations.map(({ id }) => id)]),
  ];
  expect(ids(other).some((id) => ids(demo()).includes(id))).toBe(false);
  expect(new Set(ids(other)).size).toBe(ids(demo()).length);
});

it.each<[string, (job: Loose) => void, string]>([
  ['a newer format', (job) => (job.format = 9), 'format: format 9 is newer'],
  ['a file of something else', (job) => delete job.lines, 'lines:'],
  ['an unknown key', (job) => (job.colour = 'red'), 'colour:'],
  ['station 248', (job) => (stations(job)[0]!.station = 248), 'lines.0.stations.0.station:'],
  ['rate 0', (job) => ((lines(job)[0]!.serial as Loose).rate = 0), 'lines.0.serial.rate:'],
  [
    'a station number twice on a line',
    (job) => (stations(job)[1]!.station = 3),
    'lines.0.stations.1.station: station 3 is on line K1 kiln twice',
  ],
  ['an id twice', (job) => (stations(job)[1]!.id = stations(job)[0]!.id), 'lines.0.stations.1.id: another'],
  ['no name', (job) => (job.name = ''), 'name:'],
])('names %s at its place', (_, spoil, expected) => {
  const job = copy();
  spoil(job);
  const loaded = loadJob(job);
  expect(loaded.ok ? '' : loaded.error.map(({ path, text }) => `${path}: ${text}`).join('\n')).toContain(expected);
});

it('a file cut short anywhere is told as such and never throws', () => {
  const text = jobFileText({ job: demo(), sheets: [] });
  for (let at = 0; at < text.length - 2; at += 97) {
    const read = readJobText(text.slice(0, at));
    expect(!read.ok && read.error[0]?.text).toContain('no JSON file, or it is cut short');
  }
});

it('no JSON throws', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      expect(loadJob(value).ok).toBe(false);
    }),
    { seed: 21, numRuns: 500 },
  );
});
