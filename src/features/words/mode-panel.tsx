'use client';

import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useBench, useDrafts } from '../../bench/bench-context';
import { liveOf } from '../../bench/known-state';
import { useCurrent } from '../../bench/use-current';
import { useWrite } from '../../bench/use-write';
import { meaningOf } from '../../core/sheet/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { joinHalves, splitHalves } from '../../core/words/halves';
import { Panel } from '../../ui/panel';
import styles from './words.module.css';

/** The mode of operation of a drive that has several, and the target of its moves. */
export function ModePanel({ index }: { readonly index: SheetIndex }) {
  const { view } = useCurrent();
  const mode = index.byRole.get('mode');
  if (index.modes.size < 2 || !mode) return null;
  const shown = liveOf(index, view, 'mode-display');
  const place = index.byRole.get('mode-display') ?? mode;
  return (
    <Panel
      title={`▸ Mode, ${mode.number}`}
      aside={shown ? `the drive is in ${meaningOf(index, place, shown.word)}` : 'the drive’s mode is not read yet'}
    >
      <ModeEntry index={index} />
      {index.byRole.has('target-low') && <TargetEntry index={index} />}
    </Panel>
  );
}

function ModeEntry({ index }: { readonly index: SheetIndex }) {
  const bench = useBench();
  const { key, name, view, isOpen } = useCurrent();
  const send = useWrite('Words');
  const mode = index.byRole.get('mode');
  const present = liveOf(index, view, 'mode-display')?.word ?? mode?.default ?? 0;
  const chosen = useDrafts((drafts) => drafts.typed.get(`${key} mode`) ?? `${present}`);
  return (
    <div className={styles.ready}>
      <select
        aria-label="mode of operation"
        value={chosen}
        onChange={(event) => bench.drafts.getState().setTyped(`${key} mode`, event.target.value)}
      >
        {(mode?.choices ?? []).map(({ value, name: text }) => (
          <option key={value} value={value}>
            {value}: {text}
          </option>
        ))}
      </select>
      <Button variant="outlined" disabled={!isOpen} onClick={() => send('mode', parseInt(chosen, 10))}>
        Set the mode of {name}
      </Button>
    </div>
  );
}

/** A whole number of counts, as two words. */
const COUNTS = /^\s*[-\u2212]?\d{1,10}\s*$/;

function TargetEntry({ index }: { readonly index: SheetIndex }) {
  const bench = useBench();
  const { key, name, view, isOpen, places, drive } = useCurrent();
  const text = useDrafts((drafts) => drafts.typed.get(`${key} target position`) ?? '');
  const counts = COUNTS.test(text) ? splitHalves(parseInt(text.trim().replace('\u2212', '-'), 10)) : null;
  const [high, low] = [liveOf(index, view, 'position-high')?.word, liveOf(index, view, 'position-low')?.word];
  const go = (): void => {
    // Both halves in one request: a drive that took one of them only would move somewhere else.
    const high = index.byRole.get('target-high');
    const bytes = counts && high && drive && places ? places.writeRow(drive.station, high, counts) : null;
    if (bytes && drive) bench.send(drive, bytes, 'Words');
  };
  return (
    <div className={styles.ready}>
      <TextField
        label="target position, counts"
        value={text}
        error={text.trim() !== '' && !counts}
        helperText={text.trim() !== '' && !counts ? 'expected a whole number of 32 bits' : 'taken by the rise of bit 4'}
        onChange={(event) => bench.drafts.getState().setTyped(`${key} target position`, event.target.value)}
        sx={{ width: 200 }}
      />
      <Button variant="outlined" disabled={!isOpen || !counts} onClick={go}>
        Send the target to {name}
      </Button>
      <span>
        position now{' '}
        <strong data-testid="position">
          {high === undefined || low === undefined ? 'not read yet' : joinHalves(high, low)}
        </strong>
      </span>
    </div>
  );
}
