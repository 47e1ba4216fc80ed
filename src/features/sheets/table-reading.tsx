'use client';

import { startTransition, useEffect, useState } from 'react';
import { askFileWorker } from '../../bench/workers/ask-file-worker';
import { counted } from '../../core/counted';
import { wholeIn } from '../../core/bytes/whole';
import { TABLE_NAMES, type ModbusTable } from '../../core/registers/tables';
import { notationsOf } from '../../core/registers/notation';
import { takenInto, type Reach } from '../../core/sheet/adopt-described';
import type { Sheet } from '../../core/sheet/sheet';
import type { Source } from '../../core/sheet/source';
import { COLUMN_ROLES, type ColumnRole } from '../../core/tables/columns';
import type { TableSettings } from '../../core/tables/read-table';
import type { AdoptedTable } from '../../messages/file';
import { ActButton } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { FoundTable } from './found-table';
import { editSheet, setEntry, setPart, setTyped, useTypedText } from './sheet-drafts';
import styles from './sheets.module.css';

/** Waits so long for the next letter before the text is read anew. */
const PAUSE_MS = 200;

const PARTINGS = [
  ['', 'found by itself'],
  ['tab', 'tabs'],
  ['aligned', 'aligned blanks'],
  ['bar', 'bars'],
  ['semicolon', 'semicolons'],
  ['comma', 'commas'],
] as const;

const REACHES = [
  ...(Object.entries(TABLE_NAMES) as [ModbusTable, string][]).map(
    ([table, name]) => [table, `addresses of ${name}s`] as const,
  ),
  ['uss', 'numbers of USS parameters'],
  ['rule', 'numbers, by the sheet’s rule'],
] as const;

const reachOf = (id: string): Reach =>
  id === 'uss' || id === 'rule' ? { kind: id } : { kind: 'table', table: (id || 'holding-register') as ModbusTable };

/** What the user set by hand; the rest is recognised. */
function useSettings(): TableSettings {
  const [parting, mark, from, offset, roles] = [
    useTypedText('table parting'),
    useTypedText('table mark'),
    useTypedText('table from'),
    useTypedText('table offset'),
    useTypedText('table roles'),
  ];
  const added = wholeIn(offset);
  return {
    ...(parting === '' ? {} : { parting: parting as NonNullable<TableSettings['parting']> }),
    ...(mark === '.' || mark === ',' ? { mark } : {}),
    ...(from === '' ? {} : { countsFrom: from === '1' ? 1 : 0 }),
    ...(added === null ? {} : { offset: added }),
    ...(roles === '' ? {} : { roles: roles.split(' ') as ColumnRole[] }),
  };
}

interface Asked {
  readonly settings: TableSettings;
  readonly reach: Reach;
}

/** What is read from a text of rows, in the file worker; null while there is none. */
export function useTableReading(text: string): AdoptedTable | null {
  const [reading, setReading] = useState<AdoptedTable | null>(null);
  const asked = JSON.stringify({
    settings: useSettings(),
    reach: reachOf(useTypedText('table reach')),
  } satisfies Asked);
  useEffect(() => {
    if (text.trim() === '') return undefined;
    let isOver = false;
    const timer = setTimeout(() => {
      void askFileWorker({ kind: 'read-table', text, ...(JSON.parse(asked) as Asked) }).then((told) => {
        // Thousands of entries are unpacked in one task and drawn in others.
        if (!isOver && told.kind === 'table') startTransition(() => setReading(told.table));
      });
    }, PAUSE_MS);
    return () => {
      isOver = true;
      clearTimeout(timer);
    };
  }, [text, asked]);
  return text.trim() === '' ? null : reading;
}

interface ReadingProps {
  readonly sheet: Sheet;
  readonly reading: AdoptedTable;
  /** Where the entry of a line of the text is from. */
  readonly sourceOf: (line: number) => Source;
  /** What else is done when the entries are taken. */
  readonly onTaken: () => void;
}

/** What was read: the columns as they were taken, the entries, the lines that were not read. */
export function TableReadingPanels(props: ReadingProps) {
  return (
    <>
      <Columns reading={props.reading} />
      <Taken {...props} />
    </>
  );
}

/** How the text is read, where it is not recognised right. */
export function SettingsRow({ reading }: { readonly reading: AdoptedTable | null }) {
  const field = (key: string) => ({ onChange: (value: string) => setTyped(`table ${key}`, value) });
  return (
    <div className={styles.row}>
      <ChoiceField
        label="Its keys are"
        width={260}
        value={useTypedText('table reach') || 'holding-register'}
        {...field('reach')}
        options={REACHES}
      />
      <ChoiceField
        label="Cells are parted by"
        width={180}
        value={useTypedText('table parting')}
        {...field('parting')}
        options={PARTINGS.map(
          ([id, name]) =>
            [
              id,
              id === '' && reading ? `${PARTINGS.find(([one]) => one === reading.parting)?.[1] ?? ''} (found)` : name,
            ] as const,
        )}
      />
      <ChoiceField
        label="Decimals behind"
        width={150}
        value={useTypedText('table mark')}
        {...field('mark')}
        options={[
          ['', reading ? `a ${reading.mark === ',' ? 'comma' : 'point'} (found)` : 'found by itself'],
          ['.', 'a point'],
          [',', 'a comma'],
        ]}
      />
      <ChoiceField
        label="Plain numbers count"
        width={190}
        value={useTypedText('table from')}
        {...field('from')}
        options={[
          ['', 'as the text says'],
          ['0', 'from 0'],
          ['1', 'from 1'],
        ]}
      />
      <TypedField
        label="Offset"
        width={110}
        value={useTypedText('table offset')}
        placeholder="as the text says"
        {...field('offset')}
      />
    </div>
  );
}

/** What each column was taken for, to be changed by hand. */
function Columns({ reading }: { readonly reading: AdoptedTable }) {
  const roles = reading.columns.map(({ role }) => role);
  return (
    <Panel
      title="Columns"
      aside={
        reading.said.length > 0
          ? `from the text around it: ${reading.said.join('; ')}`
          : 'as recognised; change what is wrong'
      }
    >
      <div className={styles.row}>
        {reading.columns.map(({ index, role, heading }) => (
          <ChoiceField
            key={index}
            label={`${index + 1}${heading ? ` “${heading}”` : ''}`}
            width={170}
            value={role}
            onChange={(next) => setTyped('table roles', roles.map((own, i) => (i === index ? next : own)).join(' '))}
            options={COLUMN_ROLES.map((one) => [one, one.replaceAll('-', ' ')] as const)}
          />
        ))}
      </div>
    </Panel>
  );
}

function Taken({ sheet, reading, sourceOf, onTaken }: ReadingProps) {
  const replaces = useTypedText('table replaces') === 'yes';
  const { adopted } = reading;
  const present = new Set(sheet.parameters?.map(({ number }) => number));
  const there = adopted.filter(({ parameter }) => present.has(parameter.number)).length;
  const take = (): void => {
    const { parameters } = takenInto(
      sheet.parameters ?? [],
      adopted.map(({ parameter, line }) => ({ ...parameter, source: sourceOf(line) })),
      replaces,
    );
    const first = parameters.findIndex(({ number }) => number === adopted[0]?.parameter.number);
    editSheet((before) => ({ ...before, parameters: [...parameters] }));
    onTaken();
    setEntry(Math.max(0, first));
    setPart('parameters');
  };
  return (
    <>
      <Panel
        title={counted(adopted.length, 'entry', 'entries')}
        aside={[
          reading.unread.length > 0 && `${counted(reading.unread.length, 'line')} not read`,
          there > 0 && `${there} are in the sheet already`,
        ]
          .filter(Boolean)
          .join(', ')}
        tools={
          there > 0 ? (
            <ChoiceField
              label="What is there"
              width={170}
              value={replaces ? 'yes' : ''}
              onChange={(value) => setTyped('table replaces', value)}
              options={[
                ['', 'stays'],
                ['yes', 'is replaced'],
              ]}
            />
          ) : undefined
        }
      >
        <FoundTable
          found={adopted}
          label="Entries as they would be taken"
          about={({ parameter, assumed }) => {
            const [place] = parameter.at ?? [];
            const notations = place?.kind === 'register' ? notationsOf(place.table, place.address) : null;
            return [
              notations ? `${notations.hex}${notations.reference5 ? `, reference ${notations.reference5}` : ''}` : '',
              ...assumed,
              present.has(parameter.number) ? 'is in the sheet already' : '',
            ]
              .filter(Boolean)
              .join('; ');
          }}
        />
        <ActButton
          variant="contained"
          off={adopted.length === 0 ? 'no entry was found in this text' : ''}
          onClick={take}
        >
          Take {counted(adopted.length, 'entry', 'entries')} into {sheet.name}
        </ActButton>
      </Panel>
      {reading.unread.length > 0 && (
        <Panel title={`${counted(reading.unread.length, 'line')} not read, with the reason`}>
          <table className={styles.found} aria-label="Lines that were not read">
            <tbody>
              {reading.unread.slice(0, 100).map(({ line, text, why }) => (
                <tr key={line}>
                  <td>line {line}</td>
                  <td className={styles.mono}>{text.slice(0, 160)}</td>
                  <td>{why}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Panel>
      )}
    </>
  );
}
