'use client';

import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useBench } from '../../bench/bench-context';
import { PERSON_CHECKS } from '../../core/handover/person-checks';
import { useHandover } from './handover-store';
import styles from './handover.module.css';
import { changeVisit } from './record-acts';

/** What only a person can see to: ticked with their name and the time. */
export function PersonTicks() {
  const bench = useBench();
  const visit = useHandover((state) => state.visit);
  const off = visit.by.trim() === '';
  const tick = (id: string, isDone: boolean): void =>
    changeVisit(bench, (now) => ({
      ...now,
      ticks: isDone
        ? { ...now.ticks, [id]: { by: now.by.trim(), atMs: Date.now() } }
        : Object.fromEntries(Object.entries(now.ticks).filter(([key]) => key !== id)),
    }));
  return (
    <fieldset className={styles.ticks} disabled={off}>
      <legend>{off ? 'What you saw to (put your name under By first)' : `What you saw to, ${visit.by.trim()}`}</legend>
      {Object.entries(PERSON_CHECKS).map(([id, what]) => (
        <FormControlLabel
          key={id}
          disabled={off}
          control={
            <Checkbox
              size="small"
              checked={visit.ticks[id] !== undefined}
              onChange={(event) => tick(id, event.target.checked)}
            />
          }
          label={what}
        />
      ))}
    </fieldset>
  );
}
