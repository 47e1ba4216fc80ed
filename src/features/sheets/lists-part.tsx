'use client';

import { wholeIn } from '../../core/bytes/whole';
import { CONDITION_KINDS } from '../../core/sheet/condition-section';
import type { Sheet } from '../../core/sheet/sheet';
import { ROUNDINGS, ROUNDING_TEXT } from '../../core/scaling/rounding';
import { parseRational } from '../../core/scaling/rational';
import { Panel } from '../../ui/panel';
import { NumberField } from './about-part';
import { AxisPanel } from './axis-panel';
import { PartField } from '../../ui/part-field';
import { choiceColumn, numberColumn, RowsEditor, textColumn, type RowColumn } from '../../ui/rows-editor';
import { editSheet, merged } from './sheet-drafts';
import styles from './sheets.module.css';

type Fault = NonNullable<Sheet['faults']>[number];
type Scaling = NonNullable<Sheet['scalings']>[number];
type Condition = NonNullable<Sheet['conditions']>[number];
type Step = NonNullable<Sheet['keypad']>['steps'][number];

const put = (change: Partial<Record<keyof Sheet, unknown>>): void => editSheet((sheet) => merged(sheet, change));
const orNone = <Row,>(rows: readonly Row[]): readonly Row[] | undefined => (rows.length === 0 ? undefined : rows);

/** The other lists of a sheet: scalings, the axis, faults, refusals, what must be so, and what is set at the keypad. */
export function ListsPart({ sheet }: { readonly sheet: Sheet }) {
  return (
    <div className={styles.stack}>
      <ScalingsPanel sheet={sheet} />
      <AxisPanel sheet={sheet} />
      <FaultsPanel sheet={sheet} />
      <ConditionsPanel sheet={sheet} />
      <KeypadPanel sheet={sheet} />
    </div>
  );
}

/** The one step by which most references are scaled; chains of more steps are changed in Scaling. */
const fullScale = ({ chain }: Scaling): { readonly value: string; readonly raw: string } | null => {
  const [step] = chain.steps;
  return chain.steps.length === 1 && step?.kind === 'full-scale' ? step : null;
};

const exactColumn = (label: string, field: 'value' | 'raw'): RowColumn<Scaling> => ({
  label,
  width: 110,
  show: (row) => fullScale(row)?.[field] ?? 'see Scaling',
  take: (row, text) => {
    const step = fullScale(row);
    const number = parseRational(text);
    if (!step) return 'a chain of several steps is changed in Scaling';
    if (!number.ok || number.value.num <= 0n || !/^\d+(?:\.\d+)?(?:\/\d+)?$/.test(text.trim()))
      return 'a number above 0';
    return { ...row, chain: { ...row.chain, steps: [{ kind: 'full-scale', ...step, [field]: text.trim() }] } };
  },
});

function ScalingsPanel({ sheet }: { readonly sheet: Sheet }) {
  const rows = sheet.scalings ?? [];
  const putChain = (row: Scaling, change: object): Scaling => ({ ...row, chain: { ...row.chain, ...change } });
  return (
    <Panel title="Scalings" aside="so many units are so many counts; an entry names the one that it goes by">
      <RowsEditor<Scaling>
        label="Scalings"
        noun="scaling"
        rows={rows}
        most={60}
        fresh={() => ({
          id: `scale-${rows.length + 1}`,
          name: `scaling ${rows.length + 1}`,
          chain: {
            unit: 'Hz',
            steps: [{ kind: 'full-scale', value: '50', raw: '16384' }],
            rounding: 'nearestHalfUp',
            word: { bits: 16, signed: true },
          },
        })}
        onRows={(scalings) => put({ scalings: orNone(scalings) })}
        columns={[
          textColumn(
            'name',
            160,
            ({ name }) => name,
            (row, name) => ({ ...row, name }),
          ),
          exactColumn('so much', 'value'),
          textColumn(
            'unit',
            80,
            ({ chain }) => chain.unit,
            (row, unit) => putChain(row, { unit }),
          ),
          exactColumn('is so many counts', 'raw'),
          choiceColumn(
            'rounded',
            190,
            ROUNDINGS.map((rounding) => [rounding, ROUNDING_TEXT[rounding]] as const),
            ({ chain }) => chain.rounding,
            (row, rounding) => putChain(row, { rounding }),
          ),
          choiceColumn(
            'word',
            160,
            [
              ['16 signed', '16 bits with a sign'],
              ['16', '16 bits'],
              ['32 signed', '32 bits with a sign'],
              ['32', '32 bits'],
            ],
            ({ chain }) => `${chain.word.bits}${chain.word.signed ? ' signed' : ''}`,
            (row, word) =>
              putChain(row, {
                word: { ...row.chain.word, bits: word.startsWith('32') ? 32 : 16, signed: word.endsWith('signed') },
              }),
          ),
        ]}
      />
    </Panel>
  );
}

function FaultsPanel({ sheet }: { readonly sheet: Sheet }) {
  const { refusals } = sheet;
  const putRefusal = (change: object): void =>
    put({ refusals: { readOnly: 2, limit: 3, state: 4, ...refusals, ...change } });
  return (
    <Panel title="Faults and refusals" aside="codes as the drive gives them">
      <RowsEditor<Fault>
        label="Faults"
        noun="fault"
        rows={sheet.faults ?? []}
        most={2000}
        fresh={() => ({
          code: (sheet.faults?.length ?? 0) + 1,
          name: 'new fault',
          cause: 'not said',
          remedy: 'not said',
        })}
        onRows={(faults) => put({ faults: orNone(faults) })}
        columns={[
          numberColumn(
            'code',
            80,
            wholeIn,
            [0, 65_535],
            ({ code }) => `${code}`,
            (row, code) => ({ ...row, code }),
          ),
          textColumn(
            'name',
            180,
            ({ name }) => name,
            (row, name) => ({ ...row, name }),
          ),
          textColumn(
            'cause',
            240,
            ({ cause }) => cause,
            (row, cause) => ({ ...row, cause }),
          ),
          textColumn(
            'what helps',
            240,
            ({ remedy }) => remedy,
            (row, remedy) => ({ ...row, remedy }),
          ),
          choiceColumn(
            'it is',
            140,
            [
              ['', 'a fault'],
              ['watchdog', 'the lost link'],
              ['following-error', 'a shaft that does not follow'],
            ],
            ({ role }) => role ?? '',
            (row, role) => merged(row, { role: role === '' ? undefined : role }),
          ),
        ]}
      />
      <div className={`${styles.row} ${styles.under}`}>
        <NumberField
          label="Refused: read only"
          width={160}
          value={refusals?.readOnly}
          range={[1, 255]}
          isNeeded={refusals !== undefined}
          onNumber={(readOnly) => putRefusal({ readOnly: readOnly ?? 2 })}
        />
        <NumberField
          label="Refused: limit"
          width={160}
          value={refusals?.limit}
          range={[1, 255]}
          isNeeded={refusals !== undefined}
          onNumber={(limit) => putRefusal({ limit: limit ?? 3 })}
        />
        <NumberField
          label="Refused: state"
          width={160}
          value={refusals?.state}
          range={[1, 255]}
          isNeeded={refusals !== undefined}
          onNumber={(state) => putRefusal({ state: state ?? 4 })}
        />
      </div>
    </Panel>
  );
}

/** `status bit 3 is 1`, `entry 2.01 is 2 or 3`. */
const lookText = ({ look }: Condition): string =>
  look.at === 'parameter'
    ? `entry ${look.number} is ${look.is.join(' or ')}`
    : `${look.at === 'status-bit' ? 'status' : 'control'} bit ${look.bit} is ${look.is}`;

function lookIn(text: string): Condition['look'] | null {
  const [, word, bit, level] = /^(status|control) bit (\d{1,2}) is ([01])$/i.exec(text.trim()) ?? [];
  if (word !== undefined && bit !== undefined && Number(bit) <= 31)
    return {
      at: word.toLowerCase() === 'status' ? 'status-bit' : 'control-bit',
      bit: Number(bit),
      is: level === '1' ? 1 : 0,
    };
  const [, number, values] = /^entry (\S+) is (-?\d+(?:(?: or |, ?)-?\d+)*)$/i.exec(text.trim()) ?? [];
  return number !== undefined && values !== undefined
    ? { at: 'parameter', number, is: values.split(/ or |, ?/).map(Number) }
    : null;
}

function ConditionsPanel({ sheet }: { readonly sheet: Sheet }) {
  const rows = sheet.conditions ?? [];
  return (
    <Panel title="What must be so before the shaft turns" aside="beyond what any drive needs">
      <RowsEditor<Condition>
        label="Conditions"
        noun="condition"
        rows={rows}
        most={100}
        fresh={() => ({
          id: `condition-${rows.length + 1}`,
          kind: 'live-condition',
          title: 'it is so',
          look: { at: 'status-bit', bit: 0, is: 1 },
          advice: 'not said',
          blocks: true,
        })}
        onRows={(conditions) => put({ conditions: orNone(conditions) })}
        columns={[
          textColumn(
            'it must be so that',
            220,
            ({ title }) => title,
            (row, title) => ({ ...row, title }),
          ),
          choiceColumn(
            'kind',
            140,
            CONDITION_KINDS.map((kind) => [kind, kind.replaceAll('-', ' ')] as const),
            ({ kind }) => kind,
            (row, kind) => ({ ...row, kind: kind as Condition['kind'] }),
          ),
          {
            label: 'seen by',
            width: 190,
            show: lookText,
            take: (row, text) => {
              const look = lookIn(text);
              return look ? { ...row, look } : 'such as “status bit 3 is 1” or “entry 2.01 is 2 or 3”';
            },
          },
          textColumn(
            'else',
            240,
            ({ advice }) => advice,
            (row, advice) => ({ ...row, advice }),
          ),
          choiceColumn(
            'without it',
            170,
            [
              ['yes', 'it does not turn'],
              ['no', 'it turns, not as asked'],
            ],
            ({ blocks }) => (blocks ? 'yes' : 'no'),
            (row, yes) => ({ ...row, blocks: yes === 'yes' }),
          ),
        ]}
      />
    </Panel>
  );
}

const WANTS = [
  ['', 'nothing to verify'],
  ['station', 'the station'],
  ['bit-rate', 'the bit rate'],
  ['character-form', 'data, parity and stop bits'],
] as const;

function KeypadPanel({ sheet }: { readonly sheet: Sheet }) {
  const { keypad } = sheet;
  const steps = keypad?.steps ?? [];
  const putKeypad = (change: object): void => put({ keypad: { confirm: 'not said', steps: [], ...keypad, ...change } });
  return (
    <Panel title="At the keypad" aside="what must be set before the link works, in this order">
      <div className={styles.under} />
      <PartField
        label="How a value is confirmed there"
        width={420}
        value={keypad?.confirm ?? ''}
        read={(confirm) => (confirm.trim() === '' ? 'say how' : { confirm })}
        onValue={putKeypad}
      />
      <RowsEditor<Step>
        label="Steps at the keypad"
        noun="step"
        rows={steps}
        most={40}
        fresh={() => ({ path: 'path as the manual prints it', what: 'what is set' })}
        onRows={(next) => (next.length === 0 ? put({ keypad: undefined }) : putKeypad({ steps: next }))}
        columns={[
          textColumn(
            'path',
            180,
            ({ path }) => path,
            (row, path) => ({ ...row, path }),
          ),
          textColumn(
            'what',
            220,
            ({ what }) => what,
            (row, what) => ({ ...row, what }),
          ),
          textColumn(
            'entry',
            90,
            ({ parameter }) => parameter,
            (row, parameter) => merged(row, { parameter: parameter === '' ? undefined : parameter }),
            false,
          ),
          {
            label: 'wanted',
            width: 190,
            options: [...WANTS, ['raw', 'a fixed number']],
            show: ({ want }) => want?.kind ?? '',
            take: (row, kind) =>
              merged(row, { want: kind === '' ? undefined : kind === 'raw' ? { kind, raw: 0 } : { kind } }),
          },
          {
            label: 'number',
            width: 80,
            show: ({ want }) => (want?.kind === 'raw' ? `${want.raw}` : ''),
            take: (row, text) => {
              const raw = wholeIn(text);
              return row.want?.kind !== 'raw'
                ? 'for a fixed number only'
                : raw === null || raw < 0 || raw > 0xffff
                  ? '0 to 65535'
                  : { ...row, want: { kind: 'raw', raw } };
            },
          },
          textColumn(
            'note',
            200,
            ({ note }) => note,
            (row, note) => merged(row, { note: note === '' ? undefined : note }),
            false,
          ),
        ]}
      />
    </Panel>
  );
}
