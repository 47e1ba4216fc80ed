import fc from 'fast-check';
import alderFord from '../../../demo/alder-ford.json';
import { copyOfJob, jobFileText, type Job } from './job';
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

it('a job goes out as a file and comes back the same', () => {
  const back = readJobText(jobFileText(demo()));
  expect(back.ok && back.value).toEqual(demo());
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
  const text = jobFileText(demo());
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
