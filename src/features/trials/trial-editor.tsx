'use client';

import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { withOne } from '../../core/job/job';
import { useBench } from '../../bench/bench-context';
import { useKeptHistory } from '../../bench/hooks/use-kept-history';
import { IF_NOT } from '../../core/procedure/procedure';
import { withoutStep, withStepAdded, withStepField, withStepMoved } from '../../core/trial/edit-trial';
import {
  fieldText,
  fieldValue,
  STEP_FORMS,
  type StepField,
  BLENDS,
  EXPECTS,
  ORIGINS,
  FIELD_TAKES,
} from '../../core/trial/step-forms';
import { STATUS_ROLES } from '../../core/words/spec';
import type { Trial, TrialStep } from '../../core/trial/trial';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { SortableList, useSortableRow } from '../../ui/sortable';
import { UndoButtons } from '../../ui/undo-buttons';
import { useLongList } from '../../ui/use-long-list';
import { useTypedOver } from '../../ui/use-typed-over';
import { keepTrial } from './own-trials';
import { trialsStore } from './trials-store';
import styles from './trials.module.css';

const KINDS = Object.entries(STEP_FORMS).map(([kind, { name }]) => [kind, name] as const);
const IF_NOT_TEXT: Readonly<Record<(typeof IF_NOT)[number], string>> = {
  end: 'it ends',
  'go-on': 'it goes on, noted',
  ask: 'it stops, and asks',
};
/** The usual height of a step. */
const ROW_PX = 58;
/** A line of what it proves has at most so many letters. */
const LONGEST = 400;

/** Steps of one's own trial: added, filled in, moved by hand or keys, taken out; each change is kept at once and can be undone. */
export function TrialEditor({ trial }: { readonly trial: Trial }) {
  const bench = useBench();
  const history = useKeptHistory(trial, (next) => keepTrial(bench, next));
  const { scroller, shown, before, after, measure, isLong } = useLongList<HTMLOListElement>(trial.steps.length, ROW_PX);
  const { put } = history;
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
      aside={isLong ? 'Alt with an arrow moves a step' : 'a step is moved at its handle, or by Alt with an arrow'}
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
        onMove={(from, to) => put(withStepMoved(trial, from, to - from))}
      >
        <ol ref={scroller} className={isLong ? styles.longEdit : styles.edit} aria-label="Steps to edit">
          {before > 0 && <li aria-hidden style={{ height: before }} />}
          {shown.map((at) => {
            const step = trial.steps[at];
            return (
              step && (
                <StepItem
                  key={step.id}
                  trial={trial}
                  step={step}
                  at={at}
                  onTrial={put}
                  measure={measure}
                  isDragged={!isLong}
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

interface RowProps {
  readonly trial: Trial;
  readonly step: TrialStep;
  readonly at: number;
  readonly onTrial: (trial: Trial) => void;
}

/** A step as a row that is moved: by Alt and an arrow, and by its handle where all rows are drawn. */
function StepItem({
  measure,
  isDragged,
  ...row
}: RowProps & { readonly measure: (row: HTMLElement | null) => void; readonly isDragged: boolean }) {
  const { trial, step, at, onTrial } = row;
  const { attach, style, handle } = useSortableRow(step.id, `step ${at + 1}`, measure);
  return (
    <li
      ref={attach}
      data-index={at}
      style={style}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
        event.preventDefault();
        onTrial(withStepMoved(trial, at, event.key === 'ArrowUp' ? -1 : 1));
      }}
    >
      <StepRow {...row} handle={isDragged ? handle : null} />
    </li>
  );
}

function StepRow({ trial, step, at, onTrial, handle }: RowProps & { readonly handle: ReactNode }) {
  const { name, fields } = STEP_FORMS[step.kind];
  const ifNot = (value: string): void => {
    const next = withStepField(trial, at, 'ifNot', value === 'end' ? undefined : value);
    if (next.ok) onTrial(next.value);
  };
  return (
    <div className={styles.row}>
      {handle}
      <span className={styles.kind}>
        {at + 1} {name}
        <span className={styles.note}>called {step.id}</span>
      </span>
      {fields.map((field) => (
        <FieldOfStep key={field.key} trial={trial} step={step} at={at} field={field} onTrial={onTrial} />
      ))}
      <ChoiceField
        label="if it does not come so"
        width={170}
        value={step.ifNot ?? 'end'}
        onChange={ifNot}
        options={IF_NOT.map((one) => [one, IF_NOT_TEXT[one]] as const)}
      />
      <span>
        <Button
          variant="text"
          color="inherit"
          aria-label={`Move step ${at + 1} up`}
          disabled={at === 0}
          onClick={() => onTrial(withStepMoved(trial, at, -1))}
          sx={{ minWidth: 32 }}
        >
          ↑
        </Button>
        <Button
          variant="text"
          color="inherit"
          aria-label={`Move step ${at + 1} down`}
          disabled={at === trial.steps.length - 1}
          onClick={() => onTrial(withStepMoved(trial, at, 1))}
          sx={{ minWidth: 32 }}
        >
          ↓
        </Button>
        <Button
          variant="text"
          color="inherit"
          aria-label={`Take step ${at + 1} out`}
          disabled={trial.steps.length === 1}
          onClick={() => onTrial(withoutStep(trial, at))}
          sx={{ minWidth: 32 }}
        >
          ×
        </Button>
      </span>
    </div>
  );
}

const CHOICES: Readonly<Partial<Record<StepField['as'], readonly string[]>>> = {
  level: ['there', 'gone'],
  origin: ORIGINS,
  blend: BLENDS,
  expects: EXPECTS,
  'status-role': STATUS_ROLES,
};

function FieldOfStep({ trial, step, at, field, onTrial }: RowProps & { readonly field: StepField }) {
  const value = Object.entries(step).find(([key]) => key === field.key)?.[1] as unknown;
  const shown = fieldText(field.as, value);
  const read = (text: string) => withStepField(trial, at, field.key, fieldValue(field.as, text));
  const [text, setText] = useTypedOver(shown, (typed) =>
    read(typed).ok ? fieldText(field.as, fieldValue(field.as, typed)) : null,
  );
  const made = read(text);
  const take = (next: string): void => {
    setText(next);
    const changed = read(next);
    if (changed.ok) onTrial(changed.value);
  };
  const choices = CHOICES[field.as];
  return choices ? (
    <ChoiceField
      label={field.label}
      width={field.width}
      value={shown}
      onChange={take}
      options={choices.map((one) => [one, one] as const)}
    />
  ) : (
    <TypedField
      label={field.label}
      width={field.width}
      value={text}
      onChange={take}
      error={made.ok ? '' : `${field.label} takes ${FIELD_TAKES[field.as]}`}
    />
  );
}
