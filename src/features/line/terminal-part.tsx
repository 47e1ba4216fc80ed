'use client';

import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { useBench, useBenchState } from '../../bench/bench-context';
import type { Bench } from '../../bench/bench';
import { isUnderWay, lastRun } from '../../bench/state/runs';
import { useCurrent } from '../../bench/hooks/use-current';
import { bytesToHex } from '../../core/bytes/hex';
import { messageOf } from '../../core/message-of';
import type { TraceEntry } from '../../core/trace/entry';
import { incoming, lineEnd, listingLines, LINE_ENDS, type LineEnd } from '../../core/line/terminal-text';
import { listingProcedure } from '../../core/procedure/list-procedures';
import { troubleOf } from '../../link/line-life';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { FileButton } from '../../ui/file-button';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';
import { TerminalScreen } from './terminal-screen';
import { useTyped } from '../../bench/hooks/use-typed';

/** The line as plain characters: for drives with a text menu, and for looking at what crosses any line. */
export function TerminalPart() {
  const bench = useBench();
  const { line, isOpen, lineState, index } = useCurrent();
  const of = line?.id ?? '';
  const [out, setOut] = useTyped('terminal', of, 'out', 'cr');
  const [into, setInto] = useTyped('terminal', of, 'in', 'as-is');
  const [echo, setEcho] = useTyped('terminal', of, 'echo', 'off');
  const [look, setLook] = useTyped('terminal', of, 'look', 'text');
  if (!line) return null;
  const plain = !line.protocol.startsWith('modbus');
  const canType = plain && isOpen;
  const bytesOf = (text: string): Uint8Array =>
    Uint8Array.from(text.replaceAll('\r', lineEnd(out as LineEnd)), (char) => char.charCodeAt(0) & 0xff);
  const type = (text: string): void =>
    void bench.send({ line: line.id, station: 0 }, bytesOf(text), 'Terminal', { asTyped: true });
  return (
    <div className={styles.stack}>
      <Panel
        title={plain ? 'Terminal' : 'What crosses this line, as characters'}
        aside={
          plain
            ? isOpen
              ? 'what is typed is sent at once'
              : troubleOf(lineState?.life)?.text || 'closed; open the line to type'
            : `${line.name} speaks frames; type bytes in Frames`
        }
        tools={<CaptureButtons line={line.id} name={line.name} />}
      >
        <div className={styles.row} style={{ marginBottom: 10, marginTop: 6 }}>
          <ChoiceField label="Enter sends" value={out} onChange={setOut} width={110} options={LINE_ENDS} />
          <ChoiceField
            label="line end that comes"
            value={into}
            onChange={setInto}
            width={160}
            options={[
              ['as-is', 'as it is'],
              ['cr', 'CR begins a line'],
              ['lf', 'LF begins a line'],
            ]}
          />
          <Button
            variant="outlined"
            color="inherit"
            aria-pressed={echo === 'on'}
            onClick={() => setEcho(echo === 'on' ? 'off' : 'on')}
          >
            Local echo {echo}
          </Button>
          <Button
            variant="outlined"
            color="inherit"
            aria-pressed={look === 'hex'}
            onClick={() => setLook(look === 'hex' ? 'text' : 'hex')}
          >
            {look === 'hex' ? 'Show text' : 'Show hex'}
          </Button>
          <ActButton
            variant="outlined"
            color="inherit"
            off={isOpen ? '' : LINE_CLOSED}
            onClick={() => bench.post({ kind: 'break', line: line.id, ms: index?.sheet.link?.breakToDefaultMs ?? 250 })}
          >
            Send a break
          </ActButton>
        </div>
        {look === 'hex' ? (
          <HexDump line={line.id} />
        ) : (
          <TerminalScreen line={line.id} canType={canType} into={into} echo={echo === 'on'} onType={type} />
        )}
      </Panel>
      {plain && <Replay canType={canType} bytesOf={bytesOf} line={line.id} />}
    </div>
  );
}

const received = (bench: Bench, line: string): readonly TraceEntry[] => {
  const { entries, session } = bench.state.getState();
  return entries.filter((entry) => entry.line === line && entry.session === session && entry.direction !== 'event');
};

/** Everything that came on this line in this session, as a file. */
function CaptureButtons({ line, name }: { readonly line: string; readonly name: string }) {
  const bench = useBench();
  const save = (): void => {
    const came = received(bench, line).filter(({ direction }) => direction === 'received');
    saveFile(new Blob(came.map(({ bytes }) => bytes.slice().buffer)), fileName(`${name} capture`, 'txt'));
  };
  return (
    <Button variant="text" color="inherit" onClick={save}>
      Capture to a file
    </Button>
  );
}

function HexDump({ line }: { readonly line: string }) {
  const bench = useBench();
  const last = useBenchState((state) => state.entries.length);
  const rows = received(bench, line).slice(-200);
  const bottom = useRef<HTMLPreElement>(null);
  useEffect(() => {
    if (bottom.current) bottom.current.scrollTop = bottom.current.scrollHeight;
  }, [last]);
  return (
    <pre ref={bottom} className={styles.dump} tabIndex={0} aria-label="Bytes of this line">
      {rows
        .map(
          ({ direction, bytes }) =>
            `${direction === 'sent' ? '▸' : '◂'} ${bytesToHex(bytes, ' ').toUpperCase()}   ${textOfBytes(bytes)}\n`,
        )
        .map((text, i) => (
          <span key={rows[i]?.sequence ?? i}>{text}</span>
        ))}
    </pre>
  );
}

const textOfBytes = (bytes: Uint8Array): string => incoming(bytes, 'as-is').replace(/[^ -~]/g, '·');

/** Bytes of a listing's file; more is no listing of a drive. */
const LARGEST_LISTING = 1_000_000;

/** Sends a captured listing line by line, with a pause after each; the line runs it, and Stop or the press here ends it. */
function Replay({
  canType,
  bytesOf,
  line,
}: {
  readonly canType: boolean;
  readonly bytesOf: (text: string) => Uint8Array;
  readonly line: string;
}) {
  const bench = useBench();
  const [listing, setListing] = useTyped('replay', line, 'listing', '');
  const [pause, setPause] = useTyped('replay', line, 'pause', '150');
  const [trouble, setTrouble] = useState('');
  const view = useBenchState((state) => lastRun(state, line, 'listing'));
  const pauseMs = /^\s*\d+\s*$/.test(pause) ? parseInt(pause, 10) : NaN;
  const error = pauseMs >= 0 && pauseMs <= 60_000 ? '' : `“${pause.trim()}”: 0 to 60000`;
  const lines = listingLines(listing);
  const isRunning = view !== null && isUnderWay(view);
  const open = async (file: File): Promise<void> => {
    const isFit = file.size <= LARGEST_LISTING;
    setTrouble(isFit ? '' : `${file.name} was not taken: a listing has at most ${LARGEST_LISTING / 1000} kB`);
    if (isFit) setListing(await file.text());
  };
  const run = (): void =>
    void bench.start(
      line,
      listingProcedure(lines, pauseMs, (text) => bytesOf(`${text}\r`)),
    );
  return (
    <Panel title="Send a listing back" aside="a captured listing, line by line, with a pause after each">
      <div className={styles.row}>
        <textarea
          aria-label="Listing"
          className={styles.dump}
          style={{ height: 110, flex: '1 1 360px' }}
          value={listing}
          placeholder="Paste a captured listing here, or open a file"
          onChange={(event) => setListing(event.target.value)}
        />
        <div className={styles.stack}>
          <TypedField label="pause after each line, ms" value={pause} onChange={setPause} error={error} width={200} />
          <FileButton
            label="Listing file"
            variant="outlined"
            onFile={(file) => void open(file).catch((error: unknown) => setTrouble(messageOf(error)))}
          >
            Open a file …
          </FileButton>
          {isRunning ? (
            <Button variant="contained" onClick={() => bench.tell(view.id, { kind: 'end' })}>
              End at line {view.run?.sent ?? 0} of {view.procedure.steps.length / 2}
            </Button>
          ) : (
            <ActButton
              variant="contained"
              off={whyOff([lines.length === 0, 'no lines are typed'], [error !== '', error], [!canType, LINE_CLOSED])}
              onClick={run}
            >
              Send {lines.length} lines
            </ActButton>
          )}
          {trouble !== '' && <span role="alert">{trouble}</span>}
          {!isRunning && view?.run?.why && <span role="status">Ended: {view.run.why}.</span>}
        </div>
      </div>
    </Panel>
  );
}
