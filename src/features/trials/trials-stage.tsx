'use client';

import Button from '@mui/material/Button';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useOpenLine } from '../../bench/hooks/use-open-line';
import { useWatch } from '../../bench/hooks/use-watch';
import { axisOf } from '../../core/motion/axis';
import { storedTableOf } from '../../core/motion/stored-moves';
import { sheetOfRun } from '../../core/sheet/plain-text';
import { MOVE_ID } from '../../core/trial/move-trial';
import { POSITIONING_TRIALS } from '../../core/trial/positioning-trials';
import { wholeOf } from '../../core/trial/rest-of-run';
import { SHIPPED_TRIALS } from '../../core/trial/shipped-trials';
import { STORED_ID } from '../../core/trial/stored-trial';
import type { Trial } from '../../core/trial/trial';
import type { TrialRunRow } from '../../store/database';
import { ActButton } from '../../ui/act-button';
import { WatchButtons } from '../../ui/watch-buttons';
import { Panel, StageHead } from '../../ui/panel';
import { MovePanel } from './move-panel';
import { OwnTrials } from './own-trials';
import { RunResult } from './run-result';
import { RunsPanel } from './runs-panel';
import { StoredPanel } from './stored-panel';
import { TrialPanel } from './trial-panel';
import { trialsStore, useTrials } from './trials-store';
import styles from './trials.module.css';
import { useKeptTrials } from './use-kept-trials';
import { useTrialed } from './use-trialed';

const NONE: readonly Trial[] = [];

/** What is made up on the spot, and run and judged as a trial. */
const BY_HAND = [
  { id: MOVE_ID, name: 'A move', Panel: MovePanel },
  { id: STORED_ID, name: 'Stored moves', Panel: StoredPanel },
] as const;
const NONE_BY_HAND: readonly (typeof BY_HAND)[number][] = [];

/** Trials: a test run that is written down, driven, measured and believed. */
export function TrialsStage() {
  const { name, station, index, places, isText } = useTrialed();
  const chosen = wholeOf(useTrials((state) => state.chosen));
  const own = useBenchState((state) => state.job?.trials ?? NONE);
  useKeptTrials();
  const row = useTrials(({ runs, shown }) => runs.get(shown) ?? null);
  const isAxis = index !== null && axisOf(index) !== null;
  // Those that ship go by roles of a sheet, and a text menu has none.
  const shipped = isText ? NONE : SHIPPED_TRIALS.filter((one) => isAxis || !POSITIONING_TRIALS.includes(one));
  const trials = [...shipped, ...own];
  const byHand = isAxis ? BY_HAND.filter(({ id }) => id === MOVE_ID || storedTableOf(index) !== null) : NONE_BY_HAND;
  const hand = byHand.find(({ id }) => id === chosen);
  const trial = hand ? undefined : (trials.find(({ id }) => id === chosen) ?? trials[0]);
  const why = !station
    ? 'Choose a station in Job first: a trial is run on one drive.'
    : !index
      ? `No sheet says what the words of ${name} mean: give it one in Job, or make one in Sheets.`
      : !places
        ? 'This line speaks no language in which a trial can ask for its values; a list of frames can be sent in Frames.'
        : '';
  return (
    <>
      <StageHead title="Trials" aside={name}>
        {why === '' && <ReadTools />}
      </StageHead>
      <div className={styles.stage}>
        <Panel title="Which" aside={`${trials.length} trials`}>
          {byHand.length > 0 && <TrialList trials={byHand} chosen={hand?.id ?? ''} label="By hand" />}
          {shipped.length > 0 && <TrialList trials={shipped} chosen={trial?.id ?? ''} label="Trials that ship" />}
          {own.length > 0 && (
            <>
              <h3 className={styles.part}>Your own</h3>
              <TrialList trials={own} chosen={trial?.id ?? ''} label="Trials of your own" />
            </>
          )}
          <h3 className={styles.part}>Another one</h3>
          <OwnTrials trial={trial} />
        </Panel>
        <div className={styles.stack}>
          {why !== '' || !index || !places ? (
            <Panel title={trial?.name ?? 'No trial'}>{why}</Panel>
          ) : hand ? (
            <hand.Panel isRunShown={row !== null} index={index} places={places} />
          ) : trial === undefined ? (
            <Panel title="No trial">
              Write one, or take one from a file: what is said to the menu, and what must come.
            </Panel>
          ) : (
            <TrialPanel
              key={trial.id}
              isRunShown={row !== null}
              trial={trial}
              isOwn={own.some(({ id }) => id === trial.id)}
              index={index}
              places={places}
            />
          )}
          {row && <KeptRun row={row} />}
          <RunsPanel />
        </div>
      </div>
    </>
  );
}

/** A run as it was, by the sheet of then, whichever drive is looked at now. */
function KeptRun({ row }: { readonly row: TrialRunRow }) {
  const index = useBenchState((state) => sheetOfRun(state.sheets, row.sheet));
  return index ? (
    <RunResult index={index} compiled={row.compiled} row={row} drawing={{ rampS: row.rampS, axis: row.axis ?? null }} />
  ) : (
    <Panel title={row.compiled.trial.name}>The sheet by which it was run is not here any more.</Panel>
  );
}

/** The line is opened, and the drive's state read, before a trial can begin; neither moves anything. */
function ReadTools() {
  const { line, isOpen } = useCurrent();
  const opening = useOpenLine(line);
  const { watching, readOnce, toggle } = useWatch('Trials');
  const { isText } = useTrialed();
  // Nothing of a text menu is read by itself.
  if (isOpen && isText) return null;
  return isOpen ? (
    <WatchButtons watching={watching} onReadOnce={readOnce} onToggle={toggle} />
  ) : (
    <ActButton variant="outlined" color="inherit" off={opening.off} onClick={opening.open}>
      Open {line?.name}
    </ActButton>
  );
}

interface ListProps {
  readonly trials: readonly Pick<Trial, 'id' | 'name'>[];
  readonly chosen: string;
  readonly label: string;
}

const TrialList = ({ trials, chosen, label }: ListProps) => (
  <ul className={styles.list} aria-label={label}>
    {trials.map(({ id, name }) => (
      <li key={id}>
        <Button
          variant="text"
          color={id === chosen ? 'primary' : 'inherit'}
          aria-pressed={id === chosen}
          onClick={() => trialsStore.setState({ chosen: id, shown: '' })}
        >
          {id === chosen ? '▸ ' : ''}
          {name}
        </Button>
      </li>
    ))}
  </ul>
);
