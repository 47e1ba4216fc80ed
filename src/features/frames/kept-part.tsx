'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import Button from '@mui/material/Button';
import { useRef, useState } from 'react';
import { askFileWorker, fileName, saveFile } from '../../bench/ask-file-worker';
import { useBench, useBenchState } from '../../bench/bench-context';
import { endFrameRun, LEAST_PAUSE_MS, runText, startFrameRun, type RunFrame } from '../../bench/frame-run';
import { useCurrent } from '../../bench/use-current';
import { hexToBytes } from '../../core/bytes/hex';
import { counted } from '../../core/counted';
import { framesFileText, movedFrame } from '../../core/job/frames-file';
import { PROTOCOL_TEXT, type KeptFrame } from '../../core/job/job';
import { TypedField } from '../../ui/fields';
import { Panel, StageHead, Warning } from '../../ui/panel';
import styles from './frames.module.css';

const NONE: readonly KeptFrame[] = [];

const bytesOf = ({ hex }: KeptFrame): Uint8Array => {
  const bytes = hexToBytes(hex);
  return bytes.ok ? bytes.value : new Uint8Array(0);
};

/** The frames of the job in the user's order: load one, send all in turn, carry the list to another job. */
export function KeptPart() {
  const bench = useBench();
  const { line, station, isOpen, protocol } = useCurrent();
  const frames = useBenchState((state) => state.job?.frames ?? NONE);
  const jobName = useBenchState((state) => state.job?.name ?? '');
  const run = useBenchState((state) => state.frameRun);
  const [pauseMs, setPauseMs] = useState('200');
  const [trouble, setTrouble] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const put = (change: (list: readonly KeptFrame[]) => readonly KeptFrame[]): void =>
    bench.changeJob((job) => ({ ...job, frames: [...change(job.frames ?? [])] }));
  const dropped = ({ active, over }: DragEndEvent): void => {
    const [from, to] = [frames.findIndex(({ id }) => id === active.id), frames.findIndex(({ id }) => id === over?.id)];
    if (from >= 0 && to >= 0) put((list) => movedFrame(list, from, to));
  };
  const sendable: readonly RunFrame[] = frames
    .filter(({ protocol: spoken }) => spoken === line?.protocol)
    .map((frame) => ({
      station: protocol?.stationOf(bytesOf(frame)) ?? station?.station ?? 0,
      bytes: bytesOf(frame),
      name: frame.name,
    }));
  const pause = /^\d{1,6}$/.test(pauseMs) ? Number(pauseMs) : NaN;
  const isRunning = run !== null && !run.over;
  const take = async (chosen: File): Promise<void> => {
    const answer = await askFileWorker({ kind: 'read-frames', file: chosen });
    if (answer.kind === 'frames') {
      setTrouble('');
      put((list) => [...list, ...answer.frames.map((frame) => ({ ...frame, id: crypto.randomUUID() }))]);
    } else if (answer.kind === 'faults')
      setTrouble(
        `${chosen.name} was not taken: ${answer.faults.map(({ path, text }) => (path ? `${path}: ${text}` : text)).join('; ')}`,
      );
  };
  return (
    <div className={styles.stack}>
      <StageHead title="Kept frames" aside={`${counted(frames.length, 'frame')} of ${jobName}`}>
        <Button variant="outlined" color="inherit" onClick={() => file.current?.click()}>
          Import …
        </Button>
        <input
          ref={file}
          type="file"
          hidden
          aria-label="File of frames"
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            event.target.value = '';
            if (chosen) void take(chosen);
          }}
        />
        <Button
          variant="outlined"
          color="inherit"
          disabled={frames.length === 0}
          onClick={() =>
            saveFile(new Blob([framesFileText(frames)], { type: 'application/json' }), fileName(jobName, 'frames.json'))
          }
        >
          Export
        </Button>
      </StageHead>
      {trouble && <Warning>{trouble}</Warning>}
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
              <Button variant="outlined" color="inherit" onClick={() => endFrameRun(bench)}>
                End the list
              </Button>
            ) : (
              <Button
                variant="contained"
                disabled={!isOpen || sendable.length === 0 || !(pause >= LEAST_PAUSE_MS)}
                onClick={() => startFrameRun(bench, sendable, pause, false)}
              >
                Send {counted(sendable.length, 'frame')} over {line?.name ?? 'no line'}
              </Button>
            )}
          </>
        }
      >
        <p role="status" className={styles.soft}>
          {runText(run)}
        </p>
        {frames.length === 0 && (
          <p>Nothing is kept yet. Build a frame under “Compose” and keep it, or import a list.</p>
        )}
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
          <SortableContext items={frames.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
            <ol className={styles.kept} aria-label="Kept frames">
              {frames.map((frame) => (
                <KeptRow
                  key={frame.id}
                  frame={frame}
                  fits={frame.protocol === line?.protocol}
                  onChange={(change) =>
                    put((list) => list.map((one) => (one.id === frame.id ? { ...one, ...change } : one)))
                  }
                  onDrop={() => put((list) => list.filter(({ id }) => id !== frame.id))}
                />
              ))}
            </ol>
          </SortableContext>
        </DndContext>
      </Panel>
    </div>
  );
}

function KeptRow({
  frame,
  fits,
  onChange,
  onDrop,
}: {
  readonly frame: KeptFrame;
  readonly fits: boolean;
  readonly onChange: (change: Partial<KeptFrame>) => void;
  readonly onDrop: () => void;
}) {
  const bench = useBench();
  const { key, protocol, index } = useCurrent();
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: frame.id });
  const bytes = bytesOf(frame);
  const load = (): void => {
    const drafts = bench.drafts.getState();
    drafts.startFrame(key, bytes);
    drafts.editFrame(key, bytes);
    drafts.setFramesPart('compose');
  };
  return (
    <li
      ref={setNodeRef}
      style={{ transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined, transition }}
      aria-label={frame.name}
    >
      <button type="button" className={styles.handle} aria-label={`Move ${frame.name}`} {...attributes} {...listeners}>
        ⠿
      </button>
      <input
        aria-label="Name"
        value={frame.name}
        onChange={(event) => event.target.value !== '' && onChange({ name: event.target.value.slice(0, 400) })}
      />
      <code title={frame.hex}>{frame.hex.length > 48 ? `${frame.hex.slice(0, 48)} …` : frame.hex}</code>
      <span className={styles.soft}>
        {fits && protocol ? protocol.sentence(bytes, 'request', null, index) : PROTOCOL_TEXT[frame.protocol]}
      </span>
      <input
        aria-label="Note"
        placeholder="note"
        value={frame.note}
        onChange={(event) => onChange({ note: event.target.value.slice(0, 400) })}
      />
      <Button size="small" variant="outlined" color="inherit" disabled={!fits} onClick={load}>
        Compose
      </Button>
      <Button size="small" variant="text" color="inherit" onClick={onDrop} aria-label={`Remove ${frame.name}`}>
        Remove
      </Button>
    </li>
  );
}
