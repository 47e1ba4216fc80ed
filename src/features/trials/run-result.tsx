'use client';

import Button from '@mui/material/Button';
import { lazy, Suspense, useMemo, useState } from 'react';
import type { Bench } from '../../bench/bench';
import { useBench } from '../../bench/bench-context';
import { usePhotos } from '../../bench/hooks/use-photos';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { answeredLater } from '../../core/procedure/run';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { CompiledTrial } from '../../core/trial/compile';
import { bandOf, leftBand, movesAxis, type Band } from '../../core/trial/expect';
import { positionBandOf } from '../../core/trial/expect-position';
import type { Measured } from '../../core/trial/measure';
import { reportOf } from '../../core/trial/report';
import { csvOfReport } from '../../core/trial/trial-csv';
import type { TrialRunRow } from '../../store/database';
import { TypedField } from '../../ui/fields';
import { dateText } from '../../ui/format';
import type { Shown } from '../../ui/chart-cursors';
import { useLater } from '../../ui/later';
import { Panel } from '../../ui/panel';
import { PhotoStrip } from '../../ui/photo-strip';
import { RestPanel } from './rest-panel';
import { PersonAnswer } from './run-asks';
import { StepsTable } from './steps-table';
import { putRun } from './trials-store';
import { lineIn, useOtherRun } from './other-run';
import type { RunDrawing } from './use-run-trial';
import styles from './trials.module.css';
import { VerdictMark, verdictText } from './verdict-mark';

/** The chart comes when it is looked at first. */
const BandChart = lazy(() => import('./band-chart').then((module) => ({ default: module.BandChart })));

interface ResultProps {
  readonly index: SheetIndex;
  readonly compiled: CompiledTrial;
  readonly row: TrialRunRow | null;
  /** By what its expectation is drawn. */
  readonly drawing: RunDrawing;
}

/** What is expected, and what came. */
export function RunResult({ index, compiled, row, drawing: { rampS, axis } }: ResultProps) {
  const run = row?.run ?? null;
  const report = useMemo(() => reportOf(index, compiled, run), [index, compiled, run]);
  // The verdict comes first; its picture and its steps follow.
  const isFollowed = useLater(true, false);
  const band = useMemo(() => {
    if (!isFollowed) return null;
    if (axis && movesAxis(compiled.steps)) return positionBandOf(index, compiled, axis, run);
    return rampS !== null && compiled.steps.some(({ turns }) => turns) ? bandOf(index, compiled, rampS, run) : null;
  }, [isFollowed, index, compiled, rampS, axis, run]);
  const samples = useMemo(() => lineIn(band, row), [band, row]);
  const other = useOtherRun(compiled, row, band);
  // What was looked at of one run says nothing of another.
  const [held, setHeld] = useState<{ readonly of: string; readonly shown: Shown | null }>({ of: '', shown: null });
  const of = row?.id ?? '';
  const show = (shown: Shown | null): void => setHeld({ of, shown });
  const left = useMemo(() => (band ? leftBand(band, samples) : null), [band, samples]);
  const said = left
    ? `it left the band at ${left.x.toFixed(1)} s: ${left.y.toFixed(1)} ${band?.unit ?? ''}, expected ${left.low.toFixed(1)} to ${left.high.toFixed(1)}`
    : samples.length > 0
      ? 'the line stayed within the band'
      : `the band is where the ${band?.of ?? 'speed'} is expected`;
  return (
    <>
      {row && (
        <Panel
          title={`What came: ${verdictText(report.verdict)}`}
          aside={`${compiled.trial.name} on ${row.name}, ${dateText(row.startedMs)}${run?.why ? `: ${run.why}` : ''}`}
          tools={
            <Button
              variant="text"
              color="inherit"
              onClick={() =>
                saveFile(
                  new Blob([csvOfReport(report)], { type: 'text/csv' }),
                  fileName(`${compiled.trial.name} ${row.name}`, 'csv'),
                )
              }
            >
              Export as CSV
            </Button>
          }
        >
          {report.measures.length > 0 && run?.phase === 'over' && <Measures measures={report.measures} />}
          {run?.phase === 'over' && <OpenQuestions row={row} />}
          {run?.phase === 'over' && (
            <div className={styles.remark}>
              <Remark row={row} />
              <RunPhotos row={row} />
            </div>
          )}
        </Panel>
      )}
      {row && <RestPanel row={row} />}
      {band && (
        <Suspense fallback={null}>
          <BandChart
            name={compiled.trial.name}
            band={band}
            samples={samples}
            other={other.line}
            said={said}
            held={held.of === of ? held.shown : null}
            onHeld={show}
          />
          {other.choice}
        </Suspense>
      )}
      {isFollowed && (
        <Panel title={row ? 'What was done' : 'What will be done'} aside={`${report.steps.length} steps`}>
          <StepsTable steps={report.steps} onShow={band && ((at) => show(stretchOf(band, at)))} />
        </Panel>
      )}
    </>
  );
}

/** A step of a picture, with a little before and after it. */
function stretchOf({ begins, points }: Band, at: number): Shown {
  const [from, to] = [begins[at] ?? 0, begins[at + 1] ?? points.at(-1)?.x ?? 1];
  const around = Math.max(0.5, (to - from) / 4);
  return { min: Math.max(0, from - around), max: to + around };
}

/** What was worked out of the steps. */
const Measures = ({ measures }: { readonly measures: readonly Measured[] }) => (
  <table className={styles.table} aria-label="What was measured">
    <tbody>
      {measures.map(({ name, text, should, verdict }) => (
        <tr key={name}>
          <th scope="row">{name}</th>
          <td className={styles.mono}>{text}</td>
          <td>{should === '' ? '' : `should be ${should}`}</td>
          <td>{should === '' && verdict === 'passed' ? '' : <VerdictMark verdict={verdict} />}</td>
        </tr>
      ))}
    </tbody>
  </table>
);

/** Shows a run as it is now, and keeps it. */
function keepRun(bench: Bench, row: TrialRunRow, what: string): void {
  putRun(row);
  bench.trials.keep(row).catch(() => bench.state.setState({ refused: `${what} is not kept in this browser` }));
}

/** Questions that were put off while the trial ran. */
function OpenQuestions({ row }: { readonly row: TrialRunRow }) {
  const bench = useBench();
  const { procedure } = row.compiled;
  const { run } = row;
  if (!run || !procedure) return null;
  return run.records.map(({ step: at, waits }, i) => {
    const step = procedure.steps[at];
    const answer = (said: string): void =>
      keepRun(bench, { ...row, run: answeredLater(procedure, run, i, said) }, 'the answer');
    return waits && step?.kind === 'person' ? (
      <div key={i} className={styles.asks} role="group" aria-label="To be answered yet">
        <PersonAnswer step={step} onAnswer={answer} />
      </div>
    ) : null;
  });
}

/** What a person saw, kept with the run. */
function Remark({ row }: { readonly row: TrialRunRow }) {
  const bench = useBench();
  const put = (remark: string): void => keepRun(bench, { ...row, remark: remark.slice(0, 2000) }, 'the remark');
  return (
    <TypedField
      label="What you saw: display, tachometer, direction, anything odd"
      width={520}
      value={row.remark}
      onChange={put}
    />
  );
}

/** What the display, the tachometer or the shaft showed, as a picture. */
function RunPhotos({ row }: { readonly row: TrialRunRow }) {
  const strip = usePhotos({ of: 'run', run: row.id });
  return <PhotoStrip name={`${row.compiled.trial.name} on ${row.name}`} {...strip} />;
}
