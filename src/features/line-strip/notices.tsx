'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { indexOf, stationName, viewOf, type BenchState } from '../../bench/bench-state';
import { identityOf, identityWarning } from '../../core/sheet/identity';
import type { StationStop, StopOutcome } from '../../link/stop-run';
import { useLeaveGuard } from './use-leave-guard';
import styles from './line-strip.module.css';

const OUTCOME_TEXT: Readonly<Record<StopOutcome, string>> = {
  'under-way': '… under way',
  stopped: '✓ stopped',
  'still-turning': '✗ answered, but still turning',
  refused: '✗ refused',
  'no-answer': '✗ no answer',
  'not-sent': '✗ not sent',
};

/** What must not be missed: how Stop went, a worker that is silent, a trace that cannot be kept. */
export function Notices() {
  useLeaveGuard();
  return (
    <>
      <StopNotice />
      <IdentityNotice />
      <TroubleNotice />
      <RefusedNotice />
    </>
  );
}

const nameOf = (job: BenchState['job'], line: string, station: number): string => {
  const found = job?.lines.find(({ id }) => id === line)?.stations.find((candidate) => candidate.station === station);
  return found ? stationName(found) : `station ${station}`;
};

function StopNotice() {
  const bench = useBench();
  const stops = useBenchState((state) => state.stops);
  const job = useBenchState((state) => state.job);
  const stopping = useBenchState((state) =>
    state.stops.reduce((count, { line }) => count + (state.lines.get(line)?.stopping.length ?? 0), 0),
  );
  if (stops.length === 0) return null;
  const over = stops.every((stop) => stop.over);
  const outcomes = stops.flatMap((stop) => stop.outcomes.map((outcome) => ({ ...outcome, line: stop.line })));
  const bad = outcomes.some(({ outcome }) => outcome !== 'stopped');
  const tone = bad ? styles.alarm : over ? styles.good : '';
  return (
    <div className={`${styles.notice} ${tone}`} role="alert" data-testid="stop-report">
      <strong>{over ? 'Stop' : `Stop is under way${stopping > 1 ? ` at ${stopping} drives` : ''} …`}</strong>
      {outcomes.map((stop) => (
        <Outcome key={`${stop.line} ${stop.station}`} stop={stop} name={nameOf(job, stop.line, stop.station)} />
      ))}
      {bad && <strong>Stop the drive at its own keypad, or cut its supply.</strong>}
      <span className={styles.soft}>This Stop goes over the link; it is not an emergency stop.</span>
      <Button variant="outlined" color="inherit" onClick={bench.dismissStop}>
        {over ? 'Seen' : 'Hide'}
      </Button>
    </div>
  );
}

function Outcome({ stop, name }: { readonly stop: StationStop; readonly name: string }) {
  return (
    <span>
      <strong>
        {name}: {OUTCOME_TEXT[stop.outcome]}
      </strong>
      , {stop.why}
    </span>
  );
}

/** Seen on every view before anything is written: this may be another drive than the sheet describes. */
function IdentityNotice() {
  const text = useBenchState((state) => {
    const index = indexOf(state);
    const { values } = viewOf(state);
    return index ? identityWarning(identityOf(index, (address) => values.get(address))) : '';
  });
  return text === '' ? null : (
    <div className={styles.notice} role="status" data-testid="identity-warning">
      <span>{text}</span>
    </div>
  );
}

/** A change that would have cut the line to a drive in motion. */
function RefusedNotice() {
  const bench = useBench();
  const refused = useBenchState((state) => state.refused);
  return refused === '' ? null : (
    <div className={styles.notice} role="alert" data-testid="refused">
      <span>{refused}</span>
      <Button variant="outlined" color="inherit" onClick={bench.dismissRefused}>
        Seen
      </Button>
    </div>
  );
}

function TroubleNotice() {
  const silent = useBenchState((state) => state.silent);
  const keepTrouble = useBenchState((state) => state.keepTrouble);
  const readTrouble = useBenchState((state) => state.readTrouble);
  if (!silent && keepTrouble === '' && readTrouble === '') return null;
  return (
    <div className={styles.notice} role="alert">
      {silent && (
        <span>
          The part of this page that talks to the lines has been silent for half a second; what is shown may be old.
          Stop may not get through.
        </span>
      )}
      {readTrouble !== '' && (
        <span>
          This browser’s storage could not be read: {readTrouble}. The demo job is shown, and what is changed in this
          page cannot be kept.
        </span>
      )}
      {keepTrouble !== '' && (
        <span>
          The trace cannot be kept just now: {keepTrouble}. Work goes on; entries stay in this page until it is closed.
        </span>
      )}
    </div>
  );
}
