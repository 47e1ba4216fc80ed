'use client';

import { lazy, Suspense } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { sizeOf } from '../../core/trace/record';
import { TraceFrame } from './trace-frame';
import styles from './trace-panel.module.css';

/** Reading entries takes every protocol, so the list comes with the first of them. A page whose server is gone goes on without it. */
const TraceTray = lazy(() =>
  import('./trace-tray').then(
    ({ TraceTray: tray }) => ({ default: tray }),
    () => ({ default: NoTray }),
  ),
);

/** The record of everything that crossed a line: folded to its last entry, a few rows, or tall. */
export function TracePanel() {
  const isEmpty = useBenchState((state) => sizeOf(state.record) === 0);
  const empty = <NoEntries text="Everything that crosses a line is recorded here. Open a line and send a frame." />;
  return isEmpty ? (
    <TraceFrame>{empty}</TraceFrame>
  ) : (
    <Suspense fallback={<TraceFrame>{<NoEntries text="" />}</TraceFrame>}>
      <TraceTray />
    </Suspense>
  );
}

function NoTray() {
  return (
    <TraceFrame>
      <NoEntries text="The list of the trace could not be loaded: the local server does not answer. Everything is recorded all the same; reload the page when it runs again." />
    </TraceFrame>
  );
}

function NoEntries({ text }: { readonly text: string }) {
  return (
    <div className={styles.list} role="region" aria-label="Entries of the trace">
      <div className={styles.empty}>{text}</div>
    </div>
  );
}
