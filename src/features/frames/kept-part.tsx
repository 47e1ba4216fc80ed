'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { askFileWorker, fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { useBench, useBenchState } from '../../bench/bench-context';
import { isUnderWay, lastRun, listText } from '../../bench/state/runs';
import { useCurrent } from '../../bench/hooks/use-current';
import { counted } from '../../core/counted';
import {
  framesFileText,
  keptBytes,
  knownFrames,
  movedFrame,
  withFrames,
  type KnownFrame,
} from '../../core/job/frames-file';
import type { KeptFrame } from '../../core/job/job';
import { MOST_FRAMES } from '../../core/job/job-limits';
import { LEAST_PAUSE_MS, listProcedure, type ListFrame } from '../../core/procedure/list-procedures';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { FileButton } from '../../ui/file-button';
import { Later } from '../../ui/later';
import { Panel, StageHead, Warning } from '../../ui/panel';
import styles from './frames.module.css';
import { KeptList } from './kept-list';

const NONE: readonly KeptFrame[] = [];

/** Frames of a file, some of which are in the job already. */
interface Asked {
  readonly file: string;
  readonly frames: readonly KeptFrame[];
  readonly known: number;
}

/** What was done to the list, and the list before it. */
interface Done {
  readonly text: string;
  readonly before: readonly KeptFrame[];
}

/** The frames of the job in the user's order: load one, send all in turn, carry the list to another job. */
export function KeptPart() {
  const bench = useBench();
  const { line, station, isOpen, protocol } = useCurrent();
  const frames = useBenchState((state) => state.job?.frames ?? NONE);
  const jobName = useBenchState((state) => state.job?.name ?? '');
  const run = useBenchState((state) => lastRun(state, state.lineId, 'list'));
  const [pauseMs, setPauseMs] = useState('200');
  const [trouble, setTrouble] = useState('');
  const [asked, setAsked] = useState<Asked | null>(null);
  const [done, setDone] = useState<Done | null>(null);
  /** An undo gives the whole list back, so it is there only until the next change. */
  const put = (change: (list: readonly KeptFrame[]) => readonly KeptFrame[], text = ''): void => {
    setDone(text === '' ? null : { text, before: frames });
    bench.changeJob((job) => ({ ...job, frames: [...change(job.frames ?? [])] }));
  };
  const sendable = frames.filter(({ protocol: spoken }) => spoken === line?.protocol);
  const send = (): void => {
    const list = sendable.map((frame): ListFrame => {
      const bytes = keptBytes(frame);
      return { station: protocol?.stationOf(bytes) ?? station?.station ?? 0, bytes, name: frame.name };
    });
    if (line) bench.start(line.id, listProcedure(list, pause, false));
  };
  const pause = /^\d{1,6}$/.test(pauseMs) ? Number(pauseMs) : NaN;
  const isRunning = run !== null && isUnderWay(run);
  const take = (name: string, found: readonly KeptFrame[], known: KnownFrame): void => {
    setAsked(null);
    const next = withFrames(frames, found, known, () => crypto.randomUUID());
    if (next.length > MOST_FRAMES)
      return setTrouble(
        `${name} was not taken: with its ${counted(found.length, 'frame')} the job would keep ${next.length}, ${MOST_FRAMES} at most`,
      );
    put(() => next, `Took ${counted(found.length, 'frame')} from ${name}.`);
  };
  const read = async (chosen: File): Promise<void> => {
    setTrouble('');
    setAsked(null);
    setDone(null);
    const answer = await askFileWorker({ kind: 'read-frames', file: chosen });
    if (answer.kind === 'frames') {
      const known = knownFrames(frames, answer.frames);
      if (known > 0) setAsked({ file: chosen.name, frames: answer.frames, known });
      else take(chosen.name, answer.frames, 'both');
    } else if (answer.kind === 'faults')
      setTrouble(
        `${chosen.name} was not taken: ${answer.faults.map(({ path, text }) => (path ? `${path}: ${text}` : text)).join('; ')}`,
      );
  };
  return (
    <div className={styles.stack}>
      <StageHead title="Kept frames" aside={`${counted(frames.length, 'frame')} of ${jobName}`}>
        <FileButton label="File of frames" variant="outlined" onFile={(chosen) => void read(chosen)}>
          Import …
        </FileButton>
        <ActButton
          variant="outlined"
          color="inherit"
          off={frames.length === 0 ? 'nothing is kept yet' : ''}
          onClick={() =>
            saveFile(new Blob([framesFileText(frames)], { type: 'application/json' }), fileName(jobName, 'frames.json'))
          }
        >
          Export
        </ActButton>
      </StageHead>
      {trouble && <Warning>{trouble}</Warning>}
      {asked && (
        <div className={styles.tools} role="group" aria-label="Frames that are here already">
          <span role="status">
            {asked.file}: {counted(asked.frames.length, 'frame')}, {asked.known} of them kept here already.
          </span>
          <Button variant="outlined" color="inherit" onClick={() => take(asked.file, asked.frames, 'replace')}>
            Put those in their place
          </Button>
          <Button variant="outlined" color="inherit" onClick={() => take(asked.file, asked.frames, 'both')}>
            Keep both
          </Button>
          <Button variant="text" color="inherit" onClick={() => setAsked(null)}>
            Take none
          </Button>
        </div>
      )}
      {done && (
        <div className={styles.tools}>
          <span role="status">{done.text}</span>
          <Button variant="text" color="inherit" onClick={() => put(() => done.before)}>
            Undo
          </Button>
        </div>
      )}
      <Panel
        title="In this order"
        aside={line ? `${counted(sendable.length, 'frame')} can go over ${line.name}` : ''}
        tools={
          <>
            <TypedField
              label="Pause, ms"
              width={110}
              value={pauseMs}
              onChange={setPauseMs}
              error={pause >= LEAST_PAUSE_MS ? '' : `${LEAST_PAUSE_MS} or more`}
            />
            {isRunning ? (
              <Button variant="outlined" color="inherit" onClick={() => run && bench.tell(run.id, { kind: 'end' })}>
                End the list
              </Button>
            ) : (
              <ActButton
                variant="contained"
                off={whyOff(
                  [!isOpen, LINE_CLOSED],
                  [sendable.length === 0, 'no kept frame is for this line'],
                  [!(pause >= LEAST_PAUSE_MS), `${LEAST_PAUSE_MS} ms at least`],
                )}
                onClick={send}
              >
                Send {counted(sendable.length, 'frame')} over {line?.name ?? 'no line'}
              </ActButton>
            )}
          </>
        }
      >
        <p role="status" className={styles.soft}>
          {listText(run)}
        </p>
        {frames.length === 0 && (
          <p>Nothing is kept yet. Build a frame under “Compose” and keep it, or import a list.</p>
        )}
        <Later>
          <KeptList
            frames={frames}
            onMove={(from, to) => put((list) => movedFrame(list, from, to))}
            onChange={(id, change) => put((list) => list.map((one) => (one.id === id ? { ...one, ...change } : one)))}
            onRemove={(frame) => put((list) => list.filter(({ id }) => id !== frame.id), `Removed ${frame.name}.`)}
          />
        </Later>
      </Panel>
    </div>
  );
}
