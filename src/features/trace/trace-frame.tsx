'use client';

import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { useBenchState, useDrafts } from '../../bench/bench-context';
import type { TraceSize } from '../../bench/state/drafts';
import { sizeOf } from '../../core/trace/record';
import { countText } from '../../ui/format';
import { useKeys } from '../../ui/use-keys';
import styles from './trace-panel.module.css';

const NEXT: Readonly<Record<TraceSize, TraceSize>> = { last: 'rows', rows: 'tall', tall: 'last' };
const NEXT_TEXT: Readonly<Record<TraceSize, string>> = { last: 'open', rows: 'enlarge', tall: 'fold' };

/** The trace's place on every view, with its size and how much it holds, whatever it shows. */
export function TraceFrame({ head, children }: { readonly head?: ReactNode; readonly children: ReactNode }) {
  const size = useDrafts((drafts) => drafts.traceSize);
  const setSize = useDrafts((drafts) => drafts.setTraceSize);
  useKeys({ t: () => setSize(NEXT[size]), T: () => setSize(NEXT[size]) });
  return (
    <section className={`${styles.panel} ${size === 'tall' ? styles.tall : ''}`} data-no-print aria-label="Trace">
      <div className={styles.head}>
        <strong>Trace</strong>
        {head}
        <Kept />
        <Button variant="text" color="inherit" onClick={() => setSize(NEXT[size])}>
          <kbd>T</kbd>&nbsp;{NEXT_TEXT[size]}
        </Button>
      </div>
      {size !== 'last' && children}
    </section>
  );
}

const READ_TEXT = {
  'not-asked': '',
  reading: ', earlier ones are being read',
  whole: '',
  cut: ', the earliest ones are in the export only',
} as const;

function Kept() {
  const count = useBenchState((state) => sizeOf(state.record));
  const read = useBenchState((state) => READ_TEXT[state.recordRead]);
  const kept = useBenchState(({ session, keptUpTo }) => `${session} ${keptUpTo}`);
  const text = useBenchState((state) => {
    const newest = state.entries[state.entries.length - 1];
    if (!newest) return '';
    const waiting = newest.session === state.session ? newest.sequence - state.keptUpTo : 0;
    return waiting > 0 ? `${waiting} not kept yet` : 'kept';
  });
  return (
    <span className={styles.soft} data-testid="trace-kept" data-kept={kept}>
      {countText(count)} {count === 1 ? 'entry' : 'entries'}
      {read}
      {text === '' ? '' : ` · ${text}`}
    </span>
  );
}
