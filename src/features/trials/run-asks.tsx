import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench } from '../../bench/bench-context';
import type { RunView } from '../../bench/state/runs';
import type { PersonStep } from '../../core/procedure/procedure';
import { ActButton } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { Warning } from '../../ui/panel';
import { ShaftEnd } from './shaft-end';
import styles from './trials.module.css';

interface AsksProps {
  readonly view: RunView;
  /** Stop is under way on the line: nothing goes on before it is over. */
  readonly isStopping: boolean;
}

/** What a run under way wants of a person: an answer, a number, or how it goes on after what did not come as it should. */
export function RunAsks({ view: { id, run, procedure }, isStopping }: AsksProps) {
  const bench = useBench();
  if (!run || run.phase === 'over') return null;
  const step = procedure.steps[run.at];
  const answer = (said: string): void => bench.tell(id, { kind: 'answer', said });
  return (
    <div className={styles.asks} role="group" aria-label="What the trial asks">
      {run.asks !== '' && (
        <>
          <Warning>{run.asks}. The shaft is stopped first.</Warning>
          <ActButton
            variant="outlined"
            off={isStopping ? 'Stop is under way' : ''}
            onClick={() => bench.tell(id, { kind: 'again' })}
          >
            Do this step again
          </ActButton>
          <ActButton
            variant="outlined"
            color="inherit"
            off={isStopping ? 'Stop is under way' : ''}
            onClick={() => bench.tell(id, { kind: 'resume' })}
          >
            Go on; it stays noted as failed
          </ActButton>
        </>
      )}
      {run.asks === '' && run.phase === 'running' && step?.kind === 'person' && (
        <>
          <PersonAnswer key={run.at} step={step} onAnswer={answer} />
          {step.mayWait && (
            <Button variant="text" color="inherit" onClick={() => bench.tell(id, { kind: 'answer-later' })}>
              Answer it later
            </Button>
          )}
        </>
      )}
    </div>
  );
}

/** A question and what can be answered to it. */
export function PersonAnswer({
  step,
  onAnswer,
}: {
  readonly step: PersonStep;
  readonly onAnswer: (said: string) => void;
}) {
  return (
    <>
      <strong>{step.question}</strong>
      {step.choices.map(({ name, goesOn }) => (
        <Button
          key={name}
          variant={goesOn ? 'contained' : 'outlined'}
          color={goesOn ? 'primary' : 'inherit'}
          onClick={() => onAnswer(name)}
        >
          {step.picture === 'shaft' && <ShaftEnd way={name} />}
          {name}
        </Button>
      ))}
      {step.number && <NumberAnswer unit={step.number.unit} onAnswer={onAnswer} />}
    </>
  );
}

/** A decimal with point or comma, as a number's text. */
const numberIn = (text: string): string | null => {
  const plain = text.trim().replace(',', '.').replace('−', '-');
  return /^-?\d{1,9}(?:\.\d{1,9})?$/.test(plain) ? plain : null;
};

function NumberAnswer({ unit, onAnswer }: { readonly unit: string; readonly onAnswer: (said: string) => void }) {
  const [text, setText] = useState('');
  const number = numberIn(text);
  return (
    <form
      className={styles.row}
      onSubmit={(event) => {
        event.preventDefault();
        if (number !== null) onAnswer(number);
      }}
    >
      <TypedField
        label={unit === '' ? 'Number' : `Number, ${unit}`}
        width={140}
        value={text}
        onChange={setText}
        error={text.trim() !== '' && number === null ? 'a number, such as 1385 or 12.5' : ''}
      />
      <ActButton type="submit" variant="contained" off={number === null ? 'type what is shown' : ''}>
        That is it
      </ActButton>
    </form>
  );
}
