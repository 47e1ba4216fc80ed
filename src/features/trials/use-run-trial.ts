import { useBench, useBenchState } from '../../bench/bench-context';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import { useWatch } from '../../bench/hooks/use-watch';
import { liveOf, turningOf } from '../../bench/state/known-state';
import { isUnderWay } from '../../bench/state/runs';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { PLAIN_REF } from '../../core/sheet/plain-text';
import type { CompiledTrial } from '../../core/trial/compile';
import type { AxisStart } from '../../core/trial/expect-position';
import { NO_LINE } from '../../core/trial/seen-line';
import { roleActive } from '../../core/words/read';
import { LINE_CLOSED, whyOff } from '../../ui/act-button';
import { trialsStore } from './trials-store';
import { useTrialed } from './use-trialed';

/** What is kept with a run to draw what was expected of it. */
export interface RunDrawing {
  readonly rampS: number | null;
  readonly axis: AxisStart | null;
}

/** Beginning a trial on the drive that is looked at, and why it cannot be begun now. */
export function useRunTrial(index: SheetIndex, drawing: RunDrawing) {
  const bench = useBench();
  const { drive, station, isOpen, name, view, isText } = useTrialed();
  const job = useBenchState((state) => state.job?.id ?? '');
  const turning = useBenchState((state) => turningOf(index, view, state.nowUs));
  // Beginning ends what runs there: a change of both ends must not be cut in the middle.
  const isBusy = useBenchState((state) => state.runs.some((view) => view.line === state.lineId && isUnderWay(view)));
  const noStop = useNoStop(index);
  const watch = useWatch('Trials');
  const status = liveOf(index, view, 'status-word')?.word;
  const isFault =
    status !== undefined && index.words !== undefined && roleActive(index.words.status, 'fault', status) === true;
  return {
    whyNot: ({ procedure, why, steps }: CompiledTrial): string => {
      // What a menu does with a text nobody knows from here, nor is there anything to be read of it.
      const moves = !isText && steps.some(({ turns }) => turns);
      return whyOff(
        [procedure === null, why],
        [!isOpen, LINE_CLOSED],
        [isBusy, 'another procedure runs on this line'],
        [moves && noStop.off !== '', noStop.off],
        [moves && turning === null, 'whether it stands was not read just now: press Read once, or Watch'],
        [moves && isFault, 'it reports a fault: reset it in Words first'],
        [moves && turning === true, 'the shaft turns'],
      );
    },
    begin: (compiled: CompiledTrial): void => {
      const sheet = isText ? PLAIN_REF : station?.sheet;
      if (!drive || !station || !sheet || !compiled.procedure) return;
      // The line of the run comes of what is read beside it.
      if (!watch.watching && !isText) watch.toggle();
      const id = bench.start(drive.line, compiled.procedure, {
        kind: 'trial',
        row: {
          job,
          line: drive.line,
          station: drive.station,
          name,
          sheet,
          startedMs: Date.now(),
          compiled,
          ...drawing,
          run: null,
          samples: NO_LINE,
          remark: '',
        },
      });
      trialsStore.setState({ shown: id });
    },
  };
}
