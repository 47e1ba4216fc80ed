'use client';

import { useState } from 'react';
import { askFileWorker } from '../../bench/workers/ask-file-worker';
import type { Sheet } from '../../core/sheet/sheet';
import { TypedField } from '../../ui/fields';
import { FileButton } from '../../ui/file-button';
import { Panel } from '../../ui/panel';
import { PasteArea } from '../../ui/paste-area';
import { setTyped, useTypedText } from './sheet-drafts';
import styles from './sheets.module.css';
import { SettingsRow, TableReadingPanels, useTableReading } from './table-reading';

const LONGEST_PASTE = 200_000;

/** Rows copied from a manual's page, or a table file: read, shown with what was made of each, and taken when the user says so. */
export function TablePart({ sheet }: { readonly sheet: Sheet }) {
  const text = useTypedText('table text');
  const source = useTypedText('table source');
  const reading = useTableReading(text);
  const [said, setSaid] = useState('');
  const open = (file: File): void =>
    void askFileWorker({ kind: 'table-text', file }).then((told) => {
      if (told.kind === 'faults') return setSaid(told.faults.map(({ text: why }) => why).join('; '));
      if (told.kind !== 'table-text') return;
      if (told.text.length > LONGEST_PASTE)
        return setSaid(`${file.name} has ${told.text.length} characters; ${LONGEST_PASTE} at most are looked at here`);
      setSaid('');
      setTyped('table roles', '');
      setTyped('table text', told.text);
      if (source === '') setTyped('table source', file.name);
    });
  return (
    <div className={styles.stack}>
      <Panel
        title="From a table"
        aside="the manual’s page, a spreadsheet or a CSV; nothing is taken before you say so"
        tools={
          <FileButton label="Table file" accept=".csv,.txt,.tsv,.xlsx,text/plain,text/csv" onFile={open}>
            Open a CSV, text or XLSX file
          </FileButton>
        }
      >
        <div className={styles.fields}>
          <PasteArea
            rows={8}
            longest={LONGEST_PASTE}
            label="rows of the manual’s table, with their headings"
            value={text}
            onChange={(next) => {
              setTyped('table roles', '');
              setTyped('table text', next);
            }}
          />
          {said !== '' && <p className={styles.bad}>{said}</p>}
          <TypedField
            label="Which manual, which page"
            width={230}
            value={source}
            onChange={(value) => setTyped('table source', value)}
          />
          <SettingsRow reading={reading} />
        </div>
      </Panel>
      {reading && (
        <TableReadingPanels
          sheet={sheet}
          reading={reading}
          sourceOf={(line) => ({ kind: 'table', text: source.trim() || 'pasted', line })}
          onTaken={() => setTyped('table text', '')}
        />
      )}
    </div>
  );
}
