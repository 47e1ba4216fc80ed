'use client';

import { useMemo } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { isUnderWay, lastRun, type RunView } from '../../bench/state/runs';
import type { PlaceLink } from '../../core/places/place-link';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { Trial } from '../../core/trial/trial';
import { Later, useLater } from '../../ui/later';
import { Panel } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import { RunAsks } from './run-asks';
import { RunBar } from './run-bar';
import { RunResult } from './run-result';
import { TrialEditor } from './trial-editor';
import styles from './trials.module.css';
import { useCompiled } from './use-compiled';
import { useDrawing } from './use-drawing';

interface TrialProps {
  readonly trial: Trial;
  /** It can be changed. */
  readonly isOwn: boolean;
  /** A run stands below it: what would be done now is not drawn then. */
  readonly isRunShown: boolean;
  readonly index: SheetIndex;
  readonly places: PlaceLink;
}

/** One trial on the drive that is looked at: as it would be run now, as it runs, or as it was run. */
export function TrialPanel({ trial, isOwn, isRunShown, index, places }: TrialProps) {
  const unread = useUnread();
  const { name } = useCurrent();
  const live = useBenchState((state) => lastRun(state, state.lineId, 'trial'));
  // What is typed is shown first; what two thousand steps come to, and their picture, follow.
  const written = useLater<Trial | null>(trial, null);
  const trials = useMemo(() => (written ? [written] : []), [written]);
  const [now] = useCompiled(trials, index, places);
  const drawing = useDrawing(index);
  const drawn = useLater(now, undefined);
  const running = live !== null && isUnderWay(live) ? live : null;
  return (
    <UnreadForm unread={unread}>
      <Panel title={trial.name} aside={`for ${name}`}>
        <p className={styles.about}>
          <strong>Proves:</strong> {trial.proves}
        </p>
        <p className={`${styles.about} ${styles.soft}`}>
          <strong>Leaves open:</strong> {trial.leaves}
        </p>
        <RunBar
          compiled={now}
          isBehind={written !== trial}
          index={index}
          running={running}
          drawing={drawing}
          off={unread.why}
        />
        {running && <Asking view={running} />}
      </Panel>
      {!isRunShown && isOwn && (
        <Later>
          <TrialEditor trial={trial} />
        </Later>
      )}
      {!isRunShown && drawn && <RunResult index={index} compiled={drawn} row={null} drawing={drawing} />}
    </UnreadForm>
  );
}

/** What a trial that runs asks a person. */
export function Asking({ view }: { readonly view: RunView }) {
  const isStopping = useBenchState((state) => (state.lines.get(view.line)?.stopping.length ?? 0) > 0);
  return <RunAsks view={view} isStopping={isStopping} />;
}
