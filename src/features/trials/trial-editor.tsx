'use client';

import Button from '@mui/material/Button';
import { memo } from 'react';
import { withOne } from '../../core/job/job';
import { useBench } from '../../bench/bench-context';
import { useKeptHistory } from '../../bench/hooks/use-kept-history';
import { withStepAdded, withStepMoved } from '../../core/trial/edit-trial';
import { STEP_FORMS } from '../../core/trial/step-forms';
import type { Trial, TrialStep } from '../../core/trial/trial';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { SortableList, useSortableRow } from '../../ui/sortable';
import { UndoButtons } from '../../ui/undo-buttons';
import { useLongList } from '../../ui/use-long-list';
import { useSteady } from '../../ui/use-steady';
import { useTypedOver } from '../../ui/use-typed-over';
import { keepTrial } from './own-trials';
import { StepRow, type EditTrial } from './step-row';
import { trialsStore } from './trials-store';
import styles from './trials.module.css';

const KINDS = Object.entries(STEP_FORMS).map(([kind, { name }]) => [kind, name] as const);
/** The usual height of a step. */
const ROW_PX = 74;
/** A row has a dozen fields: few are drawn before they are seen. */
const BEYOND = 2;
/** A line of what it proves has at most so many letters. */
const LONGEST = 400;

/** Steps of one's own trial: added, filled in, moved by hand or keys, taken out; each change is kept at once and can be undone. */
export function TrialEditor({ trial }: { readonly trial: Trial }) {
  const bench = useBench();
  const history = useKeptHistory(trial, (next) => keepTrial(bench, next));
  const { scroller, shown, before, after, measure, isLong } = useLongList<HTMLOListElement>(
    trial.steps.length,
    ROW_PX,
    BEYOND,
  );
  const { put } = history;
  const edit: EditTrial = useSteady((change) => put(change(trial)));
  const drop = (): void => {
    bench.changeJob((job) => ({ ...job, trials: withOne(job.trials, trial.id, undefined) }), {
      text: `${trial.name} is deleted`,
      restore: (job) => ({ ...job, trials: withOne(job.trials, trial.id, trial) }),
    });
    trialsStore.setState({ chosen: '', shown: '' });
  };
  return (
    <Panel
      title="Its steps"
      aside="a step is moved at its handle, or by Alt with an arrow"
      tools={
        <>
          <UndoButtons {...history} />
          <Button variant="text" color="inherit" onClick={drop}>
            Delete this trial
          </Button>
        </>
      }
    >
      <div className={styles.row}>
        <AboutField label="Name" width={200} shown={trial.name} onText={(name) => put({ ...trial, name })} />
        <AboutField
          label="What it proves"
          width={300}
          shown={trial.proves}
          onText={(proves) => put({ ...trial, proves })}
        />
        <AboutField
          label="What it leaves open"
          width={260}
          shown={trial.leaves}
          onText={(leaves) => put({ ...trial, leaves })}
        />
      </div>
      <SortableList
        ids={trial.steps.map(({ id }) => id)}
        onMove={(from, to) => edit((now) => withStepMoved(now, from, to - from))}
        {...(isLong
          ? { long: { scroller, dragged: (at: number) => <DraggedStep step={trial.steps[at]} at={at} /> } }
          : {})}
      >
        <ol ref={scroller} className={isLong ? styles.longEdit : styles.edit} aria-label="Steps to edit">
          {before > 0 && <li aria-hidden style={{ height: before }} />}
          {shown.map((at) => {
            const step = trial.steps[at];
            return (
              step && (
                <StepItem
                  key={step.id}
                  step={step}
                  at={at}
                  count={trial.steps.length}
                  onEdit={edit}
                  measure={measure}
                />
              )
            );
          })}
          {after > 0 && <li aria-hidden style={{ height: after }} />}
        </ol>
      </SortableList>
      <ChoiceField
        label="Add a step at the end"
        width={220}
        value=""
        onChange={(kind) => kind !== '' && put(withStepAdded(trial, kind as TrialStep['kind'], trial.steps.length - 1))}
        options={[['', 'choose what it does'], ...KINDS]}
      />
    </Panel>
  );
}

/** What is under the pointer while a step is moved through a list of which a part is drawn only. */
const DraggedStep = ({ step, at }: { readonly step: TrialStep | undefined; readonly at: number }) =>
  step && (
    <div className={styles.dragged}>
      {at + 1} {STEP_FORMS[step.kind].name} <span className={styles.note}>called {step.id}</span>
    </div>
  );

interface AboutProps {
  readonly label: string;
  readonly width: number;
  readonly shown: string;
  readonly onText: (text: string) => void;
}

function AboutField({ label, width, shown, onText }: AboutProps) {
  const [text, setText] = useTypedOver(shown, (typed) => (isLine(typed) ? typed : null));
  return (
    <TypedField
      label={label}
      width={width}
      value={text}
      error={isLine(text) ? '' : `one line of at most ${LONGEST} letters`}
      onChange={(next) => {
        setText(next);
        if (isLine(next)) onText(next);
      }}
    />
  );
}
const isLine = (text: string): boolean => text.trim() !== '' && text.length <= LONGEST;

interface ItemProps {
  readonly step: TrialStep;
  readonly at: number;
  readonly count: number;
  readonly onEdit: EditTrial;
  readonly measure: (row: HTMLElement | null) => void;
}

/** A step as a row that is moved: by Alt and an arrow, and by its handle. */
const StepItem = memo(function StepItem({ step, at, count, onEdit, measure }: ItemProps) {
  const { attach, style, handle } = useSortableRow(step.id, `step ${at + 1}`, measure);
  return (
    <li
      ref={attach}
      data-index={at}
      style={style}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
        event.preventDefault();
        onEdit((trial) => withStepMoved(trial, at, event.key === 'ArrowUp' ? -1 : 1));
      }}
    >
      {handle}
      <StepRow step={step} at={at} isLast={at === count - 1} isOnly={count === 1} onEdit={onEdit} />
    </li>
  );
});
