'use client';

import Button from '@mui/material/Button';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import type { Cable, CableEnd } from '../../core/cable/cable';
import { checkCable, colourOf, longestM, rightCores, wireListCsv } from '../../core/cable/check-cable';
import { SIGNALS, type Signal } from '../../core/cable/signals';
import { connectorOf, CONNECTORS, END_PRESETS, SIGNAL_TEXT } from '../../core/cable/connectors';
import { withLine } from '../../core/job/job';
import { ChoiceField, TypedField } from '../../ui/fields';
import { NameField } from '../../ui/name-field';
import { Panel } from '../../ui/panel';
import { CablePicture } from './cable-picture';
import styles from './line.module.css';
import { useTyped } from '../../bench/hooks/use-typed';

const MEDIA = { 'rs485-2': 'RS-485, two-wire', 'rs485-4': 'RS-485, four-wire', rs232: 'RS-232' } as const;

function firstCable(driveName: string): Cable {
  const end = (preset: string, name: string): CableEnd => {
    const found = END_PRESETS.find(({ id }) => id === preset);
    return { name, connector: found?.connector ?? 'de9', pinout: { ...found?.pinout } };
  };
  const ends: Cable['ends'] = [end('modbus-de9', 'adapter'), end('terminals', driveName)];
  return {
    medium: 'rs485-2',
    ends,
    cores: rightCores('rs485-2', ends),
    lengthM: 10,
    longestStubM: 0.3,
    devices: 2,
    terminators: { near: true, far: true, between: 0, ohm: 120 },
    biased: 1,
  };
}

/** The cable: two connectors with their signals, the cores between them drawn, and what is wrong with them. */
export function CablePart() {
  const bench = useBench();
  const { line, station } = useCurrent();
  if (!line) return null;
  const put = (cable: Cable): void =>
    void bench.changeJob((job) => withLine(job, line.id, (own) => ({ ...own, cable })));
  if (!line.cable)
    return (
      <Panel title="Cable" aside="no cable is planned for this line yet">
        <Button variant="contained" onClick={() => put(firstCable(station?.name ?? 'drive'))}>
          Begin with a two-wire cable
        </Button>
      </Panel>
    );
  return <CableEditor cable={line.cable} put={put} />;
}

interface EditorProps {
  readonly cable: Cable;
  readonly put: (cable: Cable) => void;
}

function CableEditor({ cable, put }: EditorProps) {
  const { line } = useCurrent();
  const rate = line?.serial?.rate ?? null;
  const faults = checkCable(cable, rate);
  const bad = faults.filter(({ weight }) => weight === 'fault').length;
  const [a, b] = cable.ends;
  const save = (): void =>
    saveFile(
      new Blob([wireListCsv(cable)], { type: 'text/csv' }),
      fileName(`${line?.name ?? 'cable'} wire list`, 'csv'),
    );
  return (
    <div className={styles.stack}>
      <Panel
        title={`${a.name} to ${b.name}`}
        aside={
          <span data-testid="cable-verdict">
            {faults.length === 0
              ? '✓ this cable can be made'
              : `${bad === 0 ? '' : `✗ ${bad} wrong`}${bad > 0 && faults.length > bad ? ', ' : ''}${faults.length > bad ? `! ${faults.length - bad} to think about` : ''}`}
          </span>
        }
        tools={
          <>
            <Button variant="text" color="inherit" onClick={save}>
              Wire list as CSV
            </Button>
            <Button variant="text" color="inherit" onClick={() => window.print()}>
              Print
            </Button>
          </>
        }
      >
        <div className={styles.columns}>
          <CablePicture cable={cable} faults={faults} />
          <div>
            {faults.length === 0 && <p className={styles.good}>Every needed signal meets its partner.</p>}
            <ul className={styles.steps} data-testid="cable-faults">
              {faults.map(({ core, weight, text }) => (
                <li key={`${core} ${text}`}>
                  <span className={weight === 'fault' ? styles.bad : styles.warn}>
                    {weight === 'fault' ? '✗' : '!'}
                  </span>
                  <span>
                    {core >= 0 && <strong>core {core + 1}: </strong>}
                    {text}
                  </span>
                </li>
              ))}
            </ul>
            <LineFacts cable={cable} put={put} rate={rate} />
          </div>
        </div>
      </Panel>
      <Cores cable={cable} put={put} />
      <div
        className={`${styles.columns} ${styles.noPrint}`}
        style={{ gridTemplateColumns: 'minmax(0,1fr) minmax(0,1fr)' }}
      >
        <EndForm cable={cable} put={put} side={0} />
        <EndForm cable={cable} put={put} side={1} />
      </div>
    </div>
  );
}

const pinOptions = ({ connector, pinout }: CableEnd): readonly (readonly [string, string])[] => [
  ['', '–'],
  ...(connectorOf(connector)?.pins ?? []).map(
    (pin) => [pin, pinout[pin] ? `${pin} ${SIGNAL_TEXT[pinout[pin]]}` : pin] as const,
  ),
];

function Cores({ cable, put }: EditorProps) {
  const change = (at: number, part: Partial<Cable['cores'][number]>): void =>
    put({ ...cable, cores: cable.cores.map((core, i) => (i === at ? { ...core, ...part } : core)) });
  return (
    <Panel
      title="Cores"
      tools={
        <>
          <Button
            variant="text"
            color="inherit"
            onClick={() => put({ ...cable, cores: [...cable.cores, { from: '', to: '' }] })}
          >
            Add a core
          </Button>
          <Button
            variant="text"
            color="inherit"
            onClick={() => put({ ...cable, cores: rightCores(cable.medium, cable.ends) })}
          >
            Wire it right
          </Button>
        </>
      }
    >
      <div className={styles.stack} style={{ gap: 10 }}>
        {cable.cores.map((core, i) => (
          <div key={i} className={styles.row}>
            <ChoiceField
              label={`core ${i + 1}, ${cable.ends[0].name}`}
              value={core.from}
              width={170}
              options={pinOptions(cable.ends[0])}
              onChange={(from) => change(i, { from })}
            />
            <ChoiceField
              label={`core ${i + 1}, ${cable.ends[1].name}`}
              value={core.to}
              width={170}
              options={pinOptions(cable.ends[1])}
              onChange={(to) => change(i, { to })}
            />
            <TypedField
              label="colour"
              value={core.colour ?? ''}
              placeholder={colourOf(cable.ends, core)}
              width={130}
              onChange={(colour) =>
                put({
                  ...cable,
                  cores: cable.cores.map((own, k) =>
                    k === i ? { from: own.from, to: own.to, ...(colour === '' ? {} : { colour }) } : own,
                  ),
                })
              }
            />
            <Button
              variant="text"
              color="inherit"
              onClick={() => put({ ...cable, cores: cable.cores.filter((_, k) => k !== i) })}
            >
              Remove
            </Button>
          </div>
        ))}
      </div>
    </Panel>
  );
}

function EndForm({ cable, put, side }: EditorProps & { readonly side: 0 | 1 }) {
  const end = cable.ends[side];
  const setEnd = (next: CableEnd): void =>
    put({ ...cable, ends: side === 0 ? [next, cable.ends[1]] : [cable.ends[0], next] });
  const kind = connectorOf(end.connector);
  return (
    <Panel title={`Connector at ${end.name}`}>
      <div className={styles.row}>
        <NameField label="device" value={end.name} width={140} onName={(name) => setEnd({ ...end, name })} />
        <ChoiceField
          label="connector"
          value={end.connector}
          width={210}
          options={CONNECTORS.map(({ id, name }) => [id, name] as const)}
          onChange={(connector) => setEnd({ ...end, connector, pinout: {} })}
        />
        <ChoiceField
          label="usual assignment"
          value=""
          width={220}
          options={[['', 'choose …'] as const, ...END_PRESETS.map(({ id, name }) => [id, name] as const)]}
          onChange={(id) => {
            const preset = END_PRESETS.find((candidate) => candidate.id === id);
            if (preset) setEnd({ name: end.name, connector: preset.connector, pinout: { ...preset.pinout } });
          }}
        />
      </div>
      <div className={styles.row} style={{ marginTop: 12 }}>
        {kind?.pins.map((pin) => (
          <ChoiceField
            key={pin}
            label={`pin ${pin}`}
            value={end.pinout[pin] ?? ''}
            width={128}
            options={[['', 'not used'] as const, ...SIGNALS.map((signal) => [signal, SIGNAL_TEXT[signal]] as const)]}
            onChange={(signal) => {
              const others = Object.fromEntries(Object.entries(end.pinout).filter(([other]) => other !== pin));
              setEnd({ ...end, pinout: signal === '' ? others : { ...others, [pin]: signal as Signal } });
            }}
          />
        ))}
      </div>
    </Panel>
  );
}

/** A number of the line, with the sentence at its field while it is none. */
function NumberField({
  label,
  value,
  most,
  put,
  whole = false,
}: {
  readonly label: string;
  readonly value: number;
  readonly most: number;
  readonly put: (value: number) => void;
  readonly whole?: boolean;
}) {
  const { line } = useCurrent();
  const [text, setText] = useTyped('cable', line?.id ?? '', label, `${value}`);
  const parsed = (whole ? /^\s*\d+\s*$/ : /^\s*\d+(?:\.\d+)?\s*$/).test(text) ? Number(text) : NaN;
  const fits = parsed >= 0 && parsed <= most;
  return (
    <TypedField
      label={label}
      value={text}
      width={140}
      error={fits ? '' : `“${text.trim()}”: 0 to ${most}`}
      onChange={(next) => {
        setText(next);
        const number = (whole ? /^\s*\d+\s*$/ : /^\s*\d+(?:\.\d+)?\s*$/).test(next) ? Number(next) : NaN;
        if (number >= 0 && number <= most) put(number);
      }}
    />
  );
}

function LineFacts({ cable, put, rate }: EditorProps & { readonly rate: number | null }) {
  const { terminators } = cable;
  const serial = cable.medium !== 'rs232';
  return (
    <div className={styles.noPrint}>
      <h3 className={styles.part}>
        The line as a whole{' '}
        <span className={styles.soft}>
          {rate === null
            ? ''
            : `at ${rate} bit/s up to about ${Math.floor(longestM(cable.medium, rate))} m (common practice)`}
        </span>
      </h3>
      <div className={styles.row}>
        <ChoiceField
          label="kind"
          value={cable.medium}
          width={180}
          options={Object.entries(MEDIA)}
          onChange={(medium) => put({ ...cable, medium: medium as Cable['medium'] })}
        />
        <NumberField
          label="length, m"
          value={cable.lengthM}
          most={10_000}
          put={(lengthM) => put({ ...cable, lengthM })}
        />
        <NumberField
          label="devices"
          value={cable.devices}
          most={300}
          whole
          put={(devices) => devices >= 2 && put({ ...cable, devices })}
        />
        {serial && (
          <>
            <NumberField
              label="longest stub, m"
              value={cable.longestStubM}
              most={10_000}
              put={(longestStubM) => put({ ...cable, longestStubM })}
            />
            <NumberField
              label="biased at places"
              value={cable.biased}
              most={300}
              whole
              put={(biased) => put({ ...cable, biased })}
            />
            {(['near', 'far'] as const).map((end) => (
              <Button
                key={end}
                variant="outlined"
                color="inherit"
                aria-pressed={terminators[end]}
                onClick={() => put({ ...cable, terminators: { ...terminators, [end]: !terminators[end] } })}
              >
                {terminators[end] ? `Terminator at the ${end} end` : `No terminator at the ${end} end`}
              </Button>
            ))}
            <NumberField
              label="terminators between"
              value={terminators.between}
              most={300}
              whole
              put={(between) => put({ ...cable, terminators: { ...terminators, between } })}
            />
            <NumberField
              label="terminator, ohm"
              value={terminators.ohm}
              most={10_000}
              whole
              put={(ohm) => ohm >= 1 && put({ ...cable, terminators: { ...terminators, ohm } })}
            />
          </>
        )}
      </div>
    </div>
  );
}
