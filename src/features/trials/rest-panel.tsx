'use client';

import { useMemo } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { isUnderWay } from '../../bench/state/runs';
import type { PlaceLink } from '../../core/places/place-link';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { restOfRun, type RestOfRun } from '../../core/trial/rest-of-run';
import type { TrialRunRow } from '../../store/database';
import { Panel } from '../../ui/panel';
import { RunBar } from './run-bar';
import { useCompiled } from './use-compiled';
import { useDrawing } from './use-drawing';
import { useSame } from './use-same';

/** A run that ended among rounds: how many it had done, and those that are left, begun by a press. Nothing goes on by itself. */
export function RestPanel({ row }: { readonly row: TrialRunRow }) {
  const { drive, index, places } = useCurrent();
  const isBusy = useBenchState((state) => state.runs.some((run) => run.line === row.line && isUnderWay(run)));
  const rest = useMemo(() => restOfRun(row.compiled, row.run), [row]);
  if (!rest || rest.done === 0 || isBusy) return null;
  const isHere = drive?.line === row.line && drive.station === row.station;
  return (
    <Panel title="The rounds that are left" aside={`${rest.done} of ${rest.of} were done when it ended`}>
      {isHere && index && places ? (
        <Rest rest={rest} index={index} places={places} />
      ) : (
        <p>Choose {row.name} in Job to go on there.</p>
      )}
    </Panel>
  );
}

interface RestProps {
  readonly rest: RestOfRun;
  readonly index: SheetIndex;
  readonly places: PlaceLink;
}

function Rest({ rest: { trial }, index, places }: RestProps) {
  const trials = useSame([trial]);
  const [compiled] = useCompiled(trials, index, places);
  const drawing = useDrawing(index);
  return (
    <>
      <p>
        What comes before the rounds is done again: nobody knows how the drive stands now.
        {trial.steps.some((step) => step.kind === 'move' && step.relative) &&
          ' A move by a distance is counted from where the axis stands now, not from where the rounds began.'}
      </p>
      <RunBar compiled={compiled} index={index} running={null} drawing={drawing} off="" />
    </>
  );
}
