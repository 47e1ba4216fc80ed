'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import type { Bench } from '../../bench/bench';
import { useBench, useBenchState } from '../../bench/bench-context';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { withOne } from '../../core/job/job';
import { MOST_TRIALS } from '../../core/job/job-limits';
import { messageOf } from '../../core/message-of';
import { copyOfTrial, LARGEST_TRIAL_FILE, readTrialFile } from '../../core/trial/edit-trial';
import { stepsOfExchanges, trialOfSteps } from '../../core/trial/from-exchanges';
import { STEP_FORMS } from '../../core/trial/step-forms';
import { SHIPPED_TRIALS } from '../../core/trial/shipped-trials';
import type { Trial } from '../../core/trial/trial';
import { ActButton, whyOff } from '../../ui/act-button';
import { FileButton } from '../../ui/file-button';
import { trialsStore } from './trials-store';
import { useTrialed } from './use-trialed';
import styles from './trials.module.css';

/** So many of the last exchanges become a trial. */
const LAST = 10;

const idsOf = (own: readonly Trial[]): readonly string[] => [...SHIPPED_TRIALS, ...own].map(({ id }) => id);

/** A trial of the user's own put in place of the one with its id, or after the others. */
export const keepTrial = (bench: Bench, trial: Trial): boolean =>
  bench.changeJob((job) => ({ ...job, trials: withOne(job.trials, trial.id, trial) }));

const NONE: readonly Trial[] = [];

/** A trial with one step, to be written on. */
const blankTrial = (isText: boolean, taken: readonly string[]): Trial =>
  copyOfTrial(
    {
      format: 1,
      id: 'own',
      name: 'Own trial',
      proves: 'what it shows',
      leaves: 'what it does not show',
      steps: [STEP_FORMS[isText ? 'say' : 'read'].begin('first')],
    },
    taken,
    'Own trial',
  );

/** Ways to a trial of one's own: a copy, a file, what was just done. */
export function OwnTrials({ trial }: { readonly trial: Trial | undefined }) {
  const bench = useBench();
  const { line, station, index, places, isText } = useTrialed();
  const own = useBenchState((state) => state.job?.trials ?? NONE);
  const [said, setSaid] = useState('');
  const isFull = own.length >= MOST_TRIALS ? `a job has at most ${MOST_TRIALS} trials` : '';
  const add = (made: Trial): void => {
    keepTrial(bench, made);
    setSaid('');
    trialsStore.setState({ chosen: made.id, shown: '' });
  };
  const read = async (file: File): Promise<void> => {
    if (file.size > LARGEST_TRIAL_FILE) return setSaid(`${file.name} is too large for a trial`);
    const found = readTrialFile(await file.text());
    if (found.ok) add(copyOfTrial(found.value, idsOf(own), found.value.name));
    else setSaid(`${file.name} was not taken: ${found.error}`);
  };
  const fromLast = (): void => {
    if (!line || !station || !index || !places) return;
    const { entries } = bench.state.getState();
    const steps = stepsOfExchanges(index, places, entries, line.id, station.station, LAST);
    const made = trialOfSteps(steps, 'done-by-hand', 'Done by hand');
    if (made) add(copyOfTrial(made, idsOf(own), made.name));
    else setSaid('nothing was sent to this drive by hand yet');
  };
  return (
    <div className={styles.ways}>
      {trial && (
        <>
          <ActButton
            variant="outlined"
            color="inherit"
            off={isFull}
            onClick={() => add(copyOfTrial(trial, idsOf(own), `${trial.name}, own`))}
          >
            Make one of my own from it
          </ActButton>
          <Button
            variant="text"
            color="inherit"
            onClick={() =>
              saveFile(
                new Blob([`${JSON.stringify(trial, null, 2)}\n`], { type: 'application/json' }),
                fileName(trial.name, 'json'),
              )
            }
          >
            Export it as a file
          </Button>
        </>
      )}
      <ActButton variant="text" color="inherit" off={isFull} onClick={() => add(blankTrial(isText, idsOf(own)))}>
        Write one
      </ActButton>
      <FileButton
        label="Trial file"
        accept=".json,application/json"
        onFile={(file) => void read(file).catch((error: unknown) => setSaid(messageOf(error)))}
      >
        Import a trial file
      </FileButton>
      <ActButton
        variant="text"
        color="inherit"
        off={whyOff(
          [isFull !== '', isFull],
          [!index || !places, 'choose a station with a sheet'],
          [isText, 'on a line of plain text nobody knows where an exchange begins'],
        )}
        onClick={fromLast}
      >
        From the last {LAST} exchanges
      </ActButton>
      {said !== '' && <p role="alert">{said}</p>}
    </div>
  );
}
