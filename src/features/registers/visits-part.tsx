'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { newId } from '../../bench/new-id';
import { stationKey } from '../../bench/state/bench-state';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { counted } from '../../core/counted';
import { messageOf } from '../../core/message-of';
import { compareSets } from '../../core/sets/compare-sets';
import { findRows } from '../../core/sets/find-rows';
import { csvOfDifferences, csvOfSet, rowsOfSet, textOfDifferences, type CsvMark } from '../../core/sets/set-csv';
import { setFileOf } from '../../core/sets/set-file';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { pinnedIn } from '../../core/sheet/shelf';
import type { SetRow } from '../../store/database';
import { SHIPPED_SET } from '../../store/set-row';
import { ActButton } from '../../ui/act-button';
import { FileButton } from '../../ui/file-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { dateText } from '../../ui/format';
import { Later } from '../../ui/later';
import { Panel, Warning } from '../../ui/panel';
import { openSetFile } from './open-set-file';
import { putSet, registersStore, useRegisters } from '../../bench/registers/registers-store';
import styles from './registers.module.css';
import { nowId } from '../../bench/registers/run-reading';
import { besideEachOther, NOW, useWitnesses } from './use-witnesses';

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
      <Later>
        <KeptPanel rows={own} index={index} />
        <FilePanel now={now} index={index} />
        <DifferencesPanel index={index} />
      </Later>
    </div>
  );
}

function KeepPanel({ now }: { readonly now: SetRow | null }) {
  const bench = useBench();
  const { name, key } = useCurrent();
  const [called, setCalled] = useTyped('visit', key, 'name', '');
  const [said, setSaid] = useState('');
  const keep = async (row: SetRow): Promise<void> => {
    const kept: SetRow = { ...row, id: newId(), kind: 'visit', name: called.trim() };
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
  const sheets = useBenchState((state) => state.sheets);
  const [gone, setGone] = useState<SetRow | null>(null);
  const [trouble, setTrouble] = useState('');
  const tried = (work: Promise<void>): void => {
    setTrouble('');
    work.catch((error: unknown) => setTrouble(`it was not done: ${messageOf(error)}`));
  };
  const compare = (row: SetRow): void =>
    registersStore.setState({ part: 'values', only: 'differs', find: '', beside: [row.id, NOW] });
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
          <Button variant="outlined" color="inherit" onClick={() => tried(restore(gone))}>
            Put it back
          </Button>
        </p>
      )}
      {trouble !== '' && <p className={styles.bad}>{trouble}</p>}
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
              <Button variant="text" color="inherit" onClick={() => tried(drop(row))}>
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
  const [withSecrets, setWithSecrets] = useState('no');
  const [said, setSaid] = useState<readonly string[]>([]);
  const hasSecrets = index.parameters.some(({ secret }) => secret);
  const open = async (file: File): Promise<void> => {
    if (!line || !station) return;
    const read = await openSetFile(bench, file, index, { job, line: line.id, station: station.station });
    setSaid(read);
  };
  return (
    <Panel
      title="As a file"
      aside="JSON holds everything; CSV and XLSX open in a spreadsheet"
      tools={
        <FileButton
          label="Set file"
          accept=".json,.csv,.xlsx,application/json,text/csv"
          onFile={(file) => void open(file).catch((error: unknown) => setSaid([messageOf(error)]))}
        >
          Open a set: JSON, CSV or XLSX
        </FileButton>
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

/** What differs between the witnesses that Values lays beside each other, to be sent to somebody. */
function DifferencesPanel({ index }: { readonly index: SheetIndex }) {
  const { key, name } = useCurrent();
  const all = useWitnesses(index);
  const beside = useRegisters((state) => state.beside);
  const [said, setSaid] = useState('');
  const witnesses = besideEachOther(all, beside);
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
