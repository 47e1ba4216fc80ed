'use client';

import Button, { type ButtonProps } from '@mui/material/Button';
import { useId, useState } from 'react';
import { useBench } from '../../bench/bench-context';
import { messageOf } from '../../core/message-of';
import { ChoiceField } from '../../ui/fields';
import { FileButton } from '../../ui/file-button';
import { Panel } from '../../ui/panel';
import { handoverStore, shownRecord, useHandover, type DigestedRecord } from './handover-store';
import styles from './handover.module.css';
import { closeRecord, openRecord, printRecord, saveArchive, savePage } from './record-acts';

/** The ways out of the bench, and the way in. */
export function OutPanel() {
  const bench = useBench();
  const shown = useHandover(shownRecord);
  const isClosed = useHandover((state) => state.shown !== '');
  const paper = useHandover((state) => state.paper);
  const [busy, setBusy] = useState('');
  const why = useId();
  const off = busy !== '' ? `${busy} is being made` : shown ? '' : 'the record is being made';
  const act = (what: string, does: (own: DigestedRecord) => Promise<void>) => () => {
    if (!shown) return;
    setBusy(what);
    does(shown)
      .catch((error: unknown) => handoverStore.setState({ news: [`${what} was not made: ${messageOf(error)}`] }))
      .finally(() => setBusy(''));
  };
  // One reason for all, on the title's line: under each of them it would move the others.
  const out: Pick<ButtonProps, 'variant' | 'color' | 'disabled' | 'aria-describedby'> = {
    variant: 'outlined',
    color: 'inherit',
    ...(off === '' ? {} : { disabled: true, 'aria-describedby': why }),
  };
  return (
    <Panel
      title={isClosed ? 'The record, closed' : 'The record'}
      aside={off === '' && shown ? `SHA-256 ${shown.digest.slice(0, 12)}…` : <span id={why}>{off}</span>}
    >
      <div className={styles.row}>
        <ChoiceField
          label="Paper"
          value={paper}
          width={100}
          options={[
            ['A4', 'A4'],
            ['letter', 'letter'],
          ]}
          onChange={(value) => handoverStore.setState({ paper: value === 'letter' ? 'letter' : 'A4' })}
        />
        <Button {...out} onClick={act('the print', printRecord)}>
          Print, or PDF
        </Button>
        <Button {...out} onClick={act('the page', savePage)}>
          Save as one page
        </Button>
        <Button {...out} onClick={act('the archive', (own) => saveArchive(bench, isClosed ? own : null, 'whole'))}>
          Save as archive
        </Button>
        <Button {...out} onClick={act('the archive', (own) => saveArchive(bench, isClosed ? own : null, 'controller'))}>
          For the controller’s programmer
        </Button>
        {!isClosed && (
          <Button {...out} onClick={act('the record', () => closeRecord(bench))}>
            Close the record
          </Button>
        )}
        <FileButton
          label="A record: page, JSON or archive"
          accept=".html,.json,.zip"
          variant="outlined"
          onFile={(file) =>
            void openRecord(bench, file).catch((error: unknown) =>
              handoverStore.setState({ news: [`${file.name}: ${messageOf(error)}`] }),
            )
          }
        >
          Open a record …
        </FileButton>
      </div>
    </Panel>
  );
}
