'use client';

import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMemo, useState } from 'react';
import { useBench, useDrafts } from '../../bench/bench-context';
import { liveOf } from '../../bench/known-state';
import type { StationView } from '../../bench/live-values';
import { spliceField, type Field } from '../../core/bytes/field';
import { parseBytes } from '../../core/bytes/notation';
import type { ModbusFraming } from '../../core/modbus/framing';
import type { ModbusMessage } from '../../core/modbus/message';
import type { ModbusReading } from '../../core/modbus/reading';
import { actOf } from '../../core/sheet/acts';
import { annotate } from '../../core/sheet/annotate';
import { cautionsOf } from '../../core/sheet/before-it-turns';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { Objection } from '../../core/sheet/limits';
import { ByteStrip, type StripEditing } from '../../ui/byte-strip';
import { Panel, Warning } from '../../ui/panel';
import { ComposeBar } from './compose-bar';
import { withChange } from './draft-frame';

interface RequestPanelProps {
  readonly stationKey: string;
  readonly bytes: Uint8Array;
  readonly reading: ModbusReading;
  readonly framing: ModbusFraming;
  readonly index: SheetIndex | null;
  readonly view: StationView;
  /** What the sheet has against this request. */
  readonly objections: readonly Objection[];
  readonly nameOf: (station: number) => string | null;
}

/** The request as fields and as bytes, one thing seen from two sides, with what must be read before it is sent. */
export function RequestPanel({
  stationKey,
  bytes,
  reading,
  framing,
  index,
  view,
  objections,
  nameOf,
}: RequestPanelProps) {
  const drafts = useBench().drafts.getState();
  const leaveCheck = useDrafts((state) => state.leaveCheck);
  const [trouble, setTrouble] = useState('');
  const fields = useMemo(
    () => annotate(framing.anatomy(bytes, reading), reading.message, null, index, nameOf),
    [bytes, framing, reading, index, nameOf],
  );
  const act = index && reading.message && reading.faults.length === 0 ? actOf(reading.message, index) : {};
  const cautions = index ? cautionsOf(act, index, (role) => liveOf(index, view, role)?.word) : null;

  const edit = (next: Uint8Array): void => {
    setTrouble('');
    drafts.editFrame(stationKey, next);
  };
  const change = (what: Partial<ModbusMessage>): void => {
    const next = withChange(framing, bytes, what);
    if (next) edit(next);
    else setTrouble('The standard does not allow a frame like that; the bytes stay as they were.');
  };
  const editing: StripEditing = {
    ...bytesEditing(bytes, edit, leaveCheck ? edit : (next) => edit(framing.seal(next)), setTrouble),
    undo: () => drafts.undoFrame(stationKey),
    redo: () => drafts.redoFrame(stationKey),
  };
  const checkIsWrong = reading.faults.some(({ code }) => code === 'checksum-mismatch' || code === 'length-mismatch');

  return (
    <Panel
      title="▸ Request"
      aside="type over any byte or press a meaning"
      tools={
        <>
          {checkIsWrong && (
            <Button variant="outlined" color="inherit" onClick={() => edit(framing.seal(bytes))}>
              Mend the check
            </Button>
          )}
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={leaveCheck}
                onChange={(event) => drafts.setLeaveCheck(event.target.checked)}
              />
            }
            label="leave a wrong check wrong"
            slotProps={{ typography: { sx: { fontSize: 14 } } }}
          />
          <Button variant="text" color="inherit" onClick={editing.undo}>
            Undo
          </Button>
          <Button variant="text" color="inherit" onClick={editing.redo}>
            Redo
          </Button>
        </>
      }
    >
      <ComposeBar message={reading.message} index={index} onChange={change} onBytes={edit} />
      <ByteStrip
        label="Request"
        bytes={[...bytes]}
        fields={fields}
        faults={reading.faults}
        direction="sent"
        editing={editing}
      />
      {[
        trouble,
        ...objections.map(({ text }) => text),
        ...(cautions?.contradictions ?? []),
        ...(cautions?.warnings ?? []),
      ]
        .filter((text) => text !== '')
        .map((text) => (
          <Warning key={text}>{text}</Warning>
        ))}
    </Panel>
  );
}

type Take = (bytes: Uint8Array) => void;

/** What the strip's keys do to the bytes. `take` leaves the check alone, `takeSealed` mends it; typing into the check never mends it. */
function bytesEditing(
  bytes: Uint8Array,
  take: Take,
  takeSealed: Take,
  trouble: (text: string) => void,
): Omit<StripEditing, 'undo' | 'redo'> {
  const splice = (at: number, remove: number, add: readonly number[]): Uint8Array =>
    Uint8Array.from([...bytes.subarray(0, at), ...add, ...bytes.subarray(at + remove)]);
  return {
    setByte: (at, value) => (at >= bytes.length - 2 ? take : takeSealed)(splice(at, 1, [value])),
    insertByte: (at) => take(splice(at, 0, [0])),
    deleteByte: (at) => take(splice(at, 1, [])),
    setField: (field: Field, text: string) => {
      const number = /^\s*(?:0x[0-9a-f]+|\d+)\s*$/i.test(text) ? Number(text) : NaN;
      const spliced = spliceField(bytes, field, number);
      if (spliced.ok) (field.path === 'check' ? take : takeSealed)(spliced.value);
      else trouble(`“${text}”: ${spliced.error.text}`);
    },
    paste: (text) => {
      const parsed = parseBytes(text);
      if (parsed.ok) take(parsed.value.bytes);
      else trouble(parsed.error.text);
    },
  };
}
