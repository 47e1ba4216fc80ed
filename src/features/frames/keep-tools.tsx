'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { isUnderWay, lastRun, listText } from '../../bench/state/runs';
import { useCurrent } from '../../bench/hooks/use-current';
import { bytesToHex } from '../../core/bytes/hex';
import { LEAST_PAUSE_MS, listProcedure } from '../../core/procedure/list-procedures';
import { MOST_FRAMES } from '../../core/job/job-limits';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import styles from './frames.module.css';

interface KeepToolsProps {
  /** A field above shows what is not in the bytes. */
  readonly isOff: boolean;
  readonly bytes: Uint8Array;
  readonly target: number;
  /** What the frame says, offered as its name. */
  readonly sentence: string;
}

const LONGEST_NAME = 120;

/** Keep the frame in the job, or send it over and over. */
export function KeepTools({ isOff, bytes, target, sentence }: KeepToolsProps) {
  const bench = useBench();
  const { line, isOpen } = useCurrent();
  const run = useBenchState((state) => lastRun(state, state.lineId, 'list'));
  const frames = useBenchState((state) => state.job?.frames ?? NONE);
  const [name, setName] = useState('');
  const [everyMs, setEveryMs] = useState('500');
  const [said, setSaid] = useState('');
  if (!line) return null;
  const isRunning = run !== null && isUnderWay(run);
  const pause = /^\d{1,6}$/.test(everyMs) ? Number(everyMs) : NaN;
  const called = (name.trim() || sentence).slice(0, LONGEST_NAME);
  const keep = (): void => {
    if (frames.length >= MOST_FRAMES) return setSaid(`a job keeps ${MOST_FRAMES} frames at most`);
    const frame = { id: crypto.randomUUID(), name: called, note: '', protocol: line.protocol, hex: bytesToHex(bytes) };
    bench.changeJob((job) => ({ ...job, frames: [...(job.frames ?? []), frame] }));
    setSaid(`kept as “${called}”`);
    setName('');
  };
  return (
    <div className={styles.tools} aria-label="Keep or repeat">
      <TypedField label="Name to keep it under" width={220} value={name} onChange={setName} placeholder={sentence} />
      <ActButton
        variant="outlined"
        color="inherit"
        onClick={keep}
        off={whyOff([isOff, 'a field shows something else'], [bytes.length === 0, 'there are no bytes'])}
      >
        Keep in the job
      </ActButton>
      <TypedField
        label="Repeat every, ms"
        width={130}
        value={everyMs}
        onChange={setEveryMs}
        error={pause >= LEAST_PAUSE_MS ? '' : `${LEAST_PAUSE_MS} or more`}
      />
      {isRunning ? (
        <Button variant="outlined" color="inherit" onClick={() => run && bench.tell(run.id, { kind: 'end' })}>
          End repeating
        </Button>
      ) : (
        <ActButton
          variant="outlined"
          color="inherit"
          off={whyOff(
            [isOff, 'a field shows something else'],
            [!isOpen, LINE_CLOSED],
            [bytes.length === 0, 'there are no bytes'],
            [!(pause >= LEAST_PAUSE_MS), `${LEAST_PAUSE_MS} ms at least`],
          )}
          onClick={() => bench.start(line.id, listProcedure([{ station: target, bytes, name: called }], pause, true))}
        >
          Repeat
        </ActButton>
      )}
      <span role="status">{said || listText(run)}</span>
    </div>
  );
}

const NONE: readonly never[] = [];
