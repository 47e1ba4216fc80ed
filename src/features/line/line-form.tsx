'use client';

import { newestOf } from '../../core/sheet/shelf';
import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { targetIn, targetOfLine, type TargetTexts } from '../../bench/jobs/target';
import { useCurrent } from '../../bench/hooks/use-current';
import { newId } from '../../bench/new-id';
import { wholeIn } from '../../core/bytes/whole';
import { PROTOCOL_TEXT, withLine, type JobLine } from '../../core/job/job';
import { TIMEOUT_MS } from '../../core/job/job-limits';
import { lineBack, withoutLine } from '../../core/job/take-away';
import { StationRows } from './station-rows';
import { doubtOfIpv4 } from '../../core/line/ipv4';
import { mostStation } from '../../core/job/most-station';
import { ActButton } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Later } from '../../ui/later';
import { NameField } from '../../ui/name-field';
import styles from './line.module.css';
import { useTyped } from '../../bench/hooks/use-typed';

const FAR_TEXT: Readonly<Record<JobLine['far'], string>> = {
  yard: 'stand-ins in this page',
  tcp: 'a device over TCP',
  'serial-port': 'a serial port of this machine',
  'not-built': 'nothing yet',
};

const DEFAULT_SERIAL = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } as const;

/** Sets a line up: what it is called, what is spoken on it, where its other end is, and which stations are on it. */
export function LineForm() {
  const bench = useBench();
  const { line } = useCurrent();
  if (!line) return null;
  const put = (change: Partial<JobLine>): void =>
    void bench.changeJob((job) => withLine(job, line.id, (own) => ({ ...own, ...change })));
  return (
    <div className={styles.stack}>
      <div className={styles.row}>
        <NameField label="name" value={line.name} width={200} onName={(name) => put({ name })} />
        <ChoiceField
          label="spoken"
          value={line.protocol}
          width={190}
          options={Object.entries(PROTOCOL_TEXT)}
          onChange={(protocol) => put({ protocol: protocol as JobLine['protocol'] })}
        />
        <ChoiceField
          label="other end"
          value={line.far}
          width={230}
          options={Object.entries(FAR_TEXT)}
          onChange={(value) => {
            const far = value as JobLine['far'];
            const medium = far === 'tcp' ? (line.protocol === 'modbus-tcp' ? 'Ethernet' : 'device server') : 'RS-485';
            put({
              far,
              medium,
              ...(far === 'tcp'
                ? { tcp: line.tcp ?? { host: '127.0.0.1', port: 502 } }
                : { serial: line.serial ?? DEFAULT_SERIAL }),
            });
          }}
        />
        {line.far === 'tcp' && <TargetFields line={line} put={put} />}
        <TimeoutField line={line} put={put} />
        <Button
          variant="outlined"
          color="inherit"
          onClick={() => {
            if (!bench.changeJob((job) => withoutLine(job, line.id), lineBack(bench.state.getState().job, line)))
              return;
            const next = bench.state.getState().job?.lines[0];
            if (next) bench.select(next.id, next.stations[0]?.station ?? 0);
          }}
        >
          Delete {line.name}
        </Button>
      </div>
      <Later>
        <Stations line={line} put={put} />
      </Later>
      <p className={styles.soft}>A change of what is spoken, of the other end or of stations closes the line first.</p>
    </div>
  );
}

interface PartProps {
  readonly line: JobLine;
  readonly put: (change: Partial<JobLine>) => void;
}

function TargetFields({ line, put }: PartProps) {
  const bench = useBench();
  const stored = targetOfLine(line);
  const [host, setHost] = useTyped('target', line.id, 'host', stored.host);
  const [port, setPort] = useTyped('target', line.id, 'port', stored.port);
  const target = targetIn({ host, port });
  const apply = (next: TargetTexts): void => {
    const checked = targetIn(next);
    bench.drafts.getState().setTyped('target', line.id, 'refused', checked.ok ? '' : checked.error);
    if (checked.ok) put({ tcp: checked.value });
  };
  const portWrong = !target.ok && target.error.startsWith('port');
  return (
    <>
      <TypedField
        label="IP address"
        value={host}
        width={210}
        error={!target.ok && !portWrong ? target.error : ''}
        note={doubtOfIpv4(host)}
        onChange={(text) => {
          setHost(text);
          apply({ host: text, port });
        }}
      />
      <TypedField
        label="TCP port"
        value={port}
        width={130}
        error={portWrong ? `“${port.trim()}”: 1 to 65535` : ''}
        onChange={(text) => {
          setPort(text);
          apply({ host, port: text });
        }}
      />
    </>
  );
}

/** How long an answer is waited for; empty: as the sheet says. */
function TimeoutField({ line, put }: PartProps) {
  const [text, setText] = useTyped('timeout', line.id, 'ms', line.timeoutMs === undefined ? '' : `${line.timeoutMs}`);
  const ms = text.trim() === '' ? undefined : wholeIn(text);
  const isGood = ms === undefined || (ms !== null && ms >= TIMEOUT_MS.least && ms <= TIMEOUT_MS.most);
  return (
    <TypedField
      label="time-out, ms"
      value={text}
      width={150}
      error={isGood ? '' : `${TIMEOUT_MS.least} to ${TIMEOUT_MS.most}`}
      note="empty: by the sheet"
      onChange={(next) => {
        setText(next);
        const whole = next.trim() === '' ? undefined : wholeIn(next);
        if (whole === undefined || (whole !== null && whole >= TIMEOUT_MS.least && whole <= TIMEOUT_MS.most))
          put({ timeoutMs: whole });
      }}
    />
  );
}

function Stations({ line, put }: PartProps) {
  const bench = useBench();
  const sheets = useBenchState((state) => state.sheets);
  const [number, setNumber] = useTyped('new station', line.id, 'number', '');
  const [name, setName] = useTyped('new station', line.id, 'name', '');
  const [slug, setSlug] = useTyped('new station', line.id, 'sheet', '');
  const most = mostStation(line.protocol);
  const station = /^\s*\d+\s*$/.test(number) ? parseInt(number, 10) : NaN;
  const least = most === 255 ? 0 : 1;
  const error =
    number.trim() === ''
      ? ''
      : !(station >= least && station <= most)
        ? station === 0
          ? 'station 0 is everyone at once'
          : `“${number.trim()}”: ${least} to ${most} are stations`
        : line.stations.some((known) => known.station === station)
          ? `station ${station} is on this line already`
          : '';
  const sheet = sheets.get(slug)?.sheet;
  const add = (): void => {
    const made = {
      id: newId(),
      station,
      name: name.trim() || `station ${station}`,
      ...(sheet ? { sheet: { slug: sheet.slug, revision: sheet.revision } } : {}),
    };
    put({ stations: [...line.stations, made] });
    bench.select(line.id, station);
    setNumber('');
    setName('');
  };
  return (
    <>
      <StationRows key={line.id} line={line} range={[least, most]} />
      <div className={styles.row}>
        <TypedField label="new station" value={number} onChange={setNumber} error={error} width={150} />
        <TypedField label="its name" value={name} onChange={setName} width={150} />
        <ChoiceField
          label="its sheet"
          value={slug}
          onChange={setSlug}
          width={130}
          options={[
            ['', 'none'] as const,
            ...newestOf(sheets).map((index) => [index.sheet.slug, index.sheet.name] as const),
          ]}
        />
        <ActButton variant="contained" off={number.trim() === '' ? 'give it a number' : error} onClick={add}>
          Add the station
        </ActButton>
      </div>
    </>
  );
}
