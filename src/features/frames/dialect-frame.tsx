'use client';

import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { CHECKSUM_NAMES, type ChecksumName } from '../../core/checksum/catalogue';
import type { CheckRule, Dialect } from '../../core/dialect/dialect';
import { ACCESSES } from '../../core/dialect/roles';
import { ACCESS_NAMES } from '../../core/dialect/read';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import styles from './frames.module.css';
import { NumberEntry, OptionalNumberEntry } from './number-entry';

interface DialectFrameProps {
  readonly dialect: Dialect;
  readonly onChange: (change: Partial<Dialect>) => void;
}

const FIRST_CHECK: CheckRule = { algorithm: 'XOR-8', from: 'open', form: 'hex' };
const BASES = [
  ['decimal', 'decimal'],
  ['hex', 'hex'],
] as const;

export function Tick({
  label,
  on,
  onChange,
}: {
  readonly label: string;
  readonly on: boolean;
  readonly onChange: (on: boolean) => void;
}) {
  return (
    <FormControlLabel
      control={<Checkbox size="small" checked={on} onChange={(event) => onChange(event.target.checked)} />}
      label={label}
      slotProps={{ typography: { sx: { fontSize: 14 } } }}
    />
  );
}

/** What frames every line: opening, station, marks, check, closing, and the forms of a reply. */
export function DialectFrame({ dialect, onChange }: DialectFrameProps) {
  const { station, check, marks, reply } = dialect;
  return (
    <>
      <Panel title="How lines are framed" aside="control characters by name: <STX> <ETX> <CR> <LF> <ACK> <NAK> <ENQ>">
        <div className={styles.compose}>
          <TypedField label="Name" width={180} value={dialect.name} onChange={(name) => onChange({ name })} />
          <TypedField label="Opening" value={dialect.open} onChange={(open) => onChange({ open })} />
          <TypedField label="Closing" value={dialect.close} onChange={(close) => onChange({ close })} />
          <TypedField
            label="Between values"
            width={110}
            value={dialect.separator}
            onChange={(separator) => onChange({ separator })}
          />
          <Tick
            label="letters large or small"
            on={dialect.anyCase === true}
            onChange={(anyCase) => onChange({ anyCase })}
          />
          <Tick label="the drive echoes" on={dialect.echo === true} onChange={(echo) => onChange({ echo })} />
        </div>
        <div className={styles.compose}>
          <Tick
            label="station before the command"
            on={station !== undefined}
            onChange={(on) =>
              onChange({ station: on ? { base: 'decimal', width: 2, min: 0, max: 99, after: '' } : undefined })
            }
          />
          {station && (
            <>
              <ChoiceField
                label="Written"
                width={100}
                value={station.base}
                onChange={(base) => onChange({ station: { ...station, base: base as 'hex' } })}
                options={BASES}
              />
              <NumberEntry
                label="Digits"
                width={70}
                value={station.width}
                onChange={(width) => onChange({ station: { ...station, width } })}
              />
              <NumberEntry
                label="From"
                width={70}
                value={station.min}
                onChange={(min) => onChange({ station: { ...station, min } })}
              />
              <NumberEntry
                label="To"
                width={70}
                value={station.max}
                onChange={(max) => onChange({ station: { ...station, max } })}
              />
              <TypedField
                label="Behind it"
                width={90}
                value={station.after}
                onChange={(after) => onChange({ station: { ...station, after } })}
              />
            </>
          )}
          {ACCESSES.map((access) => (
            <span key={access} className={styles.mark}>
              <Tick
                label={ACCESS_NAMES[access]}
                on={marks[access] !== undefined}
                onChange={(on) => onChange({ marks: { ...marks, [access]: on ? '' : undefined } })}
              />
              {marks[access] !== undefined && (
                <TypedField
                  label="mark"
                  width={80}
                  value={marks[access] ?? ''}
                  onChange={(mark) => onChange({ marks: { ...marks, [access]: mark } })}
                />
              )}
            </span>
          ))}
        </div>
        <div className={styles.compose}>
          <ChoiceField
            label="Check"
            width={190}
            value={check?.algorithm ?? ''}
            onChange={(name) =>
              onChange({
                check: name === '' ? undefined : { ...(check ?? FIRST_CHECK), algorithm: name as ChecksumName },
              })
            }
            options={[['', 'none'], ...CHECKSUM_NAMES.map((name) => [name, name] as const)]}
          />
          {check && (
            <>
              <ChoiceField
                label="Over what stands"
                width={170}
                value={check.from}
                onChange={(from) => onChange({ check: { ...check, from: from as CheckRule['from'] } })}
                options={[
                  ['open', 'from the opening on'],
                  ['after-open', 'behind the opening'],
                  ['after-station', 'behind the station'],
                ]}
              />
              <ChoiceField
                label="Written as"
                width={110}
                value={check.form}
                onChange={(form) => onChange({ check: { ...check, form: form as CheckRule['form'] } })}
                options={[
                  ['hex', 'hex digits'],
                  ['decimal', 'decimal'],
                  ['binary', 'bytes'],
                ]}
              />
              <TypedField
                label="Before it"
                width={90}
                value={check.lead ?? ''}
                onChange={(lead) => onChange({ check: { ...check, lead } })}
              />
              <Tick
                label="behind the closing"
                on={check.afterClose === true}
                onChange={(afterClose) => onChange({ check: { ...check, afterClose } })}
              />
            </>
          )}
        </div>
        <div className={styles.compose}>
          <TypedField
            label="Reply: good"
            width={110}
            value={reply.good}
            onChange={(good) => onChange({ reply: { ...reply, good } })}
          />
          <TypedField
            label="Reply: refused"
            width={120}
            value={reply.error.mark}
            onChange={(mark) => onChange({ reply: { ...reply, error: { ...reply.error, mark } } })}
          />
          <ChoiceField
            label="Its number"
            width={100}
            value={reply.error.base}
            onChange={(base) => onChange({ reply: { ...reply, error: { ...reply.error, base: base as 'hex' } } })}
            options={BASES}
          />
          <OptionalNumberEntry
            label="Digits"
            width={70}
            value={reply.error.width}
            onChange={(width) =>
              onChange({
                reply: {
                  ...reply,
                  error: { mark: reply.error.mark, base: reply.error.base, ...(width === undefined ? {} : { width }) },
                },
              })
            }
          />
          <TypedField
            label="Before a value"
            width={120}
            value={reply.mark}
            onChange={(mark) => onChange({ reply: { ...reply, mark } })}
          />
          <Tick
            label="repeats the station"
            on={reply.station === true}
            onChange={(on) => onChange({ reply: { ...reply, station: on } })}
          />
          <Tick
            label="repeats the verb"
            on={reply.verb === true}
            onChange={(on) => onChange({ reply: { ...reply, verb: on } })}
          />
          <Tick
            label="good and refused stand alone"
            on={reply.bareMarks === true}
            onChange={(on) => onChange({ reply: { ...reply, bareMarks: on } })}
          />
        </div>
      </Panel>
    </>
  );
}
