'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench } from '../../bench/bench-context';
import { useWhyNot } from '../../bench/hooks/use-why-not';
import type { RunView } from '../../bench/state/runs';
import type { BlockKind } from '../../core/run-conditions/condition';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { stepByStep, type CompiledTrial } from '../../core/trial/compile';
import { stepAt } from '../../core/trial/step-at';
import { ActButton } from '../../ui/act-button';
import { Warning } from '../../ui/panel';
import styles from './trials.module.css';
import { useRunTrial, type RunDrawing } from './use-run-trial';
import { useTrialed } from './use-trialed';

interface BarProps {
  /** Undefined while it is worked out: what runs is paused and ended all the same. */
  readonly compiled: CompiledTrial | undefined;
  /** The trial was changed just now, and what it comes to is worked out anew: it is not begun as it was before. */
  readonly isBehind?: boolean;
  readonly index: SheetIndex;
  readonly running: RunView | null;
  readonly drawing: RunDrawing;
  /** Why it is not begun, whatever else: a field shows what would not be done; empty where nothing is against it. */
  readonly off: string;
}

/** Begins, pauses and ends a run. */
export function RunBar({ compiled, isBehind = false, index, running, drawing, off }: BarProps) {
  const { name, isText } = useTrialed();
  const [isTooEarly, setIsTooEarly] = useState(false);
  const run = useRunTrial(index, drawing);
  if (running) return <UnderWay running={running} isText={isText} />;
  if (!compiled) return null;
  const { trial, steps } = compiled;
  const first = steps.findIndex(({ turns }) => turns);
  const why = off || run.whyNot(compiled);
  const begin = (chosen: CompiledTrial): void => {
    setIsTooEarly(isBehind);
    if (!isBehind) run.begin(chosen);
  };
  return (
    <>
      {first >= 0 && isText && (
        <Warning>
          What {name} does with a text nobody knows from here, and Stop does not reach it: stand at the drive’s own
          stop. Stop ends the trial.
        </Warning>
      )}
      {first >= 0 && !isText && <InTheWay index={index} />}
      {first >= 0 && !isText && (
        <Warning>
          From step {first + 1} on the shaft of {name} may turn. Stop ends the trial at any step; whatever it comes to,
          the shaft is stopped at its end.
        </Warning>
      )}
      <div className={styles.row}>
        <ActButton variant="contained" off={why} onClick={() => begin(compiled)}>
          Run “{trial.name}” on {name}
        </ActButton>
        {/* Why it cannot be begun is said once. */}
        {steps.length > 1 && why === '' && (
          <Button variant="outlined" color="inherit" onClick={() => begin(stepByStep(compiled))}>
            Step by step
          </Button>
        )}
        {isTooEarly && <span role="alert">{trial.name} was changed just now: press once more</span>}
      </div>
    </>
  );
}

function UnderWay({
  running: { id, procedure, run, about },
  isText,
}: {
  readonly running: RunView;
  readonly isText: boolean;
}) {
  const bench = useBench();
  const row = about.kind === 'trial' ? about.row : null;
  const steps = row?.compiled.steps ?? [];
  const isPaused = run?.phase === 'paused';
  const at = stepAt(steps, run?.at ?? 0);
  return (
    <div className={styles.row}>
      <p role="status">
        {procedure.title} on {row?.name} {isPaused ? 'is paused' : 'is under way'}, step {at + 1} of {steps.length}:{' '}
        {steps[at]?.text}
      </p>
      {isPaused && run.asks === '' && (
        <Button variant="contained" onClick={() => bench.tell(id, { kind: 'resume' })}>
          {procedure.stopsAt?.includes(run.at) ? `Do step ${at + 1}` : 'Go on'}
        </Button>
      )}
      {!isPaused && (
        <Button variant="outlined" color="inherit" onClick={() => bench.tell(id, { kind: 'pause' })}>
          Pause after this request
        </Button>
      )}
      <Button variant="outlined" color="inherit" onClick={() => bench.tell(id, { kind: 'end' })}>
        {isText ? 'End it' : 'End it, and stop the shaft'}
      </Button>
    </div>
  );
}

/** What the trial itself sees to. */
const OF_THE_TRIAL: ReadonlySet<BlockKind> = new Set<BlockKind>(['link', 'state', 'command', 'reference', 'watchdog']);

/** What keeps the shaft from turning, as far as it was read: the trial would fail by it. */
function InTheWay({ index }: { readonly index: SheetIndex }) {
  const { conditions } = useWhyNot(index);
  return conditions
    .filter(({ verdict, blocks, kind }) => verdict === 'not-met' && blocks && !OF_THE_TRIAL.has(kind))
    .map(({ id, title, value, advice }) => (
      <Warning key={id}>
        It will not turn as it stands. {title}: {value}. {advice}
      </Warning>
    ));
}
