'use client';

import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { liveOf } from '../../bench/known-state';
import { useCurrent } from '../../bench/use-current';
import { spliceField, type Field } from '../../core/bytes/field';
import { parseBytes } from '../../core/bytes/notation';
import { characterUs, frameGapUs } from '../../core/line/settings';
import { anatomyRtu } from '../../core/modbus/anatomy';
import type { ModbusMessage } from '../../core/modbus/message';
import { readRtu, sealRtu } from '../../core/modbus/rtu';
import { actOf } from '../../core/sheet/acts';
import { annotate } from '../../core/sheet/annotate';
import { cautionsOf } from '../../core/sheet/before-it-turns';
import { requestSentence } from '../../core/sheet/sentence';
import { ByteStrip, type StripEditing } from '../../ui/byte-strip';
import { Panel, StageHead, Warning } from '../../ui/panel';
import { useKeys } from '../../ui/use-keys';
import { ComposeBar } from './compose-bar';
import { firstRequest, withChange } from './draft-frame';
import styles from './frames.module.css';
import { ActualPanel, ExpectedPanel } from './reply-panels';
import { WhereAddress, WhereValue } from './where-from';

const NO_BYTES = new Uint8Array(0);

/** Frames: build a request by field or by byte, see what it says and what should come back, send it, and read the reply. */
export function FramesStage() {
  const bench = useBench();
  const { line, station, index, view, key, isOpen } = useCurrent();
  const draft = useDrafts((drafts) => drafts.frames.get(key)?.present);
  const leaveCheck = useDrafts((drafts) => drafts.leaveCheck);
  const ticket = useDrafts((drafts) => drafts.asked.get(key) ?? 0);
  const result = useBenchState((state) => state.results.get(ticket) ?? null);
  const [trouble, setTrouble] = useState('');
  const drafts = bench.drafts.getState();
  const bytes = draft ?? NO_BYTES;

  useEffect(() => {
    if (station && !draft) bench.drafts.getState().startFrame(key, firstRequest(station.station, index));
  }, [bench, draft, index, key, station]);

  const nameOf = useCallback(
    (number: number) => line?.stations.find((candidate) => candidate.station === number)?.name ?? null,
    [line],
  );
  const reading = useMemo(() => readRtu(bytes, 'request'), [bytes]);
  const fields = useMemo(
    () => annotate(anatomyRtu(bytes, reading), reading.message, null, index, nameOf),
    [bytes, reading, index, nameOf],
  );
  const target = bytes[0] ?? 0;
  const targetName =
    target === 0 && bytes.length > 0 ? 'all stations' : `${target} · ${nameOf(target) ?? 'not in the job'}`;
  const waiting = ticket !== 0 && result === null;

  const edit = (next: Uint8Array): void => {
    setTrouble('');
    drafts.editFrame(key, next);
  };
  const editOpen = (next: Uint8Array): void => edit(leaveCheck ? next : sealRtu(next));
  const change = (what: Partial<ModbusMessage>): void => {
    const next = withChange(bytes, what);
    if (next) edit(next);
    else setTrouble('The standard does not allow a frame like that; the bytes stay as they were.');
  };
  const send = (): void => {
    if (isOpen && bytes.length > 0) drafts.setAsked(key, bench.send(target, bytes, 'Frames'));
  };
  useKeys({ 'Ctrl+Enter': send });

  if (!line || !station) return <StageHead title="Frames" aside="choose a line and a station in Job first" />;

  const acts = index
    ? cautionsOf(actOf(bytes, index), index, (role) => liveOf(index, view, role)?.word)
    : { contradictions: [], warnings: [] };
  const onLine = line.serial
    ? `${((bytes.length * characterUs(line.serial)) / 1000).toFixed(1)} ms on the line, then ${(frameGapUs(line.serial) / 1000).toFixed(1)} ms of silence`
    : '';
  const title =
    reading.message && reading.faults.length === 0 ? requestSentence(reading.message, index) : 'Bytes as typed';

  return (
    <div className={styles.stack}>
      <StageHead title={title} aside={`Modbus RTU · ${bytes.length} bytes · ${onLine}`}>
        {isOpen ? null : (
          <Button variant="outlined" color="inherit" onClick={() => bench.open(line.id)} disabled={line.far !== 'yard'}>
            Open line {line.name}
          </Button>
        )}
        <Button
          variant="contained"
          onClick={send}
          disabled={!isOpen || bytes.length === 0}
          aria-keyshortcuts="Control+Enter"
        >
          Send to {targetName}&nbsp;<kbd>Ctrl Enter</kbd>
        </Button>
      </StageHead>
      <Panel title="▸ Request" aside="type over any byte or press a meaning; bytes and fields follow each other">
        <ComposeBar message={reading.message} index={index} onChange={change} onBytes={edit} />
        <ByteStrip
          label="Request"
          bytes={[...bytes]}
          fields={fields}
          faults={reading.faults}
          direction="sent"
          editing={editingOf({ bytes, edit, editOpen, setTrouble, drafts, stationKey: key })}
        />
        <div className={styles.tools}>
          <Button variant="text" color="inherit" onClick={() => drafts.undoFrame(key)}>
            Undo&nbsp;<kbd>Ctrl Z</kbd>
          </Button>
          <Button variant="text" color="inherit" onClick={() => drafts.redoFrame(key)}>
            Redo
          </Button>
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={leaveCheck}
                onChange={(event) => drafts.setLeaveCheck(event.target.checked)}
              />
            }
            label="leave the check as it is, wrong on purpose"
            slotProps={{ typography: { sx: { fontSize: 14 } } }}
          />
          {reading.faults.some(({ code }) => code === 'checksum-mismatch') && (
            <Button variant="outlined" color="inherit" onClick={() => edit(sealRtu(bytes))}>
              Mend the check
            </Button>
          )}
        </div>
        {trouble !== '' && <Warning>{trouble}</Warning>}
        {[...acts.contradictions, ...acts.warnings].map((text) => (
          <Warning key={text}>{text}</Warning>
        ))}
      </Panel>
      <div className={styles.pair}>
        <ExpectedPanel
          request={bytes}
          view={view}
          index={index}
          nameOf={nameOf}
          withinMs={index?.sheet.link?.replyWithinMs ?? 200}
        />
        <ActualPanel result={result} waiting={waiting} request={bytes} view={view} index={index} nameOf={nameOf} />
      </div>
      <div className={styles.pair}>
        <WhereAddress message={reading.message} index={index} />
        <WhereValue message={reading.message} index={index} />
      </div>
    </div>
  );
}

interface EditingContext {
  readonly bytes: Uint8Array;
  readonly edit: (bytes: Uint8Array) => void;
  readonly editOpen: (bytes: Uint8Array) => void;
  readonly setTrouble: (text: string) => void;
  readonly drafts: { readonly undoFrame: (key: string) => void; readonly redoFrame: (key: string) => void };
  readonly stationKey: string;
}

/** What the strip's keys do. Typing into the check itself never mends it. */
function editingOf({ bytes, edit, editOpen, setTrouble, drafts, stationKey }: EditingContext): StripEditing {
  const isCheck = (at: number): boolean => at >= bytes.length - 2;
  const splice = (at: number, remove: number, add: readonly number[]): Uint8Array =>
    Uint8Array.from([...bytes.subarray(0, at), ...add, ...bytes.subarray(at + remove)]);
  return {
    setByte: (at, value) => (isCheck(at) ? edit : editOpen)(splice(at, 1, [value])),
    insertByte: (at) => edit(splice(at, 0, [0])),
    deleteByte: (at) => edit(splice(at, 1, [])),
    setField: (field: Field, text: string) => {
      const number = /^\s*(?:0x[0-9a-f]+|\d+)\s*$/i.test(text) ? Number(text) : NaN;
      const spliced = spliceField(bytes, field, number);
      if (spliced.ok) (field.path === 'check' ? edit : editOpen)(spliced.value);
      else setTrouble(`“${text}”: ${spliced.error.text}`);
    },
    paste: (text) => {
      const parsed = parseBytes(text);
      if (parsed.ok) edit(parsed.value.bytes);
      else setTrouble(parsed.error.text);
    },
    undo: () => drafts.undoFrame(stationKey),
    redo: () => drafts.redoFrame(stationKey),
  };
}
