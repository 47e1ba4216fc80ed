'use client';

import { newestOf } from '../../core/sheet/shelf';
import { useBenchState } from '../../bench/bench-context';
import { logRecord, type LogMapping } from '../../core/capture/text-log';
import { bytesToHex } from '../../core/bytes/hex';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import styles from './frames.module.css';
import { gapIn, portsIn, type Setup } from './capture-choice';
import type { CaptureActions, CaptureState } from './capture-store';
import { useDialectOf } from './use-capture';

const FORMS = [
  ['binary', 'raw bytes'],
  ['packets', 'packet capture'],
  ['hex-dump', 'hex dump'],
  ['text-log', 'text log'],
] as const;
const PROTOCOLS = [
  ['modbus-rtu', 'Modbus RTU'],
  ['modbus-ascii', 'Modbus ASCII'],
  ['modbus-tcp', 'Modbus TCP'],
  ['uss', 'USS'],
  ['dialect', 'a dialect'],
] as const;
const COLUMNS = Array.from({ length: 9 }, (_, i) => [String(i), i === 0 ? 'none' : String(i)] as const);

/** How the file is read; a change reads it anew. */
export function CaptureSetup({ capture }: { readonly capture: CaptureState & CaptureActions }) {
  const { setup, setSetup, lines } = capture;
  const sheets = useBenchState((state) => state.sheets);
  const dialectOf = useDialectOf();
  const put = (change: Partial<Setup>): void => setSetup({ ...setup, ...change }, dialectOf);
  const map = (change: Partial<LogMapping>): void => put({ mapping: { ...setup.mapping, ...change } });
  const { mapping } = setup;
  const dialects = newestOf(sheets).filter(({ sheet }) => sheet.dialect);
  const sample =
    lines.find((line) => line.trim() !== '' && logRecord(line, mapping) !== null) ??
    lines.find((line) => line.trim() !== '');
  const record = sample === undefined ? null : logRecord(sample, mapping);
  return (
    <Panel title="How it is read" aside="a change reads the file anew">
      <div className={styles.compose}>
        <ChoiceField
          label="File"
          width={140}
          value={setup.form}
          onChange={(form) => put({ form: form as Setup['form'] })}
          options={FORMS}
        />
        <ChoiceField
          label={setup.form === 'packets' ? 'Serial bytes in it' : 'Protocol'}
          width={150}
          value={setup.protocol}
          onChange={(protocol) => put({ protocol: protocol as Setup['protocol'] })}
          options={PROTOCOLS}
        />
        {setup.protocol === 'dialect' && (
          <ChoiceField
            label="Sheet"
            width={140}
            value={setup.sheet}
            onChange={(sheet) => put({ sheet })}
            options={[['', 'choose'], ...dialects.map(({ sheet }) => [sheet.slug, sheet.name] as const)]}
          />
        )}
        {setup.form === 'packets' && (
          <TypedField
            label="TCP ports of Modbus"
            value={setup.ports}
            error={portsIn(setup.ports) ? '' : 'ports from 1 to 65535, with blanks between them'}
            onChange={(ports) => put({ ports })}
            width={150}
          />
        )}
        {(setup.form === 'packets' || setup.form === 'text-log') && (
          <TypedField
            label="Silence that ends, ms"
            value={setup.gapMs}
            error={gapIn(setup.gapMs) === null ? 'milliseconds, such as 4 or 0.75' : ''}
            onChange={(gapMs) => put({ gapMs })}
            width={150}
          />
        )}
        {setup.form === 'text-log' && (
          <>
            <ChoiceField
              label="Columns parted by"
              value={mapping.separator}
              onChange={(separator) => map({ separator: separator as LogMapping['separator'] })}
              options={[
                ['blanks', 'blanks'],
                ['tab', 'tab'],
                ['comma', 'comma'],
                ['semicolon', 'semicolon'],
              ]}
            />
            <ChoiceField
              label="Time in"
              width={90}
              value={String(mapping.timeColumn)}
              onChange={(column) => map({ timeColumn: Number(column) })}
              options={COLUMNS}
            />
            <ChoiceField
              label="Plain numbers are"
              width={130}
              value={mapping.timeUnit}
              onChange={(unit) => map({ timeUnit: unit as LogMapping['timeUnit'] })}
              options={[
                ['s', 'seconds'],
                ['ms', 'milliseconds'],
                ['us', 'microseconds'],
              ]}
            />
            <ChoiceField
              label="Who in"
              width={90}
              value={String(mapping.directionColumn)}
              onChange={(column) => map({ directionColumn: Number(column) })}
              options={COLUMNS}
            />
            <TypedField
              label="Request is"
              width={100}
              value={mapping.requestMark}
              onChange={(requestMark) => map({ requestMark })}
            />
            <ChoiceField
              label="Bytes from"
              width={90}
              value={String(mapping.bytesColumn)}
              onChange={(column) => map({ bytesColumn: Math.max(1, Number(column)) })}
              options={COLUMNS}
            />
          </>
        )}
      </div>
      {setup.form === 'text-log' && sample !== undefined && (
        <p className={styles.soft}>
          <code>{sample.slice(0, 100)}</code> is read as{' '}
          {record
            ? `${Number.isNaN(record.timeUs) ? 'no time' : `${(record.timeUs / 1e6).toFixed(6)} s`}, ${record.direction ?? 'nobody named'}, ${bytesToHex(record.bytes, ' ').toUpperCase()}`
            : 'no bytes'}
        </p>
      )}
    </Panel>
  );
}
