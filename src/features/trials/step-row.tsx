'use client';

import Button from '@mui/material/Button';
import { memo } from 'react';
import { IF_NOT } from '../../core/procedure/procedure';
import { stepWithField, withoutStep, withStep, withStepMoved } from '../../core/trial/edit-trial';
import {
  BLENDS,
  EXPECTS,
  FIELD_TAKES,
  fieldText,
  fieldValue,
  ORIGINS,
  STEP_FORMS,
  type StepField,
} from '../../core/trial/step-forms';
import type { Trial, TrialStep } from '../../core/trial/trial';
import { STATUS_ROLES } from '../../core/words/spec';
import { ChoiceField, TypedField } from '../../ui/fields';
import { useTypedOver } from '../../ui/use-typed-over';
import styles from './trials.module.css';

const IF_NOT_TEXT: Readonly<Record<(typeof IF_NOT)[number], string>> = {
  end: 'it ends',
  'go-on': 'it goes on, noted',
  ask: 'it stops, and asks',
};
const IF_NOT_OPTIONS = IF_NOT.map((one) => [one, IF_NOT_TEXT[one]] as const);

const CHOICES: Readonly<Partial<Record<StepField['as'], readonly string[]>>> = {
  level: ['there', 'gone'],
  origin: ORIGINS,
  blend: BLENDS,
  expects: EXPECTS,
  'status-role': STATUS_ROLES,
};

/** A change of the trial as it is when it is made. */
export type EditTrial = (change: (trial: Trial) => Trial) => void;

interface RowProps {
  readonly step: TrialStep;
  readonly at: number;
  readonly isLast: boolean;
  /** A trial has one step at least. */
  readonly isOnly: boolean;
  /** The same function at each drawing: of two thousand steps only the one that changes is drawn anew. */
  readonly onEdit: EditTrial;
}

/** What a step does, with what it takes, and where it stands among the others. */
export const StepRow = memo(function StepRow({ step, at, isLast, isOnly, onEdit }: RowProps) {
  const { name, fields } = STEP_FORMS[step.kind];
  const put = (next: TrialStep): void => onEdit((trial) => withStep(trial, at, next));
  const own = `step ${at + 1}`;
  const acts: readonly { sign: string; label: string; off: boolean; change: Parameters<EditTrial>[0] }[] = [
    { sign: '↑', label: `Move ${own} up`, off: at === 0, change: (trial) => withStepMoved(trial, at, -1) },
    { sign: '↓', label: `Move ${own} down`, off: isLast, change: (trial) => withStepMoved(trial, at, 1) },
    { sign: '×', label: `Take ${own} out`, off: isOnly, change: (trial) => withoutStep(trial, at) },
  ];
  const ifNot = (value: string): void => {
    const next = stepWithField(step, 'ifNot', value === 'end' ? undefined : value);
    if (next.ok) put(next.value);
  };
  return (
    <div className={styles.row}>
      <span className={styles.kind}>
        {at + 1} {name}
        <span className={styles.note}>called {step.id}</span>
      </span>
      {fields.map((field) => (
        <FieldOfStep key={field.key} step={step} field={field} onStep={put} />
      ))}
      <ChoiceField
        label="if it does not come so"
        width={170}
        value={step.ifNot ?? 'end'}
        onChange={ifNot}
        options={IF_NOT_OPTIONS}
      />
      <span>
        {acts.map(({ sign, label, off, change }) => (
          <Button
            key={sign}
            variant="text"
            color="inherit"
            aria-label={label}
            disabled={off}
            onClick={() => onEdit(change)}
            sx={{ minWidth: 32 }}
          >
            {sign}
          </Button>
        ))}
      </span>
    </div>
  );
});

interface FieldProps {
  readonly step: TrialStep;
  readonly field: StepField;
  readonly onStep: (step: TrialStep) => void;
}

function FieldOfStep({ step, field, onStep }: FieldProps) {
  const value = Object.entries(step).find(([key]) => key === field.key)?.[1] as unknown;
  const shown = fieldText(field.as, value);
  const read = (text: string) => stepWithField(step, field.key, fieldValue(field.as, text));
  const [text, setText] = useTypedOver(shown, (typed) =>
    read(typed).ok ? fieldText(field.as, fieldValue(field.as, typed)) : null,
  );
  const made = read(text);
  const take = (next: string): void => {
    setText(next);
    const changed = read(next);
    if (changed.ok) onStep(changed.value);
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
