import * as v from 'valibot';
import { demoJob } from '../../../tests/harness/shipped';
import { pick, seededRandom } from '../random/random';
import { withLine, withStation, type Job } from './job';
import { JobSchema } from './job-schema';
import { mergeOffers } from './merge-job';

const job = demoJob();
const [k1, , k2] = job.lines;
const note = { setting: 'rate', manual: '19200', tried: '9600', remark: '' };

it('two records that are the same have nothing to offer, and what only one’s own has stays', () => {
  expect(mergeOffers(job, job)).toEqual([]);
  const more = withStation(job, k1!.id, 3, (station) => ({ ...station, notes: [note] }));
  expect(mergeOffers(more, job)).toEqual([]);
  expect(mergeOffers(job, { ...job, lines: job.lines.slice(1), trials: [] })).toEqual([]);
});

it('a colleague’s notes, cable, new station and new line are offered each by itself, told in words, and taken with a way back', () => {
  const another = { ...k2!, id: 'new', name: 'K9 gate' };
  const theirs: Job = {
    ...withLine(
      withStation(job, k1!.id, 3, (station) => ({ ...station, name: 'fan of the kiln', notes: [note] })),
      k1!.id,
      (line) => ({
        ...line,
        serial: { ...line.serial!, rate: 9600 },
        cable: { ...line.cable!, lengthM: 55 },
        stations: [...line.stations, { id: 's9', station: 9, name: 'damper' }],
      }),
    ),
    ipPlan: (job.ipPlan ?? []).slice(1),
    wiring: { root: 'laptop', ring: false, links: (job.wiring?.links ?? []).slice(1) },
  };
  theirs.lines.push(another);
  const offers = mergeOffers(job, theirs);
  expect(offers.map(({ what, own, theirs: other }) => [what, own, other])).toEqual([
    ['K1 kiln: how it is reached', 'RS-485, Modbus RTU, 19200 8E1', 'RS-485, Modbus RTU, 9600 8E1'],
    ['K1 kiln: its cable', 'adapter to kiln fan, 3 cores, 42 m', 'adapter to kiln fan, 3 cores, 55 m'],
    ['K1 kiln, 3 · kiln fan: its name', 'kiln fan', 'fan of the kiln'],
    ['K1 kiln, 3 · kiln fan: where manual and drive disagree', '', 'rate: 9600'],
    ['K1 kiln: station 9 · damper', '', 'without a sheet'],
    ['the line K9 gate', '', expect.stringMatching(/^RS-485, USS, 38400 8E1; 4 · vent hoist$/) as string],
    ['the address plan', expect.stringMatching(/^laptop /) as string, expect.not.stringMatching(/^laptop /) as string],
    [
      'the wiring from port to port',
      expect.stringMatching(/^laptop 1 to /) as string,
      expect.not.stringMatching(/^laptop /) as string,
    ],
  ]);
  for (const { take, back } of offers) {
    const taken = take(job);
    expect(v.safeParse(JobSchema, taken).issues ?? []).toEqual([]);
    // One thing less to offer, and the others as before.
    expect(mergeOffers(taken, theirs)).toHaveLength(offers.length - 1);
    expect(back.restore(taken)).toEqual(job);
  }
});

it('taken one by one in any order, nothing is left to offer, and undone one by one in the other order, the job is as it was', () => {
  const random = seededRandom(3);
  for (let i = 0; i < 60; i++) {
    let theirs = job;
    for (const line of job.lines) {
      if (random() < 0.3) theirs = withLine(theirs, line.id, (own) => ({ ...own, name: `${own.name} ${i}` }));
      if (random() < 0.3)
        theirs = withLine(theirs, line.id, (own) => ({
          ...own,
          stations: own.stations.map((one) => ({ ...one, about: `seen ${i}` })),
        }));
      if (random() < 0.2)
        theirs = withLine(theirs, line.id, (own) => ({
          ...own,
          stations: [...own.stations, { id: `x${i}`, station: 200, name: 'x' }],
        }));
    }
    if (random() < 0.5)
      theirs = { ...theirs, frames: [{ id: 'f', name: 'a frame', note: '', protocol: 'uss', hex: '02' }] };
    if (random() < 0.5)
      theirs = { ...theirs, trials: (theirs.trials ?? []).map((trial) => ({ ...trial, proves: `all ${i}` })) };
    const taken: Job[] = [job];
    const backs: ((now: Job) => Job)[] = [];
    for (
      let offers = mergeOffers(job, theirs);
      offers.length > 0;
      offers = mergeOffers(taken[taken.length - 1]!, theirs)
    ) {
      const offer = offers[pick(random, offers.length)]!;
      backs.push(offer.back.restore);
      taken.push(offer.take(taken[taken.length - 1]!));
      expect(taken.length).toBeLessThan(100);
    }
    expect(mergeOffers(taken[taken.length - 1]!, theirs)).toEqual([]);
    let now = taken[taken.length - 1]!;
    for (const back of backs.reverse()) now = back(now);
    // A list that was not there may be there empty.
    expect({ ...now, frames: now.frames ?? [] }).toEqual({ ...job, frames: job.frames ?? [] });
  }
});

it('a station whose number another drive has here is not taken before one of the two has another number', () => {
  const theirs = withLine(job, k1!.id, (line) => ({
    ...line,
    stations: [...line.stations, { id: 'other', station: 3, name: 'damper' }],
  }));
  const [offer] = mergeOffers(job, theirs);
  expect(offer?.why).toBe('K1 kiln would have two stations 3: give one of them another number first');
  const moved = withStation(job, k1!.id, 3, (station) => ({ ...station, station: 33 }));
  // Their number of the fan would bring the clash back; the damper itself can be taken now.
  expect(mergeOffers(moved, theirs).find(({ what }) => what.endsWith('damper'))?.why).toBe('');
});
