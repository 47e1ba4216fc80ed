import type { Job } from '../job/job';
import { wordsOfRaw, type Said } from '../sets/said';
import { setFileOf, type SetFile } from '../sets/set-file';
import { defaultWitness } from '../sets/witness';
import type { SheetIndex } from '../sheet/index-sheet';

/** When somebody was at the kiln last. */
const LAST_VISIT = '2026-05-12T14:20:00.000Z';

/** What the kiln fan held then, in counts, where that is not what it leaves the factory with; who was there since changed eleven of its settings. */
const HELD_THEN: Readonly<Record<string, number>> = {
  // It was run over the network: now somebody has set it to its keypad, and so a run word is confirmed and not acted on.
  '2.01': 2,
  '2.02': 2,
  '5.01': 3,
  '5.04': 20,
  '11.02': 40,
  '22.02': 200,
  '23.01': 1,
  '29.01': 120,
  '30.03': 1300,
  '31.01': 4021,
  '31.03': 2650,
  '31.05': 806,
  '31.07': 117_530,
  '31.09': 38,
};

/** The set that somebody left of the demo's kiln fan at the last visit; null where the job or the sheet is another. */
export function lastVisit(job: Job, index: SheetIndex | undefined): SetFile | null {
  const line = job.lines.find(({ stations }) => stations.some(({ sheet }) => sheet?.slug === index?.sheet.slug));
  const station = line?.stations.find(({ sheet }) => sheet?.slug === index?.sheet.slug);
  if (!index || !line || !station) return null;
  const said = new Map<string, Said>(defaultWitness(index).said);
  for (const [number, raw] of Object.entries(HELD_THEN)) {
    const parameter = index.byNumber.get(number);
    const words = parameter && wordsOfRaw(parameter, raw);
    if (words) said.set(number, { kind: 'value', words, atMs: Date.parse(LAST_VISIT) });
  }
  for (const { number } of index.parameters)
    if (station.standin?.absent?.includes(number))
      said.set(number, { kind: 'refused', why: 'illegal data address: an option that is not fitted' });
  return setFileOf(index, said, {
    name: 'the last visit',
    at: LAST_VISIT,
    job: job.id,
    line: line.id,
    station: station.station,
    stationName: station.name,
  });
}
