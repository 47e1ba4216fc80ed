'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import { useWatch } from '../../bench/hooks/use-watch';
import { useWhyNot } from '../../bench/hooks/use-why-not';
import { turningOf } from '../../bench/state/known-state';
import { isUnderWay, type RunView } from '../../bench/state/runs';
import type { BlockKind } from '../../core/run-conditions/condition';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { CompiledTrial } from '../../core/trial/compile';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Warning } from '../../ui/panel';
import { trialsStore } from './trials-store';
import styles from './trials.module.css';

interface BarProps {
  readonly compiled: CompiledTrial;
  readonly index: SheetIndex;
  readonly running: RunView | null;
  readonly isFault: boolean;
  readonly rampS: number | null;
  /** A field of a step shows something else than what would be done; empty where none does. */
  readonly unread: string;
}

/** Begins, pauses and ends a run. */
export function RunBar({ compiled, index, running, isFault, rampS, unread }: BarProps) {
  const bench = useBench();
  const { drive, line, station, isOpen, name, view } = useCurrent();
  const job = useBenchState((state) => state.job?.id ?? '');
  const turning = useBenchState((state) => turningOf(index, view, state.nowUs));
  // Beginning ends what runs there: a change of both ends must not be cut in the middle.
  const isBusy = useBenchState((state) => state.runs.some((view) => view.line === state.lineId && isUnderWay(view)));
  const noStop = useNoStop(index);
  const watch = useWatch('Trials');
  const { procedure, trial, steps } = compiled;
  const moves = steps.some(({ turns }) => turns);
  if (running) {
    const { run, about } = running;
    const row = about.kind === 'trial' ? about.row : null;
    const steps = row?.compiled.steps ?? [];
    const isPaused = run?.phase === 'paused';
    const underWay = Math.max(
      0,
      steps.findIndex(({ to }) => to > (run?.at ?? 0)),
    );
    return (
      <div className={styles.row}>
        <p role="status">
          {running.procedure.title} on {row?.name} {isPaused ? 'is paused' : 'is under way'}, step {underWay + 1} of{' '}
          {steps.length}: {steps[underWay]?.text}
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
            [isBusy, 'another procedure runs on this line'],
            [moves && noStop.off !== '', noStop.off],
            [moves && turning === null, 'whether it stands was not read just now: press Read once, or Watch'],
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
