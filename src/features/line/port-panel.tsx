'use client';

import Button from '@mui/material/Button';
import { useSyncExternalStore, useState } from 'react';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { withLine } from '../../core/job/job';
import { ActButton, LINE_CLOSED } from '../../ui/act-button';
import { ChoiceField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';

interface SerialInfo {
  readonly usbVendorId?: number;
  readonly usbProductId?: number;
}
interface PagePort {
  getInfo(): SerialInfo;
}
interface PageSerial {
  requestPort(): Promise<PagePort>;
  getPorts(): Promise<readonly PagePort[]>;
}

/** Web Serial is not in the type library yet, and not in every browser. */
const pageSerial = (): PageSerial | null =>
  typeof navigator === 'undefined' ? null : ((navigator as { readonly serial?: PageSerial }).serial ?? null);

const never = (): (() => void) => () => undefined;

const portText = (port: PagePort, place: number): string => {
  const { usbVendorId, usbProductId } = port.getInfo();
  const id = (value: number | undefined): string => (value ?? 0).toString(16).padStart(4, '0');
  return usbVendorId === undefined
    ? `port ${place + 1}, built in`
    : `port ${place + 1}, adapter ${id(usbVendorId)}:${id(usbProductId)}`;
};

/** The port of this machine that the line uses, and what can be done with its wires. */
export function PortPanel() {
  const { line } = useCurrent();
  return (
    <Panel title="Port and wires" aside={line?.far === 'yard' ? 'a stand-in, not a real port' : undefined}>
      {line?.far === 'serial-port' && <PortChoice />}
      <Wires />
    </Panel>
  );
}

function PortChoice() {
  const bench = useBench();
  const { line } = useCurrent();
  const exists = useSyncExternalStore(
    never,
    () => pageSerial() !== null,
    () => false,
  );
  const [ports, setPorts] = useState<readonly PagePort[]>([]);
  const [place, setPlace] = useState(-1);
  const [told, setTold] = useState('');
  if (!exists || !line)
    return (
      <p>
        This browser gives pages no access to serial ports. A desktop browser with Web Serial does; a device server over
        TCP works in every browser.
      </p>
    );
  const take = async (at: number): Promise<void> => {
    setPorts((await pageSerial()?.getPorts()) ?? []);
    setPlace(at);
    bench.post({ kind: 'choose-port', line: line.id, place: at });
  };
  const choose = async (): Promise<void> => {
    try {
      const port = await pageSerial()?.requestPort();
      const known = (await pageSerial()?.getPorts()) ?? [];
      await take(port ? known.indexOf(port) : -1);
      setTold('');
    } catch {
      setTold('No port was chosen.');
    }
  };
  /** Unplug and plug in again: the port that is missing in between is the one. */
  const learn = async (): Promise<void> => {
    const before = (await pageSerial()?.getPorts()) ?? [];
    if (before.length === 0)
      return setTold('This page may use no port yet, so none can be missed: choose one or more ports first.');
    setTold('Now pull the adapter out; its place is found by its absence …');
    for (let i = 0; i < 60; i++) {
      await new Promise((resolve) => setTimeout(resolve, 500));
      const now = (await pageSerial()?.getPorts()) ?? [];
      const gone = before.findIndex((port) => !now.includes(port));
      if (gone < 0) continue;
      setTold(`${portText(before[gone] as PagePort, gone)} is the one. Plug it in again and choose it.`);
      return;
    }
    setTold('No adapter was pulled out within half a minute.');
  };
  return (
    <div className={styles.row} style={{ marginBottom: 8 }}>
      <Button variant="outlined" color="inherit" onClick={() => void choose()}>
        Choose a port …
      </Button>
      <Button variant="outlined" color="inherit" onClick={() => void learn()}>
        Learn by unplugging
      </Button>
      {ports.length > 0 && (
        <ChoiceField
          label="port of this line"
          value={`${place}`}
          onChange={(value) => void take(parseInt(value, 10))}
          width={230}
          options={[['-1', 'none'] as const, ...ports.map((port, i) => [`${i}`, portText(port, i)] as const)]}
        />
      )}
      {told !== '' && <span className={styles.soft}>{told}</span>}
      <p className={styles.soft}>
        The browser keeps flow control off, knows 7 or 8 data bits, and says line errors without their byte. Two equal
        adapters look the same.
      </p>
    </div>
  );
}

function Wires() {
  const bench = useBench();
  const { line, index, isOpen, lineState } = useCurrent();
  if (!line) return null;
  const breakMs = index?.sheet.link?.breakToDefaultMs ?? 250;
  const real = line.far === 'serial-port';
  const signals = lineState?.signals ?? {};
  const setEcho = (on: boolean): void => {
    bench.post({ kind: 'echo', line: line.id, on });
    bench.changeJob((job) => withLine(job, line.id, (own) => ({ ...own, echo: on })));
  };
  return (
    <>
      <div className={styles.row}>
        <ActButton
          variant="outlined"
          color="inherit"
          off={isOpen ? '' : LINE_CLOSED}
          onClick={() => bench.post({ kind: 'break', line: line.id, ms: breakMs })}
        >
          Send a break of {breakMs} ms
        </ActButton>
        {line.protocol === 'modbus-rtu' && (
          <Button
            variant="outlined"
            color="inherit"
            aria-pressed={line.echo === true}
            onClick={() => setEcho(line.echo !== true)}
          >
            {line.echo === true ? 'Local echo is left out' : 'No local echo'}
          </Button>
        )}
        {real &&
          (['rts', 'dtr'] as const).map((wire) => (
            <ActButton
              key={wire}
              variant="outlined"
              color="inherit"
              off={isOpen ? '' : LINE_CLOSED}
              aria-pressed={signals[wire] === true}
              onClick={() =>
                bench.post({ kind: 'signals', line: line.id, signals: { [wire]: signals[wire] !== true } })
              }
            >
              {wire.toUpperCase()} {signals[wire] === true ? 'on' : 'off'}
            </ActButton>
          ))}
      </div>
      <p className={styles.soft}>
        {index?.sheet.link?.breakToDefaultMs !== undefined
          ? `By its sheet a break of ${breakMs} ms returns this drive to its factory rate and form.`
          : 'No sheet says what a break does to this drive.'}
        {real && signals.cts !== undefined && ` CTS ${signals.cts ? 'on' : 'off'}, DSR ${signals.dsr ? 'on' : 'off'}.`}
      </p>
    </>
  );
}
