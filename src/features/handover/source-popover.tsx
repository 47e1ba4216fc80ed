'use client';

import Button from '@mui/material/Button';
import Popover from '@mui/material/Popover';
import { useMemo } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { goTo } from '../../bench/hooks/go-to';
import { protocolThen } from '../../bench/hooks/line-protocol';
import { indexThen } from '../../bench/state/bench-state';
import { bytesToHex } from '../../core/bytes/hex';
import type { Source } from '../../core/handover/document';
import { entryNumbered, requestOf } from '../../core/trace/record';
import { textOf } from '../../core/trace/text';
import { clockText } from '../../ui/format';
import styles from './handover.module.css';

interface SourceProps {
  readonly from: Source;
  readonly anchor: HTMLElement;
  readonly onClose: () => void;
}

/** Where a line is from: the exchange itself, or the place of the bench where it is kept. */
export function SourcePopover({ from, anchor, onClose }: SourceProps) {
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      transformOrigin={{ vertical: 'top', horizontal: 'right' }}
    >
      <div className={styles.source} role="dialog" aria-label="Where this is from">
        {from.of === 'exchange' ? <Exchange from={from} /> : <Place from={from} />}
      </div>
    </Popover>
  );
}

function Exchange({ from }: { readonly from: Extract<Source, { of: 'exchange' }> }) {
  const record = useBenchState((state) => state.record);
  const startMs = useBenchState((state) => state.sessionStartMs.get(from.session) ?? 0);
  const found = useMemo(() => entryNumbered(record, from.session, from.sequence), [record, from]);
  const protocol = useBenchState((state) => (found ? protocolThen(state, found.entry) : null));
  const index = useBenchState((state) => (found ? indexThen(state, found.entry) : null));
  if (!found) return <p>This page does not hold that exchange any more; the exported trace has it.</p>;
  const request = requestOf(record, found.place);
  return (
    <>
      {[request, found.entry].map(
        (entry) =>
          entry && (
            <p key={entry.sequence}>
              <span className={styles.soft}>
                {clockText(startMs + entry.atUs / 1000)} {entry.direction}
              </span>
              {entry.bytes.length > 0 && <code>{bytesToHex(entry.bytes, ' ').toUpperCase()}</code>}{' '}
              {textOf(entry, entry === request ? null : request, index, protocol)}
            </p>
          ),
      )}
    </>
  );
}

const PLACES = {
  run: ['It is from a run of a trial.', '/trials', 'Trials'],
  set: ['It is from values that were read of the drive.', '/registers', 'Registers'],
  writing: ['It is from a plan that was written.', '/registers', 'Registers'],
  job: ['It stands in the job, as it was entered.', '/', 'Job'],
  sheet: ['The drive’s sheet says it; nobody saw it at the drive.', '/sheets', 'Sheets'],
  person: ['A person typed it.', null, ''],
  bench: ['The bench says what it does not know.', null, ''],
} as const;

function Place({ from }: { readonly from: Exclude<Source, { of: 'exchange' }> }) {
  const [text, path, name] = PLACES[from.of];
  return (
    <>
      <p>{text}</p>
      {path !== null && (
        <Button variant="outlined" color="inherit" onClick={() => goTo(path)}>
          Show {name}
        </Button>
      )}
    </>
  );
}
