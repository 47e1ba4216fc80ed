'use client';

import { whyNotRunning, type WhyNot } from '../../core/run-conditions/why-not';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { useBenchState } from '../bench-context';
import { waitingForRestart } from '../state/restart-pending';
import { useCurrent } from './use-current';

/** What stands between now and a turning shaft, by what was read of the drive that is looked at. */
export function useWhyNot(index: SheetIndex): WhyNot {
  const { view, line, lineState, station, places } = useCurrent();
  const entries = useBenchState((state) => state.entries);
  const nowUs = useBenchState((state) => state.nowUs);
  const keptAlive =
    lineState?.keepAlives.some((beat) => beat.station === station?.station && beat.untilUs === null) === true ||
    (lineState !== null && lineState.cycled === station?.station);
  return whyNotRunning({
    index,
    nowUs,
    open: lineState?.open === true,
    misses: view.misses,
    lastAnswerUs: view.lastAnswerUs,
    keptAlive,
    values: view.values,
    foreign: entries.filter((entry) => entry.line === line?.id && entry.outcome === 'foreign').length,
    waiting: waitingForRestart(entries, line?.id ?? '', station?.station ?? 0, index, places),
  });
}
