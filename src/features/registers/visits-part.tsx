'use client';

import Button from '@mui/material/Button';
import { useRef, useState } from 'react';
import type { Bench } from '../../bench/bench';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { stationKey } from '../../bench/state/bench-state';
import { askFileWorker, fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { counted } from '../../core/counted';
import { uuidV7 } from '../../core/id';
import { messageOf } from '../../core/message-of';
import { compareSets } from '../../core/sets/compare-sets';
import { findRows } from '../../core/sets/find-rows';
import {
  csvOfDifferences,
  csvOfSet,
  readSetCsv,
  rowsOfSet,
  textOfDifferences,
  type CsvMark,
} from '../../core/sets/set-csv';
import { LARGEST_SET_FILE, readSetFile, setFileOf, type SetFile } from '../../core/sets/set-file';
import { saidText, type SaidOf } from '../../core/sets/said';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { pinnedIn } from '../../core/sheet/shelf';
import type { SetRow } from '../../store/database';
import { rowOfFile, SHIPPED_SET } from '../../store/set-row';
import { ActButton } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { dateText } from '../../ui/format';
import { Panel, Warning } from '../../ui/panel';
import { putSet, registersStore, useRegisters } from './registers-store';
import styles from './registers.module.css';
import { nowId } from './run-reading';
import { useWitnesses } from './use-witnesses';

const freshId = (): string => uuidV7(Date.now(), crypto.getRandomValues(new Uint8Array(10)));

/** What was read is kept under a name, goes out as a file and comes in from one. */
export function VisitsPart({ index }: { readonly index: SheetIndex }) {
  const { key } = useCurrent();
  const job = useBenchState((state) => state.job?.id ?? '');
  const sets = useRegisters((state) => state.sets);
  const now = sets.get(nowId(job, key)) ?? null;
  const own = [...sets.values()]
    .filter((row) => row.kind !== 'now' && row.job === job && stationKey(row.line, row.station) === key)
    .sort((a, b) => b.startedMs - a.startedMs);
  return (
    <div className={styles.stack}>
      <KeepPanel now={now} />
      <KeptPanel rows={own} index={index} />
      <FilePanel now={now} index={index} />
      <DifferencesPanel index={index} />
    </div>
  );
}

function KeepPanel({ now }: { readonly now: SetRow | null }) {
  const bench = useBench();
  const { name } = useCurrent();
  const [called, setCalled] = useState('');
  const [said, setSaid] = useState('');
  const keep = async (row: SetRow): Promise<void> => {
    const kept: SetRow = { ...row, id: freshId(), kind: 'visit', name: called.trim() };
    await bench.sets.keepSet(kept);
    putSet(kept);
    setCalled('');
    setSaid(`kept: ${kept.name}`);
  };
  return (
    <Panel
      title="Keep what was read"
      aside={
        now
          ? `${name}, read ${dateText(now.startedMs)}, ${counted(now.reading.said.size, 'value')}`
          : 'nothing was read yet'
      }
    >
      <form
        className={styles.row}
        onSubmit={(event) => {
          event.preventDefault();
          if (now && called.trim() !== '') keep(now).catch((error: unknown) => setSaid(messageOf(error)));
        }}
      >
        <TypedField label="Name of this visit" width={260} value={called} onChange={setCalled} note={said} />
        <ActButton
          type="submit"
          variant="outlined"
          off={!now ? 'read the values first' : called.trim() === '' ? 'give it a name' : ''}
        >
          Keep it
        </ActButton>
      </form>
    </Panel>
  );
}

function KeptPanel({ rows, index }: { readonly rows: readonly SetRow[]; readonly index: SheetIndex }) {
  const bench = useBench();
  const { key } = useCurrent();
  const job = useBenchState((state) => state.job?.id ?? '');
  const sheets = useBenchState((state) => state.sheets);
  const [gone, setGone] = useState<SetRow | null>(null);
  const compare = (row: SetRow): void =>
    registersStore.setState({ part: 'values', only: 'differs', find: '', beside: [row.id, nowId(job, key)] });
  const drop = async (row: SetRow): Promise<void> => {
    await bench.sets.dropSet(row.id);
    registersStore.setState(({ sets }) => ({ sets: new Map([...sets].filter(([id]) => id !== row.id)) }));
    setGone(row);
  };
  const restore = async (row: SetRow): Promise<void> => {
    await bench.sets.keepSet(row);
    putSet(row);
    setGone(null);
  };
  return (
    <Panel title={`Visits and files, ${rows.length}`} aside="kept in this browser with the job">
      {gone && (
        <p>
          {gone.name} is deleted.{' '}
          <Button variant="outlined" color="inherit" onClick={() => void restore(gone)}>
            Put it back
          </Button>
        </p>
      )}
      {rows.length === 0 && <p className={styles.soft}>None yet.</p>}
      <ul className={styles.shelf} aria-label="Visits and files of this drive">
        {rows.map((row) => (
          <li key={row.id}>
            <strong className={styles.grow}>{row.name}</strong>
            <span className={styles.soft}>
              {row.kind === 'file' ? 'from a file of ' : ''}
              {dateText(row.startedMs)}, {counted(row.reading.said.size, 'value')}, sheet {row.sheet.slug} revision{' '}
              {row.sheet.revision}
            </span>
            <Button variant="outlined" onClick={() => compare(row)}>
              What changed since
            </Button>
            <Button
              variant="text"
              color="inherit"
              onClick={() => saveSet(pinnedIn(sheets, row.sheet) ?? index, row, row.name, 'json')}
            >
              Export
            </Button>
            {!row.id.startsWith(SHIPPED_SET) && (
              <Button variant="text" color="inherit" onClick={() => void drop(row)}>
                Delete
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** The same as a spreadsheet; the package comes when it is used. */
async function saveSpreadsheet(index: SheetIndex, row: SetRow, name: string): Promise<void> {
  const { default: writeSpreadsheet } = await import('write-excel-file/browser');
  const rows = rowsOfSet(index, row.reading.said, 'point').map((cells) => [...cells]);
  saveFile(await writeSpreadsheet(rows).toBlob(), fileName(name, 'xlsx'));
}

/** Saves a set; `point` and `comma` are the two kinds of spreadsheets. */
function saveSet(index: SheetIndex, row: SetRow, name: string, form: 'json' | CsvMark, withSecrets = false): void {
  const { line, station, startedMs, reading } = row;
  const text =
    form === 'json'
      ? `${JSON.stringify(
          setFileOf(index, reading.said, { name, at: new Date(startedMs).toISOString(), line, station }, withSecrets),
          null,
          2,
        )}\n`
      : csvOfSet(index, reading.said, form);
  saveFile(
    new Blob([text], { type: form === 'json' ? 'application/json' : 'text/csv' }),
    fileName(name, form === 'json' ? 'set.json' : 'csv'),
  );
}

function FilePanel({ now, index }: { readonly now: SetRow | null; readonly index: SheetIndex }) {
  const bench = useBench();
  const { name, line, station } = useCurrent();
  const job = useBenchState((state) => state.job?.id ?? '');
  const chooser = useRef<HTMLInputElement>(null);
  const [withSecrets, setWithSecrets] = useState('no');
  const [said, setSaid] = useState<readonly string[]>([]);
  const hasSecrets = index.parameters.some(({ secret }) => secret);
  const open = async (file: File): Promise<void> => {
    if (!line || !station) return;
    const read = await openSet(bench, file, index, { job, line: line.id, station: station.station });
    setSaid(read);
  };
  return (
    <Panel
      title="As a file"
      aside="JSON holds everything; CSV and XLSX open in a spreadsheet"
      tools={
        <>
          <Button variant="text" color="inherit" onClick={() => chooser.current?.click()}>
            Open a set: JSON, CSV or XLSX
          </Button>
          <input
            ref={chooser}
            type="file"
            accept=".json,.csv,.xlsx,application/json,text/csv"
            hidden
            aria-label="Set file"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              event.target.value = '';
              if (file) open(file).catch((error: unknown) => setSaid([messageOf(error)]));
            }}
          />
        </>
      }
    >
      <div className={styles.row}>
        {(
          [
            ['json', 'Save as JSON'],
            ['point', 'Save as CSV, decimal point'],
            ['comma', 'Save as CSV, decimal comma'],
          ] as const
        ).map(([form, text]) => (
          <ActButton
            key={form}
            variant="outlined"
            color="inherit"
            off={now ? '' : 'read the values first'}
            onClick={() => now && saveSet(index, now, `${name} values`, form, withSecrets === 'yes')}
          >
            {text}
          </ActButton>
        ))}
        <ActButton
          variant="outlined"
          color="inherit"
          off={now ? '' : 'read the values first'}
          onClick={() =>
            now &&
            void saveSpreadsheet(index, now, `${name} values`).catch((error: unknown) => setSaid([messageOf(error)]))
          }
        >
          Save as XLSX
        </ActButton>
        {hasSecrets && (
          <ChoiceField
            label="Locks and passwords"
            width={220}
            value={withSecrets}
            onChange={setWithSecrets}
            options={[
              ['no', 'stay out of files'],
              ['yes', 'go into the JSON'],
            ]}
          />
        )}
      </div>
      {said.slice(0, 1).map((text) => (
        <p key={text} role="status">
          {text}.
        </p>
      ))}
      {said.slice(1).map((text) => (
        <Warning key={text}>{text}.</Warning>
      ))}
    </Panel>
  );
}

/** More lines than this are counted only. */
const MOST_SAID = 8;

/** Takes a file as another witness of this drive; what is said about it: lines that gave nothing, another sheet, another drive. */
async function openSet(
  bench: Bench,
  file: File,
  index: SheetIndex,
  where: Pick<SetRow, 'job' | 'line' | 'station'>,
): Promise<readonly string[]> {
  if (file.size > LARGEST_SET_FILE) return [`${file.name} is too large for a set of values`];
  const told = await askFileWorker({ kind: 'table-text', file });
  if (told.kind !== 'table-text')
    return [told.kind === 'faults' ? `${file.name}: ${told.faults.map(({ text }) => text).join('; ')}` : file.name];
  const { text } = told;
  const isJson = /^\s*\{/.test(text);
  const { sheet } = index;
  const keep = async (said: SaidOf, more: Pick<SetRow, 'name' | 'startedMs' | 'sheet'>): Promise<void> => {
    const row: SetRow = {
      ...where,
      ...more,
      id: freshId(),
      kind: 'file',
      reading: { waiting: [], said, of: said.size, requests: 0, tries: 0, silences: 0 },
    };
    await bench.sets.keepSet(row);
    putSet(row);
  };
  if (!isJson) {
    const read = readSetCsv(index, text);
    if (!read.ok) return [`${file.name}: ${read.error}`];
    await keep(read.value.said, {
      name: file.name,
      startedMs: file.lastModified,
      sheet: { slug: sheet.slug, revision: sheet.revision },
    });
    const { unread } = read.value;
    return [
      `${file.name}: ${counted(read.value.said.size, 'value')} taken as another witness`,
      ...unread.slice(0, MOST_SAID).map(({ line, why }) => `line ${line} gave nothing: ${why}`),
      ...(unread.length > MOST_SAID ? [`and ${unread.length - MOST_SAID} more lines`] : []),
    ];
  }
  const read = readSetFile(text);
  if (!read.ok) return [`${file.name}: ${read.error}`];
  const set = read.value;
  const row = rowOfFile(freshId(), set, where);
  await bench.sets.keepSet(row);
  putSet(row);
  const missing = set.values.filter(({ number }) => !index.byNumber.has(number));
  return [
    `${set.name}: ${counted(set.values.length, 'value')} taken as another witness`,
    ...identityWarnings(bench, index, set, where),
    ...(missing.length > 0
      ? [
          `${counted(missing.length, 'value')} of it ${missing.length === 1 ? 'is' : 'are'} not in this sheet: ${missing
            .slice(0, MOST_SAID)
            .map(({ number, name }) => `${number} ${name}`)
            .join(', ')}${missing.length > MOST_SAID ? ' and others' : ''}`,
        ]
      : []),
    ...(set.sheet.slug === sheet.slug ? [] : [`it is of another kind of drive: ${set.sheet.name}, not ${sheet.name}`]),
    ...(set.sheet.slug === sheet.slug && set.sheet.revision !== sheet.revision
      ? [
          `it was read with revision ${set.sheet.revision} of the sheet, and is read with that one here where it is known`,
        ]
      : []),
  ];
}

/** Where the set is of another size or firmware than the drive says of itself: what belongs to the size is not planned from it. */
function identityWarnings(
  bench: Bench,
  index: SheetIndex,
  { identity = {} }: SetFile,
  { job, line, station }: Pick<SetRow, 'job' | 'line' | 'station'>,
): readonly string[] {
  const now = registersStore.getState().sets.get(nowId(job, stationKey(line, station)))?.reading.said;
  const name = bench.state.getState().job?.lines.find(({ id }) => id === line)?.name ?? line;
  return (['type-code', 'firmware'] as const).flatMap((role) => {
    const parameter = index.byRole.get(role);
    const own = parameter && now?.get(parameter.number);
    const said = identity[role];
    if (!parameter || said === undefined) return [];
    if (own?.kind !== 'value')
      return [
        `its ${parameter.name} is ${said}; that of station ${station} on ${name} was not read yet: read it before anything is written`,
      ];
    const here = saidText(index, parameter, own, new Map());
    return here === said
      ? []
      : [
          `its ${parameter.name} is ${said}, this drive’s is ${here}: what belongs to the size stays behind, and the rest is decided one by one`,
        ];
  });
}

/** What differs between the witnesses that Values lays beside each other, to be sent to somebody. */
function DifferencesPanel({ index }: { readonly index: SheetIndex }) {
  const { key, name } = useCurrent();
  const all = useWitnesses(index);
  const beside = useRegisters((state) => state.beside);
  const [said, setSaid] = useState('');
  const found = beside.flatMap((id) => all.find((witness) => witness.id === id) ?? []);
  const witnesses = found.length > 1 ? found : all.slice(0, 2);
  const rows = (): ReturnType<typeof findRows> => findRows(compareSets(witnesses), '', 'differs', witnesses, new Map());
  const save = (mark: CsvMark): void =>
    saveFile(
      new Blob([csvOfDifferences(witnesses, rows(), mark)], { type: 'text/csv' }),
      fileName(`${name} differences`, 'csv'),
    );
  return (
    <Panel title="What differs, for others" aside={witnesses.map((witness) => witness.name).join(' beside ')}>
      <div className={styles.row} key={key}>
        <Button variant="outlined" color="inherit" onClick={() => save('point')}>
          CSV, decimal point
        </Button>
        <Button variant="outlined" color="inherit" onClick={() => save('comma')}>
          CSV, decimal comma
        </Button>
        <Button
          variant="outlined"
          color="inherit"
          onClick={() =>
            void navigator.clipboard
              .writeText(textOfDifferences(rows()))
              .then(() => setSaid('copied'))
              .catch((error: unknown) => setSaid(messageOf(error)))
          }
        >
          Copy as text for a message
        </Button>
        <span role="status" className={styles.soft}>
          {said}
        </span>
      </div>
    </Panel>
  );
}
