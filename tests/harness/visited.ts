import type { HandoverDrive, HandoverInput, KeptRun, KeptSet, KeptWriting } from '../../src/core/handover/drive';
import { NO_VISIT, type Visit } from '../../src/core/handover/visit';
import { TraceFacts } from '../../src/core/handover/trace-facts';
import { compileTrial } from '../../src/core/trial/compile';
import { SHIPPED_TRIALS } from '../../src/core/trial/shipped-trials';
import { restOf } from '../../src/core/trial/states';
import { meaningOf } from '../../src/core/drive/describe';
import type { PlacedParameter } from '../../src/core/sheet/index-sheet';
import { lineOf, type Sample } from '../../src/core/trial/seen-line';
import { K1 } from './line';
import { demoJob } from './shipped';
import { standinLine } from './standin-line';

const STARTED_MS = Date.UTC(2026, 10, 20, 8, 0, 0);

/** The kiln fan of the demo at its stand-in, worked on over the real master; what came of it as the input of a record. */
export async function visitedFan(factory: Readonly<Record<string, number>> = {}) {
  const line = await standinLine('tern', 'modbus-rtu', [3], K1, 1, K1, { '2.01': 2, '2.02': 2, '5.01': 3, ...factory });
  const job = demoJob();
  const [jobLine] = job.lines;
  const station = jobLine?.stations[0];
  if (!jobLine || !station) throw new Error('no fan');
  const places = line.protocol.placesOf(line.index);
  const runs: KeptRun[] = [];
  const writings: KeptWriting[] = [];
  const place = (number: string): PlacedParameter => {
    const found = line.index.byNumber.get(number);
    if (!found) throw new Error(`no ${number}`);
    return found;
  };
  const read = (number: string): void => {
    for (const request of places.read(3, [place(number)])) line.ask(request);
  };
  const writeTo = (station: number, number: string, pattern: number): void => {
    const request = places.write(station, place(number), pattern, () => undefined);
    if (!request) throw new Error(`${number} cannot be written`);
    line.ask(request);
  };
  const write = (number: string, pattern: number): void => writeTo(3, number, pattern);
  /** A broadcast: station 0 of Modbus on a serial line. */
  const writeToAll = (number: string, pattern: number): void => writeTo(0, number, pattern);
  /** Runs a trial that ships to its end, each question answered by its first choice. */
  const run = (id: string): void => {
    const trial = SHIPPED_TRIALS.find((one) => one.id === id);
    const { profile } = line.index;
    if (!trial || !profile) throw new Error(`no trial ${id}`);
    const compiled = compileTrial(trial, {
      index: line.index,
      places,
      station: 3,
      name: 'fan',
      here: [restOf(profile) ?? ''],
      known: () => undefined,
      protocol: line.protocol,
    });
    if (!compiled.procedure) throw new Error(compiled.why);
    const startedMs = STARTED_MS + line.clock.now() / 1000;
    line.master.startProcedure(compiled.procedure, id);
    const last = () => line.runs[line.runs.length - 1]!;
    const samples: Sample[] = [];
    for (let i = 0; i < 4000 && last().phase === 'running'; i++) {
      line.clock.advanceBy(100_000);
      samples.push({ x: line.clock.now() / 1e6, y: i % 30 });
      const step = compiled.procedure.steps[last().at];
      if (step?.kind === 'person')
        line.master.tellProcedure(id, { kind: 'answer', said: step.choices[0]?.name ?? '100' });
    }
    runs.push({
      id: `run ${id}`,
      startedMs,
      index: line.index,
      compiled,
      run: last(),
      rampS: 20,
      axis: null,
      samples: lineOf(samples),
      remark: 'turned clockwise, seen from the motor',
    });
  };
  const facts = () => {
    const reader = new TraceFacts(
      ({ station: number }) => ({ protocol: line.protocol, index: line.index, station: number }),
      () => [3],
      () => STARTED_MS,
    );
    line.entries.forEach((entry, sequence) =>
      reader.take({ ...entry, session: 'evening', line: jobLine.id, sequence }),
    );
    return reader.of(jobLine.id, 3);
  };
  const input = (
    visit: Partial<Visit> = {},
    now: KeptSet | null = null,
    visits: readonly KeptSet[] = [],
  ): HandoverInput => {
    const drive: HandoverDrive = {
      line: jobLine,
      station,
      index: line.index,
      protocol: line.protocol,
      facts: facts(),
      now,
      visits,
      writings,
      runs,
    };
    return {
      job,
      drives: [drive],
      photos: [],
      visit: { ...NO_VISIT, ...visit },
      madeMs: STARTED_MS + 7_200_000,
      zoneMinutes: -60,
    };
  };
  const text = (number: string, pattern: number): string => meaningOf(line.index, place(number), pattern);
  return { ...line, job, places, read, write, writeToAll, run, writings, facts, input, place, text };
}
