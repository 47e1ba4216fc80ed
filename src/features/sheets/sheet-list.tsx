'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { askFileWorker, fileName, saveFile } from '../../bench/workers/ask-file-worker';
import { messageOf } from '../../core/message-of';
import { emptySheet, freeSlug } from '../../core/sheet/empty-sheet';
import { newestOf, revisionsOf } from '../../core/sheet/shelf';
import type { Sheet } from '../../core/sheet/sheet';
import { sheetFile } from '../../core/sheet/sheet-file';
import { ActButton } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { FileButton } from '../../ui/file-button';
import { Panel } from '../../ui/panel';
import { dropDraft, openDraft, useSheetDrafts } from './sheet-drafts';
import styles from './sheets.module.css';

/** A copy to be changed: it has a name of its own and names what it was made from. */
const copyOf = (sheet: Sheet, slug: string): Sheet => ({
  ...sheet,
  slug,
  revision: 0,
  name: `${sheet.name}, mine`,
  base: { slug: sheet.slug, revision: sheet.revision },
});

/** All sheets: made, opened, copied, exported, imported, deleted with a way back. */
export function SheetList() {
  const bench = useBench();
  const sheets = useBenchState((state) => state.sheets);
  const shipped = useBenchState((state) => state.shippedSlugs);
  const job = useBenchState((state) => state.job);
  const drafts = useSheetDrafts((state) => state.drafts);
  const [name, setName] = useState('');
  const [said, setSaid] = useState('');
  const [gone, setGone] = useState<{ readonly name: string; readonly restore: () => Promise<void> } | null>(null);
  const isTaken = (slug: string): boolean => sheets.has(slug) || drafts.has(slug);
  const users = (slug: string): readonly string[] =>
    (job?.lines ?? []).flatMap((line) =>
      line.stations
        .filter(({ sheet }) => sheet?.slug === slug)
        .map((station) => `${station.station} · ${station.name} (${line.name})`),
    );
  const make = (): void => {
    const called = name.trim();
    if (called === '') return;
    openDraft(emptySheet(freeSlug(called, isTaken), called), null);
    setName('');
  };
  const open = (sheet: Sheet): void => openDraft(sheet, sheet);
  const copy = (sheet: Sheet): void => openDraft(copyOf(sheet, freeSlug(`${sheet.slug}-mine`, isTaken)), null);
  const read = (file: File): void =>
    void askFileWorker({ kind: 'read-sheet', file }).then((told) => {
      if (told.kind === 'faults')
        return setSaid(
          told.faults
            .slice(0, 6)
            .map(({ path, text }) => (path === '' ? text : `${path}: ${text}`))
            .join('; '),
        );
      if (told.kind !== 'sheet') return;
      setSaid('');
      const slug = isTaken(told.sheet.slug) ? freeSlug(told.sheet.slug, isTaken) : told.sheet.slug;
      openDraft({ ...told.sheet, slug }, null);
    });
  const remove = (sheet: Sheet): void =>
    void bench
      .dropSheet(sheet.slug)
      .then((restore) => {
        dropDraft(sheet.slug);
        setGone({ name: sheet.name, restore });
      })
      .catch((error: unknown) => setSaid(messageOf(error)));
  const own = newestOf(sheets).filter(({ sheet }) => !shipped.has(sheet.slug));
  const fresh = [...drafts.values()].filter(({ kept }) => kept === null).map(({ history }) => history.present);
  return (
    <div className={styles.stack}>
      <Panel
        title="Sheets of your own"
        aside="a sheet is the drive’s manual as data; it can be used while it grows"
        tools={
          <FileButton label="Sheet file" accept=".json,application/json" onFile={read}>
            Import a sheet file
          </FileButton>
        }
      >
        {said !== '' && <p className={styles.bad}>{said}</p>}
        {gone && (
          <p role="status">
            {gone.name} was deleted, with all its revisions.{' '}
            <Button
              variant="outlined"
              color="inherit"
              onClick={() => {
                void gone.restore();
                setGone(null);
              }}
            >
              Put it back
            </Button>
          </p>
        )}
        <ul className={styles.shelf} aria-label="Sheets of your own">
          {fresh.map((sheet) => (
            <li key={sheet.slug}>
              <strong className={styles.grow}>{sheet.name}</strong>
              <span className={styles.soft}>not kept yet</span>
              <Button variant="outlined" onClick={() => openDraft(sheet, null)}>
                Go on with {sheet.name}
              </Button>
              <Button variant="text" color="inherit" onClick={() => dropDraft(sheet.slug)}>
                Drop it
              </Button>
            </li>
          ))}
          {own.map(({ sheet }) => (
            <SheetRow
              key={sheet.slug}
              sheet={sheet}
              users={users(sheet.slug)}
              revisions={revisionsOf(sheets, sheet.slug).length}
            >
              <Button variant="outlined" onClick={() => open(sheet)}>
                Open {sheet.name}
              </Button>
              <Button variant="text" color="inherit" onClick={() => copy(sheet)}>
                Copy
              </Button>
              <Button
                variant="text"
                color="inherit"
                onClick={() =>
                  saveFile(
                    new Blob([`${JSON.stringify(sheetFile(sheet), null, 2)}\n`]),
                    fileName(sheet.slug, 'sheet.json'),
                  )
                }
              >
                Export
              </Button>
              <Button variant="text" color="inherit" onClick={() => remove(sheet)}>
                Delete
              </Button>
            </SheetRow>
          ))}
        </ul>
        {own.length + fresh.length === 0 && (
          <p>
            None yet. Give one a name: then paste the manual’s table into it, open a description file, or type it in.
          </p>
        )}
        <div className={styles.row}>
          <TypedField label="Name of a new sheet" width={240} value={name} onChange={setName} />
          <ActButton variant="contained" off={name.trim() === '' ? 'give it a name' : ''} onClick={make}>
            Start it
          </ActButton>
        </div>
      </Panel>
      <Panel title="Sheets that ship" aside="they stay as they are; a copy can be changed">
        <ul className={styles.shelf} aria-label="Sheets that ship">
          {newestOf(sheets)
            .filter(({ sheet }) => shipped.has(sheet.slug))
            .map(({ sheet }) => (
              <SheetRow key={sheet.slug} sheet={sheet} users={users(sheet.slug)} revisions={1}>
                <Button variant="outlined" color="inherit" onClick={() => copy(sheet)}>
                  Copy {sheet.name} to change it
                </Button>
              </SheetRow>
            ))}
        </ul>
      </Panel>
    </div>
  );
}

function SheetRow({
  sheet,
  users,
  revisions,
  children,
}: {
  readonly sheet: Sheet;
  readonly users: readonly string[];
  readonly revisions: number;
  readonly children: React.ReactNode;
}) {
  return (
    <li>
      <span className={styles.grow}>
        <strong>{sheet.name}</strong>{' '}
        <span className={styles.soft}>
          {sheet.summary}
          {revisions > 1 ? ` Revision ${sheet.revision}, ${revisions} kept.` : ''}
          {users.length > 0 ? ` Used by ${users.join(', ')}.` : ''}
        </span>
      </span>
      {children}
    </li>
  );
}
