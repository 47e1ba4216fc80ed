import { useCurrent } from '../../bench/hooks/use-current';
import { liveOf } from '../../bench/state/known-state';
import { valueIn } from '../../core/drive/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { rampSeconds } from '../../core/trial/expect';
import { axisStart, useAxis } from './use-axis';
import type { RunDrawing } from './use-run-trial';
import { useSame } from './use-same';

/** What is known now of ramp and axis, by which the expectation of a trial is drawn; the same object as long as nothing of it changes. */
export function useDrawing(index: SheetIndex): RunDrawing {
  const { view } = useCurrent();
  const own = useAxis(index);
  return useSame({
    rampS: rampOf(index, liveOf(index, view, 'ramp-time')?.word),
    axis: own && axisStart(own.axis, own.known, own.held),
  });
}

/** The ramp from standstill to full scale, as the drive holds it, else as it leaves the factory; null where nobody says it. */
function rampOf(index: SheetIndex, word: number | undefined): number | null {
  const place = index.byRole.get('ramp-time');
  const pattern = word ?? place?.default;
  return place && pattern !== undefined ? rampSeconds(place, valueIn(index.sheet, place, pattern)) : null;
}
