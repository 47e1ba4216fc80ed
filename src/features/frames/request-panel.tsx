'use client';

import { registerCell } from '../../core/sheet/place';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMemo, useState } from 'react';
import { useBench, useDrafts } from '../../bench/bench-context';
import { liveOf } from '../../bench/state/known-state';
import { useCurrent } from '../../bench/hooks/use-current';
import { bytesToHex } from '../../core/bytes/hex';
import { spliceField, type Field } from '../../core/bytes/field';
import { wholeIn } from '../../core/bytes/whole';
import { parseBytes } from '../../core/bytes/notation';
import type { ModbusMessage } from '../../core/modbus/message';
import type { FrameReading, LineProtocol } from '../../core/protocol/line-protocol';
import { effectOf } from '../../core/drive/request-effect';
import { motionCautions } from '../../core/drive/motion-cautions';
import type { Objection } from '../../core/drive/limits';
import { ByteStrip, type StripEditing } from '../../ui/byte-strip';
import { Panel, Warning } from '../../ui/panel';
import { ComposeBar } from './compose-bar';
import { DialectCompose } from './dialect-compose';
import { withChange } from './draft-frame';
import { firstBaseOf, useFrameView } from './use-frame-view';
import { PasteEntry } from './paste-entry';
import { UssCompose } from './uss-compose';

interface RequestPanelProps {
  readonly stationKey: string;
  readonly bytes: Uint8Array;
  readonly reading: FrameReading;
  readonly protocol: LineProtocol;
  readonly station: number;
  /** What the sheet has against this request. */
  readonly objections: readonly Objection[];
}

/** The request as fields and as bytes, one thing seen from two sides, with what must be read before it is sent. */
export function RequestPanel({ stationKey, bytes, reading, protocol, station, objections }: RequestPanelProps) {
  const drafts = useBench().drafts.getState();
  const { framing, index, view } = useCurrent();
  const { fieldsOf } = useFrameView();
  const leaveCheck = useDrafts((state) => state.leaveCheck);
  const [trouble, setTrouble] = useState('');
  const fields = useMemo(() => fieldsOf(bytes, 'request', null), [fieldsOf, bytes]);
  const act = index && reading.modbus && reading.faults.length === 0 ? effectOf(reading.modbus, index) : {};
  const cautions = index?.words ? motionCautions(act, index, (role) => liveOf(index, view, role)?.word) : null;

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
    ...bytesEditing(bytes, fields, edit, leaveCheck ? edit : (next) => edit(protocol.seal(next)), setTrouble),
    undo: () => drafts.undoFrame(stationKey),
    redo: () => drafts.redoFrame(stationKey),
  };
  const checkIsWrong = reading.faults.some(({ code }) => code === 'checksum-mismatch' || code === 'length-mismatch');
  const dialect = index?.sheet.dialect;
  const firstBase = firstBaseOf(protocol);

  return (
    <Panel
      title="▸ Request"
      aside="type over any byte or press a meaning"
      tools={
        <>
          {checkIsWrong && (
            <Button variant="outlined" color="inherit" onClick={() => edit(protocol.seal(bytes))}>
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
      {protocol.family === 'modbus' && (
        <ComposeBar
          message={reading.modbus}
          index={index}
          known={(address) => view.values.get(registerCell(address))?.word}
          onChange={change}
        />
      )}
      {protocol.family === 'uss' && <UssCompose bytes={bytes} index={index} station={station} onBytes={edit} />}
      {protocol.family === 'ascii' && dialect && (
        <DialectCompose bytes={bytes} dialect={dialect} station={station} onBytes={edit} />
      )}
      <PasteEntry
        protocol={protocol}
        onRequest={edit}
        onReply={(reply) => drafts.setTyped('pasted reply', stationKey, 'bytes', bytesToHex(reply))}
      />
      <ByteStrip
        key={firstBase}
        firstBase={firstBase}
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
  fields: readonly Field[],
  take: Take,
  takeSealed: Take,
  trouble: (text: string) => void,
): Omit<StripEditing, 'undo' | 'redo'> {
  const check = fields.find(({ path }) => path === 'check');
  const inCheck = (at: number): boolean => check !== undefined && at >= check.start && at < check.end;
  const splice = (at: number, remove: number, add: readonly number[]): Uint8Array =>
    Uint8Array.from([...bytes.subarray(0, at), ...add, ...bytes.subarray(at + remove)]);
  return {
    setByte: (at, value) => (inCheck(at) ? take : takeSealed)(splice(at, 1, [value])),
    insertByte: (at) => take(splice(at, 0, [0])),
    deleteByte: (at) => take(splice(at, 1, [])),
    setField: (field: Field, text: string) => {
      const spliced = spliceField(bytes, field, wholeIn(text) ?? NaN);
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
