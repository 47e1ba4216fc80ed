import { axisOf } from '../../motion/axis';
import type { SheetIndex } from '../../sheet/index-sheet';
import { compileTrial } from '../../trial/compile';
import { bandOf, edgesOf, laidIn, movesAxis } from '../../trial/expect';
import { positionBandOf } from '../../trial/expect-position';
import { POSITIONING_TRIALS } from '../../trial/positioning-trials';
import { reportOf, type Verdict } from '../../trial/report';
import { sampleCount, sinceBegin, thinned } from '../../trial/seen-line';
import { SHIPPED_TRIALS } from '../../trial/shipped-trials';
import { restOf } from '../../trial/states';
import type { Trial } from '../../trial/trial';
import type { Block, Mark, Row } from '../document';
import { driveKey, driveName, timeText, type HandoverDrive, type HandoverInput, type KeptRun } from '../drive';
import { table } from './lines';
import { pictures } from './photographs';

const MARK_OF: Readonly<Record<Verdict, Mark>> = {
  passed: 'good',
  failed: 'bad',
  open: 'open',
  'under-way': 'open',
  'not-done': 'open',
};

const POSITIONING: ReadonlySet<string> = new Set(POSITIONING_TRIALS.map(({ id }) => id));

/** Points of a curve on paper. */
const MOST_POINTS = 400;

/** The last run of each trial of a drive. */
const lastRuns = ({ runs }: HandoverDrive): readonly KeptRun[] => {
  const last = new Map<string, KeptRun>();
  for (const run of [...runs].sort((a, b) => a.startedMs - b.startedMs)) last.set(run.compiled.trial.id, run);
  return [...last.values()];
};

/** The last run of each trial, with expected, seen and verdict of its steps. */
export const trialBlocks = (input: HandoverInput): readonly Block[] =>
  input.drives.flatMap((drive) =>
    lastRuns(drive).flatMap((run) => [...runBlocks(drive, run, input), ...picturesBefore(drive, run, input)]),
  );

/** Photographs of earlier runs of the same trial, which are not told themselves. */
const picturesBefore = (drive: HandoverDrive, last: KeptRun, input: HandoverInput): readonly Block[] =>
  drive.runs
    .filter(({ id, compiled }) => compiled.trial.id === last.compiled.trial.id && id !== last.id)
    .sort((a, b) => a.startedMs - b.startedMs)
    .flatMap(({ id, startedMs, compiled }) =>
      pictures(
        `${driveName(drive)}: ${compiled.trial.name}, the run of ${timeText(startedMs, input.zoneMinutes)}`,
        { of: 'run', run: id },
        input,
      ),
    );

function runBlocks(drive: HandoverDrive, kept: KeptRun, input: HandoverInput): readonly Block[] {
  const { zoneMinutes } = input;
  const { id, index, compiled, run, startedMs, remark } = kept;
  const { trial } = compiled;
  const report = reportOf(index, compiled, run);
  const from = { of: 'run', id } as const;
  const key = `trial ${driveKey(drive)} ${trial.id}`;
  const name = `${driveName(drive)}: ${trial.name}`;
  const head: readonly Row[] = [
    {
      key: `${key} verdict`,
      cells: [
        `${report.verdict.replace('-', ' ')}${run?.why ? `: ${run.why}` : ''}`,
        timeText(startedMs, zoneMinutes),
        trial.proves,
        trial.leaves,
      ],
      mark: MARK_OF[report.verdict],
      from,
    },
  ];
  const steps = report.steps.map(({ compiled: step, verdict, seen, why, fromUs, toUs }, i): Row => ({
    key: `${key} step ${i}`,
    cells: [
      `${i + 1}`,
      step.text,
      [seen, why].filter((part) => part !== '').join('; '),
      fromUs === null || toUs === null || toUs <= fromUs ? '' : `${((toUs - fromUs) / 1e6).toFixed(2)} s`,
    ],
    mark: MARK_OF[verdict],
    from,
  }));
  const measures = report.measures.map(({ name: called, text, should, verdict }): Row => ({
    key: `${key} measure ${called}`,
    cells: [called, text, should],
    mark: MARK_OF[verdict],
    from,
  }));
  const said: readonly Row[] =
    remark === '' ? [] : [{ key: `${key} remark`, cells: [remark], mark: 'person', from: { of: 'person' } }];
  return [
    ...table(name, ['verdict', 'when', 'what it proves', 'what it does not'], head),
    ...curveOf(kept, name),
    ...table(`${trial.name}: measured`, ['what', 'came to', 'should be'], measures),
    ...table(`${trial.name}: steps`, ['', 'done and expected', 'seen', 'took'], steps),
    ...table(`${trial.name}: what a person saw`, ['remark'], said),
    ...pictures(name, { of: 'run', run: id }, input),
  ];
}

function curveOf({ id, index, compiled, run, rampS, axis, samples }: KeptRun, title: string): readonly Block[] {
  const [first] = run?.records ?? [];
  if (!first || sampleCount(samples) < 2) return [];
  const band =
    axis && movesAxis(compiled.steps)
      ? positionBandOf(index, compiled, axis, run)
      : rampS === null
        ? null
        : bandOf(index, compiled, rampS, run);
  if (!band) return [];
  const { low, high } = edgesOf(band);
  return [
    {
      kind: 'curve',
      title,
      unit: band.unit,
      low: thinned(low, MOST_POINTS),
      high: thinned(high, MOST_POINTS),
      seen: thinned(laidIn(band, sinceBegin(samples, run)), MOST_POINTS),
      from: { of: 'run', id },
    },
  ];
}

/** Whether a drive has what a trial asks for; where an axis stands is known only when it is looked at. */
function canRun({ station, protocol }: HandoverDrive, index: SheetIndex, trial: Trial): boolean {
  if (POSITIONING.has(trial.id)) return axisOf(index) !== null;
  if (!protocol) return false;
  const { profile } = index;
  const rest = profile && restOf(profile);
  const compiled = compileTrial(trial, {
    index,
    places: protocol.placesOf(index),
    station: station.station,
    name: station.name,
    here: rest ? [rest] : [],
    known: () => undefined,
    protocol,
  });
  return compiled.procedure !== null;
}

/** Trials that ship and were not run here, or did not pass: what is not proved. */
export function unproved(drive: HandoverDrive): readonly Row[] {
  const { index } = drive;
  if (!index || !drive.facts.last) return [];
  const runs = new Map(lastRuns(drive).map((run) => [run.compiled.trial.id, run]));
  return SHIPPED_TRIALS.flatMap((trial): readonly Row[] => {
    const { id, name, proves } = trial;
    const run = runs.get(id);
    const verdict = run && reportOf(run.index, run.compiled, run.run).verdict;
    if (verdict === 'passed' || (!run && !canRun(drive, index, trial))) return [];
    return [
      {
        key: `unproved ${driveKey(drive)} ${id}`,
        cells: [
          driveName(drive),
          `not proved: ${name}`,
          verdict ? `it ${VERDICT_SAID[verdict]}` : `not run; it would prove: ${proves}`,
        ],
        mark: verdict === 'failed' ? 'bad' : 'open',
        from: run ? { of: 'run', id: run.id } : { of: 'bench' },
      },
    ];
  });
}

const VERDICT_SAID: Readonly<Record<Verdict, string>> = {
  passed: 'passed',
  failed: 'failed',
  open: 'was done, and what it came to cannot be told',
  'under-way': 'is under way',
  'not-done': 'did not come to its end',
};
