import alderFord from '../../../demo/alder-ford.json';
import { loadJob } from '../../core/job/load-job';
import { withLine, type Job } from '../../core/job/job';
import { followedStation } from './bench-state';

const demo = (): Job => {
  const loaded = loadJob(alderFord);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return loaded.value;
};

it('the chosen drive stays chosen under its new number, also where two drives change theirs', () => {
  const job = demo();
  const [line] = job.lines;
  const [first, second] = line!.stations;
  const at = { lineId: line!.id, station: first!.station };
  const numbered = (one: number, two: number): Job =>
    withLine(job, line!.id, (own) => ({
      ...own,
      stations: own.stations.map((station) =>
        station.id === first!.id
          ? { ...station, station: one }
          : station.id === second!.id
            ? { ...station, station: two }
            : station,
      ),
    }));
  expect(followedStation(at, job, job)).toBe(first!.station);
  expect(followedStation(at, job, numbered(99, second!.station))).toBe(99);
  expect(followedStation(at, job, numbered(second!.station, first!.station))).toBe(second!.station);
  // Gone, or on a line that is gone: the number stays and leads nowhere.
  expect(followedStation(at, job, { ...job, lines: [] })).toBe(first!.station);
});
