'use client';

import { asNumber } from '../../core/as-number';
import { useMemo } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { liveOf } from '../../bench/state/known-state';
import { isUnderWay, lastRun, type RunView } from '../../bench/state/runs';
import type { PlaceLink } from '../../core/places/place-link';
import { statesOf } from '../../core/profile/profile';
import { valueIn } from '../../core/sheet/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { compileTrial } from '../../core/trial/compile';
import { restOf } from '../../core/trial/states';
import type { Trial } from '../../core/trial/trial';
import { roleActive } from '../../core/words/read';
import { Panel } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import { RunAsks } from './run-asks';
import { RunBar } from './run-bar';
import { RunResult } from './run-result';
import { TrialEditor } from './trial-editor';
import styles from './trials.module.css';

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
  const { station, name, view } = useCurrent();
  const live = useBenchState((state) => lastRun(state, state.lineId, 'trial'));
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
          index={index}
          running={running}
          isFault={here.isFault}
          rampS={rampS}
          unread={unread.why}
        />
        {running && <Asking view={running} />}
      </Panel>
      {!isRunShown && isOwn && <TrialEditor trial={trial} />}
      {!isRunShown && <RunResult index={index} compiled={now} row={null} rampS={rampS} />}
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
  return asNumber(value) / (place.unit === 'ms' ? 1000 : 1);
}
