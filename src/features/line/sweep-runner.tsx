'use client';

import Button from '@mui/material/Button';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import type { JobLine } from '../../core/job/job';
import type { SerialSettings } from '../../core/line/settings';
import { serialSweepUs } from '../../core/sweep/sweep-plan';
import { PROVES_LINK, type SweepPlan, type SweepState } from '../../link/sweep-run';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Warning } from '../../ui/panel';
import styles from './line.module.css';

/** How long a try waits: in the page, and over a real line. */
const TRY_US = 60_000;
const REAL_TRY_US = 150_000;

/** How long a try waits on this line. */
export const timeoutOf = ({ far }: JobLine): number => (far === 'yard' ? TRY_US : REAL_TRY_US);

/** Bytes of the longest request of a sweep. */
const REQUEST_BYTES = 8;

/** The longest that tries of settings can take, in seconds. */
export const longestSeconds = (tries: readonly { readonly settings: SerialSettings }[], timeoutUs: number): number =>
  serialSweepUs(
    tries.map(({ settings }) => settings),
    REQUEST_BYTES,
    timeoutUs,
  ) / 1e6;

export const secondsText = (seconds: number): string =>
  seconds < 90 ? `${Math.ceil(seconds)} s` : `${Math.ceil(seconds / 60)} min`;

export function Progress({
  state,
  perTryS,
}: {
  readonly state: { readonly done: number; readonly total: number; readonly running: boolean };
  readonly perTryS: number;
}) {
  const share = state.total === 0 ? 0 : state.done / state.total;
  return (
    <div style={{ flex: '1 1 220px' }}>
      <div
        className={styles.bar}
        role="progressbar"
        aria-label="Progress of the sweep"
        aria-valuenow={state.done}
        aria-valuemin={0}
        aria-valuemax={state.total}
      >
        <div style={{ width: `${share * 100}%` }} />
      </div>
      <span className={styles.soft} data-testid="sweep-count">
        {state.done} of {state.total} tries
        {state.running ? ` · at most ${secondsText((state.total - state.done) * perTryS)} left` : ''}
      </span>
    </div>
  );
}

interface RunnerProps {
  readonly plan: Omit<SweepPlan, 'from'>;
  readonly text: string;
  readonly perTryS: number;
}

/** Start, stop and take up again, with the count. */
export function Runner({ plan, text, perTryS }: RunnerProps) {
  const bench = useBench();
  const { line, lineState, isOpen } = useCurrent();
  const state = lineState?.sweep?.kind === plan.kind ? lineState.sweep : null;
  if (!line) return null;
  const start = (from: number): void => bench.post({ kind: 'sweep', line: line.id, plan: { ...plan, from } });
  const found = plan.untilFound && state?.found.some(({ outcome }) => PROVES_LINK.has(outcome)) === true;
  const canResume = state !== null && !state.running && !found && state.done > 0 && state.done < state.total;
  return (
    <div className={styles.row} style={{ marginTop: 10 }}>
      {state?.running ? (
        <Button variant="contained" onClick={() => bench.post({ kind: 'end-sweep', line: line.id })}>
          End the sweep
        </Button>
      ) : (
        <ActButton
          variant="contained"
          off={whyOff([!isOpen, LINE_CLOSED], [plan.steps.length === 0, 'there is nothing to try'])}
          onClick={() => start(0)}
        >
          {text}
        </ActButton>
      )}
      {canResume && (
        <ActButton variant="outlined" color="inherit" off={isOpen ? '' : LINE_CLOSED} onClick={() => start(state.done)}>
          Go on from try {state.done + 1}
        </ActButton>
      )}
      {state && <Progress state={state} perTryS={perTryS} />}
      {state?.now && <span className={styles.mono}>now {state.now}</span>}
      {!isOpen && <span className={styles.soft}>Open the line first.</span>}
    </div>
  );
}

export function useSweepState(kind: SweepState['kind']): SweepState | null {
  const { lineState } = useCurrent();
  return lineState?.sweep?.kind === kind ? lineState.sweep : null;
}

export function Disturbs() {
  const { line } = useCurrent();
  return (line?.stations.length ?? 0) > 1 ? (
    <Warning>
      {line?.stations.length} drives are on this line. A sweep takes the line’s time and sends characters that they
      cannot read: their watchdogs may trip.
    </Warning>
  ) : null;
}
