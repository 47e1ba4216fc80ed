'use client';

import { pinnedIn } from '../../core/sheet/shelf';
import Button from '@mui/material/Button';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { viewOf } from '../../bench/state/bench-state';
import { toldState } from '../../bench/state/told-state';
import { useNetworkYard } from '../../bench/hooks/network-yard';
import { useOpenLine } from '../../bench/hooks/use-open-line';
import { newId } from '../../bench/new-id';
import { withLine, type Job, type JobLine, type JobStation } from '../../core/job/job';
import { isRetrying, troubleOf } from '../../link/line-life';
import { lineText } from '../../core/job/line-text';
import { ActButton } from '../../ui/act-button';
import { Panel, StageHead } from '../../ui/panel';
import styles from './job.module.css';
import { ShelfPanel } from './shelf-panel';
import { YardPanel } from './yard-panel';

// Few jobs are so large that something must be found in them; the first view does without fields.
const LineFinder = dynamic(() => import('./finders').then((part) => part.LineFinder));
const StationFinder = dynamic(() => import('./finders').then((part) => part.StationFinder));

/** Job: the lines of this visit and the stations on them. Opening a line sends nothing. */
export function JobStage() {
  const job = useBenchState((state) => state.job);
  const phase = useBenchState((state) => state.phase);
  const bench = useBench();
  if (phase.kind === 'failed') return <StageHead title="This job could not be opened" aside={phase.reason} />;
  if (!job) return null;
  return (
    <div className={styles.stack}>
      <StageHead title={job.name} aside={job.about} />
      <Panel
        title="Lines"
        aside="opening a line sends nothing; choose the station that the other stages work on"
        tools={
          <Button variant="text" color="inherit" onClick={() => bench.changeJob(withNewLine)}>
            Add a line
          </Button>
        }
      >
        {job.lines.length === 0 && <p>This job has no lines yet. Add one, then set it up in Line.</p>}
        <LineRows lines={job.lines} />
      </Panel>
      <YardPanel />
      <ShelfPanel />
    </div>
  );
}

/** More lines than this are not all shown; the one that is worked on is, and others are found by their names. */
const MOST_LINES = 12;

function LineRows({ lines }: { readonly lines: readonly JobLine[] }) {
  const [text, setText] = useState('');
  const chosen = useBenchState(({ lineId }) => lineId);
  const wanted = text.trim().toLowerCase();
  const found = wanted === '' ? lines : lines.filter(({ name }) => name.toLowerCase().includes(wanted));
  const shown = found.filter(({ id }, i) => i < MOST_LINES || id === chosen);
  return (
    <>
      {lines.length > MOST_LINES && (
        <LineFinder text={text} onText={setText} shown={shown.length} found={found.length} />
      )}
      {shown.map((line) => (
        <LineRow key={line.id} line={line} />
      ))}
    </>
  );
}

/** A serial line by the standard's defaults, with nothing at its other end yet. */
const withNewLine = (job: Job): Job => ({
  ...job,
  lines: [
    ...job.lines,
    {
      id: newId(),
      name: `line ${job.lines.length + 1}`,
      medium: 'RS-485',
      protocol: 'modbus-rtu',
      serial: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 },
      far: 'not-built',
      stations: [],
    },
  ],
});

const FAR_NOTE: Readonly<Record<JobLine['far'], string>> = {
  yard: 'stand-ins in this page',
  tcp: 'over the local server',
  'serial-port': 'a serial port of this machine',
  'not-built': 'set up its other end in Line',
};

function LineRow({ line }: { readonly line: JobLine }) {
  const bench = useBench();
  const opening = useOpenLine(line);
  const state = useBenchState(({ lines }) => lines.get(line.id) ?? null);
  const trouble = troubleOf(state?.life);
  const built = line.far !== 'not-built';
  const chosen = useBenchState(({ lineId }) => lineId === line.id);
  return (
    <div className={styles.line} role="group" aria-label={`Line ${line.name}`}>
      <div>
        <h3>{line.name}</h3>
        <div className={styles.soft}>{lineText(line)}</div>
        <FarNote line={line} />
      </div>
      <div className={styles.stations}>
        <StationRows line={line} disabled={!built} />
      </div>
      <div>
        {!built ? (
          <Button
            variant="outlined"
            color="inherit"
            aria-pressed={chosen}
            onClick={() => bench.select(line.id, line.stations[0]?.station ?? 0)}
          >
            Choose {line.name}
          </Button>
        ) : state?.open || isRetrying(state?.life) ? (
          <Button variant="outlined" color="inherit" onClick={() => bench.close(line.id)}>
            Close {line.name}
          </Button>
        ) : (
          <ActButton variant="contained" color="secondary" off={opening.off} onClick={opening.open}>
            Open {line.name}
          </ActButton>
        )}
        {trouble && <div className={styles.soft}>{trouble.text}</div>}
      </div>
    </div>
  );
}

/** Which drives these are: a network stand-in is one of the local server's yard, and never looks like a real one. */
function FarNote({ line }: { readonly line: JobLine }) {
  const bench = useBench();
  const yard = useNetworkYard();
  const standin =
    line.far === 'tcp' && yard.some(({ port }) => port === line.tcp?.port && line.tcp.host === '127.0.0.1');
  const moved =
    line.far === 'tcp' && line.tcp?.host === '127.0.0.1'
      ? yard.find(({ port, wanted }) => wanted === line.tcp?.port && port !== wanted)
      : undefined;
  const follow = (port: number): void =>
    void bench.changeJob((job) => withLine(job, line.id, (own) => ({ ...own, tcp: { host: '127.0.0.1', port } })));
  return (
    <div className={styles.soft}>
      {standin ? `stand-in of the local server, port ${line.tcp?.port}` : FAR_NOTE[line.far]}
      {line.tcp && line.far === 'tcp' && !standin && ` · ${line.tcp.host} port ${line.tcp.port}`}
      {moved && (
        <>
          . The stand-in of this server is at port {moved.port}, for another program had {moved.wanted}.{' '}
          <Button variant="text" color="inherit" onClick={() => follow(moved.port)}>
            Take port {moved.port}
          </Button>
        </>
      )}
    </div>
  );
}

/** More stations than this are not all shown: the one that is worked on is, and another is chosen by its number. */
const MOST_SHOWN = 12;

function StationRows({ line, disabled }: { readonly line: JobLine; readonly disabled: boolean }) {
  const chosen = useBenchState(({ lineId, station }) => (lineId === line.id ? station : -1));
  const { stations } = line;
  const shown =
    stations.length <= MOST_SHOWN
      ? stations
      : stations.filter(({ station }, i) => i < MOST_SHOWN - 1 || station === chosen);
  return (
    <>
      {shown.map((station) => (
        <StationRow key={station.id} line={line} station={station} disabled={disabled} />
      ))}
      {shown.length < stations.length && <StationFinder line={line} disabled={disabled} />}
    </>
  );
}

function StationRow({
  line,
  station,
  disabled,
}: {
  readonly line: JobLine;
  readonly station: JobStation;
  readonly disabled: boolean;
}) {
  const bench = useBench();
  const chosen = useBenchState(({ lineId, station: current }) => lineId === line.id && current === station.station);
  const text = useBenchState(
    (state) => toldState(state, pinnedIn(state.sheets, station.sheet), viewOf(state, line.id, station.station)).text,
  );
  const sheetName = useBenchState(({ sheets }) => pinnedIn(sheets, station.sheet)?.sheet.name);
  return (
    <button
      type="button"
      className={styles.station}
      aria-pressed={chosen}
      disabled={disabled}
      onClick={() => bench.select(line.id, station.station)}
    >
      <strong>
        {station.station} · {station.name}
      </strong>
      <span className={styles.soft}>
        {disabled
          ? 'no way to it yet'
          : [sheetName && `sheet ${sheetName}`, text, station.about].filter(Boolean).join(' · ')}
      </span>
    </button>
  );
}
