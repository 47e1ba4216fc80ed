'use client';

import Button from '@mui/material/Button';
import { useState, type ComponentType } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { indexOf, stationName, viewOf, type BenchState } from '../../bench/state/bench-state';
import { onceFor } from '../../core/once-for';
import type { StationStop, StopOutcome } from '../../link/stop-run';
import { clockText } from '../../ui/format';
import { byArrival } from './by-arrival';
import { MotionBar } from './motion-bar';
import { useLeaveGuard } from './use-leave-guard';
import { usePasteGuard } from './use-paste-guard';
import styles from './line-strip.module.css';

const OUTCOME_TEXT: Readonly<Record<StopOutcome, string>> = {
  'under-way': '… under way',
  stopped: '✓ stopped',
  'still-turning': '✗ answered, but still turning',
  refused: '✗ refused',
  'no-answer': '✗ no answer',
  'not-sent': '✗ not sent',
};

type NoticeId = 'stop' | 'identity' | 'trouble' | 'refused' | 'change';

interface NoticeRow {
  readonly isShown: (state: BenchState) => boolean;
  readonly Notice: ComponentType;
}

/** What must not be missed; of those that come at once the first stands highest. */
const NOTICES: Readonly<Record<NoticeId, NoticeRow>> = {
  stop: { isShown: ({ stops }) => stops.length > 0, Notice: StopNotice },
  identity: { isShown: (state) => identityText(state) !== '', Notice: IdentityNotice },
  trouble: {
    isShown: ({ silent, keepTrouble, readTrouble }) => silent || keepTrouble !== '' || readTrouble !== '',
    Notice: TroubleNotice,
  },
  refused: { isShown: ({ refused }) => refused !== '', Notice: RefusedNotice },
  change: { isShown: ({ undoable, changedElsewhere }) => undoable !== null || changedElsewhere, Notice: ChangeNotice },
};
const IDS = Object.keys(NOTICES) as readonly NoticeId[];

/**
 * What must not be missed: how Stop went, a worker that is silent, a trace that cannot be kept. They grow from below, so what comes stands above what is there:
 * no button is moved from under a hand.
 */
export function Notices() {
  useLeaveGuard();
  usePasteGuard();
  // As a text, so that a batch that changes none of them draws nothing anew.
  const shown = useBenchState((state) => IDS.filter((id) => NOTICES[id].isShown(state)).join(' '));
  const [before, setBefore] = useState<readonly NoticeId[]>([]);
  const order = byArrival(
    before,
    IDS.filter((id) => shown.split(' ').includes(id)),
  );
  if (order !== before) setBefore(order);
  return (
    <>
      <MotionBar />
      {order.map((id) => {
        const { Notice } = NOTICES[id];
        return <Notice key={id} />;
      })}
    </>
  );
}

export const nameOf = (job: BenchState['job'], line: string, station: number): string => {
  const found = job?.lines.find(({ id }) => id === line)?.stations.find((candidate) => candidate.station === station);
  return found ? stationName(found) : `station ${station}`;
};

/** How Stop went at every drive that it covers, each with the time of the answer on which that rests; it is corrected while it is shown. */
function StopNotice() {
  const bench = useBench();
  const stops = useBenchState((state) => state.stops);
  const job = useBenchState((state) => state.job);
  const over = stops.every((stop) => stop.over);
  const outcomes = stops.flatMap((stop) => stop.outcomes.map((outcome) => ({ ...outcome, line: stop.line })));
  const stopping = outcomes.filter(({ outcome }) => outcome === 'under-way').length;
  const bad = outcomes.some(({ outcome }) => outcome !== 'stopped' && outcome !== 'under-way');
  const causes = [...new Set(stops.map(({ cause }) => cause).filter((cause) => cause !== 'Stop'))];
  const tone = bad ? styles.alarm : over ? styles.good : '';
  return (
    <div className={`${styles.notice} ${tone}`} role="alert" data-testid="stop-report">
      <strong>{over ? 'Stop' : `Stop is under way${stopping > 1 ? ` at ${stopping} drives` : ''} …`}</strong>
      {causes.length > 0 && <span>Nobody pressed it: {causes.join('; ')}.</span>}
      {outcomes.map((stop) => (
        <Outcome
          key={`${stop.line} ${stop.station}`}
          line={stop.line}
          stop={stop}
          name={nameOf(job, stop.line, stop.station)}
        />
      ))}
      {bad && <strong>Stop the drive at its own keypad, or cut its supply.</strong>}
      <span className={styles.soft}>This Stop goes over the link; it is not an emergency stop.</span>
      <Button variant="outlined" color="inherit" onClick={bench.dismissStop}>
        {over ? 'Seen' : 'Hide'}
      </Button>
    </div>
  );
}

/** Outcomes after which only a person can say that the shaft stands. */
const UNSURE: ReadonlySet<StopOutcome> = new Set(['still-turning', 'refused', 'no-answer', 'not-sent']);

function Outcome({ line, stop, name }: { readonly line: string; readonly stop: StationStop; readonly name: string }) {
  const bench = useBench();
  const startMs = useBenchState(({ session, sessionStartMs }) => sessionStartMs.get(session) ?? 0);
  const isDriven = useBenchState((state) => state.lines.get(line)?.driven.includes(stop.station) === true);
  return (
    <span>
      <strong>
        {name}: {OUTCOME_TEXT[stop.outcome]}
      </strong>
      , {stop.why}
      {stop.atUs !== null && `; it said so at ${clockText(startMs + stop.atUs / 1000).slice(0, 8)}`}
      {UNSURE.has(stop.outcome) && isDriven && (
        <Button
          variant="text"
          color="inherit"
          onClick={() => bench.seenStanding({ line, station: stop.station })}
          sx={{ ml: 1 }}
        >
          I see the shaft of {name} stand
        </Button>
      )}
    </span>
  );
}

/** What speaks against the drive being the one that its sheet describes; worked out once for each state. */
const identityText = onceFor((state: BenchState): string => {
  const index = indexOf(state);
  const { values } = viewOf(state);
  if (!index || values.size === 0) return '';
  return (
    state.telling?.identityWarning(index, values) ??
    'Whether this is the drive that its sheet describes cannot be told yet: a part of this page is not here.'
  );
});

/** Seen on every view before anything is written: this may be another drive than the sheet describes. */
function IdentityNotice() {
  const text = useBenchState(identityText);
  return (
    <div className={styles.notice} role="status" data-testid="identity-warning">
      <span>{text}</span>
    </div>
  );
}

/** A change that would have cut the line to a drive in motion. */
function RefusedNotice() {
  const bench = useBench();
  const refused = useBenchState((state) => state.refused);
  return (
    <div className={styles.notice} role="alert" data-testid="refused">
      <span>{refused}</span>
      <Button variant="outlined" color="inherit" onClick={bench.dismissRefused}>
        Seen
      </Button>
    </div>
  );
}

/** What was taken out of the job, with the way back, and what another tab made of it. */
function ChangeNotice() {
  const bench = useBench();
  const undoable = useBenchState((state) => state.undoable);
  const elsewhere = useBenchState((state) => state.changedElsewhere);
  return (
    <div className={styles.notice} role="status" data-testid="job-changed">
      {undoable && <span>{undoable.text}</span>}
      {elsewhere && <span>Another tab of this browser changed this job; it is shown as it is now.</span>}
      {undoable && (
        <Button variant="outlined" color="inherit" onClick={bench.undoChange}>
          Undo
        </Button>
      )}
      <Button variant="text" color="inherit" onClick={bench.dismissChange}>
        Seen
      </Button>
    </div>
  );
}

function TroubleNotice() {
  const silent = useBenchState((state) => state.silent);
  const keepTrouble = useBenchState((state) => state.keepTrouble);
  const readTrouble = useBenchState((state) => state.readTrouble);
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
