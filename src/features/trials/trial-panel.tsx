'use client';

import Button from '@mui/material/Button';
import { lazy, Suspense, useMemo } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useWhyNot } from '../../bench/hooks/use-why-not';
import { useWatch } from '../../bench/hooks/use-watch';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import { liveOf, turningOf } from '../../bench/state/known-state';
import { isUnderWay, lastRun, type RunView } from '../../bench/state/runs';
import type { PlaceLink } from '../../core/places/place-link';
import type { BlockKind } from '../../core/run-conditions/condition';
import { statesOf } from '../../core/profile/profile';
import { valueIn } from '../../core/sheet/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { roleActive } from '../../core/words/read';
import { compileTrial, restOf, type CompiledTrial } from '../../core/trial/compile';
import { bandOf, leftBand, type Sample } from '../../core/trial/expect';
import { reportOf } from '../../core/trial/report';
import type { Measured } from '../../core/trial/measure';
import type { Trial } from '../../core/trial/trial';
import { csvOfReport } from '../../core/trial/trial-csv';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import type { TrialRunRow } from '../../store/database';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { dateText } from '../../ui/format';
import { Panel, Warning } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import { RunAsks } from './run-asks';
import { StepsTable } from './steps-table';
import { TrialEditor } from './trial-editor';
import { putRun, trialsStore, useTrials } from './trials-store';
import styles from './trials.module.css';
import { VerdictMark, verdictText } from './verdict-mark';

const BandChart = lazy(() => import('./band-chart').then((module) => ({ default: module.BandChart })));

interface TrialProps {
  readonly trial: Trial;
  /** It can be changed. */
  readonly isOwn: boolean;
  readonly index: SheetIndex;
  readonly places: PlaceLink;
}

/** One trial on the drive that is looked at: as it would be run now, as it runs, or as it was run. */
export function TrialPanel({ trial, isOwn, index, places }: TrialProps) {
  const unread = useUnread();
  const { station, name, drive, view } = useCurrent();
  const runs = useTrials((state) => state.runs);
  const shown = useTrials((state) => state.shown);
  const live = useBenchState((state) => lastRun(state, state.lineId, 'trial'));
  const row = runs.get(shown) ?? null;
  const status = liveOf(index, view, 'status-word')?.word ?? null;
  const mode = liveOf(index, view, 'mode-display')?.word;
  const rampS = rampOf(index, liveOf(index, view, 'ramp-time')?.word);
  const at = station?.station ?? 0;
  // What its words lead to is worked out anew only where another state shows.
  const here = useMemo(() => statesNow(index, status), [index, status]);
  const now = useMemo(
    () =>
      compileTrial(trial, {
        index,
        places,
        station: at,
        name,
        here: here.ids,
        known: (role) => (role === 'mode-display' ? mode : undefined),
      }),
    [trial, index, places, at, name, here, mode],
  );
  const isShown = row !== null && row.compiled.trial.id === trial.id;
  const compiled = isShown ? row.compiled : now;
  const running = live !== null && isUnderWay(live) ? live : null;
  return (
    <UnreadForm unread={unread}>
      <Panel title={trial.name} aside={isShown ? `run on ${row.name}, ${dateText(row.startedMs)}` : `for ${name}`}>
        <p className={styles.about}>
          <strong>Proves:</strong> {trial.proves}
        </p>
        <p className={`${styles.about} ${styles.soft}`}>
          <strong>Leaves open:</strong> {trial.leaves}
        </p>
        <RunBar
          compiled={now}
          index={index}
          running={running}
          isFault={here.isFault}
          isKnown={status !== null}
          rampS={rampS}
          unread={unread.why}
        />
        {running && drive && running.procedure.station === drive.station && <Asking view={running} />}
      </Panel>
      {isOwn && !isShown && <TrialEditor trial={trial} />}
      <Result index={index} compiled={compiled} row={isShown ? row : null} rampS={isShown ? row.rampS : rampS} />
    </UnreadForm>
  );
}

function Asking({ view }: { readonly view: RunView }) {
  const isStopping = useBenchState((state) => (state.lines.get(view.line)?.stopping.length ?? 0) > 0);
  return <RunAsks view={view} isStopping={isStopping} />;
}

/** The states that the status allows now, and whether one of them is a fault. */
function statesNow(
  index: SheetIndex,
  status: number | null,
): { readonly ids: readonly string[]; readonly isFault: boolean } {
  const { profile, words } = index;
  if (!profile) return { ids: [], isFault: false };
  const rest = restOf(profile);
  if (status === null) return { ids: rest === undefined ? [] : [rest], isFault: false };
  return {
    ids: statesOf(profile, status).map(({ id }) => id),
    isFault: words !== undefined && roleActive(words.status, 'fault', status) === true,
  };
}

/** The ramp from standstill to full scale, as the drive holds it, else as it leaves the factory; null where nobody says it. */
function rampOf(index: SheetIndex, word: number | undefined): number | null {
  const place = index.byRole.get('ramp-time');
  const pattern = word ?? place?.default;
  const value = place && pattern !== undefined ? valueIn(index.sheet, place, pattern) : null;
  if (!place || !value || (place.unit !== 's' && place.unit !== 'ms')) return null;
  return Number(value.num) / Number(value.den) / (place.unit === 'ms' ? 1000 : 1);
}

interface BarProps {
  readonly compiled: CompiledTrial;
  readonly index: SheetIndex;
  readonly running: RunView | null;
  readonly isFault: boolean;
  readonly isKnown: boolean;
  readonly rampS: number | null;
  /** A field of a step shows something else than what would be done; empty where none does. */
  readonly unread: string;
}

/** Begins, pauses and ends a run. */
function RunBar({ compiled, index, running, isFault, isKnown, rampS, unread }: BarProps) {
  const bench = useBench();
  const { drive, line, station, isOpen, name, view } = useCurrent();
  const job = useBenchState((state) => state.job?.id ?? '');
  const turning = useBenchState((state) => turningOf(index, view, state.nowUs));
  const noStop = useNoStop(index);
  const watch = useWatch('Trials');
  const { procedure, trial, steps } = compiled;
  const moves = steps.some(({ turns }) => turns);
  if (running) {
    const { run, about } = running;
    const { steps } = about.kind === 'trial' ? about.row.compiled : compiled;
    const isPaused = run?.phase === 'paused';
    const underWay = Math.max(
      0,
      steps.findIndex(({ to }) => to > (run?.at ?? 0)),
    );
    return (
      <div className={styles.row}>
        <p role="status">
          {isPaused ? 'Paused' : 'Under way'}, step {underWay + 1} of {steps.length}: {steps[underWay]?.text}
        </p>
        {isPaused && run.asks === '' && (
          <Button variant="contained" onClick={() => bench.tell(running.id, { kind: 'resume' })}>
            Go on
          </Button>
        )}
        {!isPaused && (
          <Button variant="outlined" color="inherit" onClick={() => bench.tell(running.id, { kind: 'pause' })}>
            Pause after this request
          </Button>
        )}
        <Button variant="outlined" color="inherit" onClick={() => bench.tell(running.id, { kind: 'end' })}>
          End it, and stop the shaft
        </Button>
      </div>
    );
  }
  const begin = (): void => {
    if (!drive || !line || !station?.sheet || !procedure) return;
    // The line of the run comes of what is read beside it.
    if (!watch.watching) watch.toggle();
    const id = bench.start(drive.line, procedure, {
      kind: 'trial',
      row: {
        job,
        line: drive.line,
        station: drive.station,
        name,
        sheet: station.sheet,
        startedMs: Date.now(),
        compiled,
        rampS,
        run: null,
        samples: [],
        remark: '',
      },
    });
    trialsStore.setState({ shown: id });
  };
  return (
    <>
      {moves && <InTheWay index={index} />}
      {moves && (
        <Warning>
          From step {steps.findIndex(({ turns }) => turns) + 1} on the shaft of {name} may turn. Stop ends the trial at
          any step; whatever it comes to, the shaft is stopped at its end.
        </Warning>
      )}
      <div className={styles.row}>
        <ActButton
          variant="contained"
          off={whyOff(
            [unread !== '', unread],
            [procedure === null, compiled.why],
            [!isOpen, LINE_CLOSED],
            [moves && noStop.off !== '', noStop.off],
            [moves && !isKnown, 'in which state it is was not read yet: press Read once'],
            [moves && isFault, 'it reports a fault: reset it in Words first'],
            [moves && turning === true, 'the shaft turns'],
          )}
          onClick={begin}
        >
          Run “{trial.name}” on {name}
        </ActButton>
      </div>
    </>
  );
}

/** What the trial itself sees to. */
const OF_THE_TRIAL: ReadonlySet<BlockKind> = new Set<BlockKind>(['link', 'state', 'command', 'reference', 'watchdog']);

/** What keeps the shaft from turning, as far as it was read: the trial would fail by it. */
function InTheWay({ index }: { readonly index: SheetIndex }) {
  const { conditions } = useWhyNot(index);
  return conditions
    .filter(({ verdict, blocks, kind }) => verdict === 'not-met' && blocks && !OF_THE_TRIAL.has(kind))
    .map(({ id, title, value, advice }) => (
      <Warning key={id}>
        It will not turn as it stands. {title}: {value}. {advice}
      </Warning>
    ));
}

interface ResultProps {
  readonly index: SheetIndex;
  readonly compiled: CompiledTrial;
  readonly row: TrialRunRow | null;
  readonly rampS: number | null;
}

/** What is expected, and what came. */
function Result({ index, compiled, row, rampS }: ResultProps) {
  const runs = useTrials((state) => state.runs);
  const run = row?.run ?? null;
  const report = useMemo(() => reportOf(index, compiled, run), [index, compiled, run]);
  const band = useMemo(
    () => (rampS !== null && compiled.steps.some(({ turns }) => turns) ? bandOf(index, compiled, rampS, run) : null),
    [index, compiled, rampS, run],
  );
  const samples = useMemo(() => (row ? sinceBegin(row) : []), [row]);
  const before = useMemo(() => {
    const earlier = [...runs.values()].filter(
      (one) =>
        one.compiled.trial.id === compiled.trial.id &&
        one.id !== row?.id &&
        one.samples.length > 0 &&
        one.startedMs < (row?.startedMs ?? Infinity),
    );
    const [last] = earlier.sort((a, b) => b.startedMs - a.startedMs);
    return last ? sinceBegin(last) : null;
  }, [runs, compiled, row]);
  const left = band ? leftBand(band, samples) : null;
  const said = left
    ? `it left the band at ${left.x.toFixed(1)} s: ${left.y.toFixed(1)} ${band?.unit ?? ''}, expected ${left.low.toFixed(1)} to ${left.high.toFixed(1)}`
    : samples.length > 0
      ? 'the line stayed within the band'
      : 'the band is where the speed is expected';
  return (
    <>
      {row && (
        <Panel
          title={`What came: ${verdictText(report.verdict)}`}
          aside={run?.why ?? ''}
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
          {run?.phase === 'over' && (
            <div className={styles.remark}>
              <Remark row={row} />
            </div>
          )}
        </Panel>
      )}
      {band && (
        <Suspense fallback={null}>
          <BandChart name={compiled.trial.name} band={band} samples={samples} other={before} said={said} />
        </Suspense>
      )}
      <Panel title={row ? 'What was done' : 'What will be done'} aside={`${report.steps.length} steps`}>
        <StepsTable steps={report.steps} />
      </Panel>
    </>
  );
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

/** The samples of a run by the time since its first step began. */
function sinceBegin({ run, samples }: TrialRunRow): readonly Sample[] {
  const [first] = run?.records ?? [];
  if (!first) return [];
  const [from, to] = [first.fromUs / 1e6, (run?.records.at(-1)?.toUs ?? Infinity) / 1e6];
  return samples.flatMap(({ x, y }) => (x >= from && (run?.phase !== 'over' || x <= to) ? [{ x: x - from, y }] : []));
}

/** What a person saw, kept with the run. */
function Remark({ row }: { readonly row: TrialRunRow }) {
  const bench = useBench();
  const put = (remark: string): void => {
    const next = { ...row, remark: remark.slice(0, 2000) };
    putRun(next);
    bench.trials.keep(next).catch(() => bench.state.setState({ refused: 'the remark is not kept in this browser' }));
  };
  return (
    <TypedField
      label="What you saw: display, tachometer, direction, anything odd"
      width={520}
      value={row.remark}
      onChange={put}
    />
  );
}
