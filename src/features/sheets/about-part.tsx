'use client';

import { wholeIn } from '../../core/bytes/whole';
import { TABLE_NAMES, type ModbusTable } from '../../core/registers/tables';
import { withoutProofsByRule } from '../../core/sheet/drop-proofs';
import type { Sheet } from '../../core/sheet/sheet';
import { ChoiceField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { PartField } from '../../ui/part-field';
import { editSheet, merged } from './sheet-drafts';
import styles from './sheets.module.css';

const put = (change: Partial<Record<keyof Sheet, unknown>>): void => editSheet((sheet) => merged(sheet, change));

const PROTOCOLS = [
  ['', 'not said'],
  ['modbus-rtu', 'Modbus RTU'],
  ['modbus-ascii', 'Modbus ASCII'],
  ['modbus-tcp', 'Modbus TCP'],
  ['uss', 'USS'],
  ['ascii', 'command lines of its own'],
] as const;
const PARITIES = [
  ['N', 'none'],
  ['E', 'even'],
  ['O', 'odd'],
] as const;

/** What the sheet is called, how the drive speaks when it leaves the factory, and how numbers become addresses. */
export function AboutPart({ sheet }: { readonly sheet: Sheet }) {
  return (
    <div className={styles.stack}>
      <Panel title="What it is">
        <div className={styles.row}>
          <PartField label="Name" width={240} value={sheet.name} read={(name) => ({ name })} onValue={put} />
          <PartField
            label="In a line"
            width={520}
            value={sheet.summary}
            read={(summary) => ({ summary })}
            onValue={put}
          />
        </div>
      </Panel>
      <LinkPanel sheet={sheet} />
      <AddressPanel sheet={sheet} />
      <UssPanel sheet={sheet} />
    </div>
  );
}

function LinkPanel({ sheet }: { readonly sheet: Sheet }) {
  const { link } = sheet;
  const putLink = (change: Partial<Record<keyof NonNullable<Sheet['link']>, unknown>>): void => {
    if (link) put({ link: merged(link, change) });
  };
  const serial = link?.serial;
  const putSerial = (change: object): void => putLink({ serial: { ...serial, ...change } });
  return (
    <Panel title="The link as it leaves the factory" aside="what nobody says stays unknown">
      <div className={styles.row}>
        <ChoiceField
          label="It speaks"
          width={220}
          value={link?.protocol ?? ''}
          onChange={(protocol) =>
            put({
              link:
                protocol === ''
                  ? undefined
                  : {
                      station: 1,
                      replyWithinMs: 200,
                      ...(protocol === 'modbus-tcp'
                        ? {}
                        : { serial: { rate: 9600, dataBits: 8, parity: 'E', stopBits: 1 } }),
                      ...link,
                      protocol,
                    },
            })
          }
          options={PROTOCOLS}
        />
        {link && (
          <>
            <NumberField
              label="Station"
              width={90}
              value={link.station}
              range={[0, 247]}
              onNumber={(station) => putLink({ station })}
            />
            <NumberField
              label="Answers within, ms"
              width={150}
              value={link.replyWithinMs}
              range={[1, 60_000]}
              onNumber={(replyWithinMs) => putLink({ replyWithinMs })}
            />
            <NumberField
              label="Start takes, ms"
              width={130}
              value={link.bootMs}
              range={[0, 600_000]}
              onNumber={(bootMs) => putLink({ bootMs })}
            />
          </>
        )}
        {serial && (
          <>
            <NumberField
              label="Bit rate"
              width={110}
              value={serial.rate}
              range={[50, 4_000_000]}
              onNumber={(rate) => putSerial({ rate })}
            />
            <ChoiceField
              label="Parity"
              width={90}
              value={serial.parity}
              onChange={(parity) => putSerial({ parity })}
              options={PARITIES}
            />
            <ChoiceField
              label="Stop bits"
              width={90}
              value={`${serial.stopBits}`}
              onChange={(bits) => putSerial({ stopBits: Number(bits) })}
              options={[
                ['1', '1'],
                ['2', '2'],
              ]}
            />
          </>
        )}
      </div>
    </Panel>
  );
}

const TABLES = Object.entries(TABLE_NAMES).map(([id, name]) => [id, `${name}s`] as const);

function AddressPanel({ sheet }: { readonly sheet: Sheet }) {
  const rule = sheet.addressRule;
  const setRule = (addressRule: object | undefined): void =>
    editSheet((now) => withoutProofsByRule(merged(now, { addressRule })));
  const putRule = (change: object): void => setRule({ ...rule, ...change });
  return (
    <Panel title="From a number to an address" aside="for entries that give no address of their own">
      <div className={styles.row}>
        <ChoiceField
          label="Rule"
          width={260}
          value={rule?.kind ?? ''}
          onChange={(kind) =>
            setRule(
              kind === ''
                ? undefined
                : kind === 'number'
                  ? { kind, offset: rule?.offset ?? 0 }
                  : { kind, factor: 100, offset: rule?.offset ?? 0 },
            )
          }
          options={[
            ['', 'none: each entry has its own'],
            ['number', 'number + offset'],
            ['group-index', 'group × factor + index + offset'],
          ]}
        />
        {rule?.kind === 'group-index' && (
          <NumberField
            label="Factor"
            width={100}
            value={rule.factor}
            range={[1, 4096]}
            onNumber={(factor) => putRule({ factor })}
          />
        )}
        {rule && (
          <>
            <NumberField
              label="Offset"
              width={110}
              value={rule.offset}
              range={[-65_535, 65_535]}
              onNumber={(offset) => putRule({ offset })}
            />
            <ChoiceField
              label="Table"
              width={180}
              value={rule.table ?? 'holding-register'}
              onChange={(table) => putRule({ table: table as ModbusTable })}
              options={TABLES}
            />
          </>
        )}
      </div>
    </Panel>
  );
}

function UssPanel({ sheet }: { readonly sheet: Sheet }) {
  const { uss } = sheet;
  const putUss = (change: object): void => put({ uss: { ...uss, ...change } });
  return (
    <Panel title="USS" aside="for drives that speak it">
      <div className={styles.row}>
        <ChoiceField
          label="Parameter channel"
          width={190}
          value={uss ? `${uss.pkwWords}` : ''}
          onChange={(words) =>
            put({
              uss:
                words === ''
                  ? undefined
                  : { pzdWords: 2, indexHalf: 'high', pages: [], ...uss, pkwWords: Number(words) },
            })
          }
          options={[
            ['', 'it speaks no USS'],
            ['3', '3 words'],
            ['4', '4 words'],
          ]}
        />
        {uss && (
          <>
            <NumberField
              label="Process data, words"
              width={160}
              value={uss.pzdWords}
              range={[0, 16]}
              onNumber={(pzdWords) => putUss({ pzdWords })}
            />
            <ChoiceField
              label="Index in IND"
              width={150}
              value={uss.indexHalf}
              onChange={(indexHalf) => putUss({ indexHalf })}
              options={[
                ['high', 'high byte'],
                ['low', 'low byte'],
              ]}
            />
          </>
        )}
      </div>
    </Panel>
  );
}

interface NumberFieldProps {
  readonly label: string;
  readonly width: number;
  readonly value: number | undefined;
  readonly range: readonly [number, number];
  /** Nothing is no value here: while the field is empty, what is kept stays. */
  readonly isNeeded?: boolean;
  readonly onNumber: (value: number | undefined) => void;
}

/** A whole number, or nothing. */
export function NumberField({ label, width, value, range, isNeeded = false, onNumber }: NumberFieldProps) {
  return (
    <PartField
      label={label}
      width={width}
      value={value === undefined ? '' : `${value}`}
      read={(text) => {
        if (text.trim() === '' && !isNeeded) return { value: undefined };
        const number = wholeIn(text);
        return number === null || number < range[0] || number > range[1]
          ? `${range[0]} to ${range[1]}`
          : { value: number };
      }}
      onValue={({ value: number }) => onNumber(number)}
    />
  );
}
