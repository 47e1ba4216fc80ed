'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { nextVisit, type Visit } from '../../core/handover/visit';
import { TypedField } from '../../ui/fields';
import { dateText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { useHandover } from './handover-store';
import styles from './handover.module.css';
import { changeVisit } from './record-acts';

const MOST = 400;

const FIELDS = [
  ['plant', 'Plant'],
  ['visit', 'Visit'],
  ['by', 'By'],
] as const satisfies readonly (readonly [keyof Visit, string])[];

/** Whose visit it is: names that nobody but a person knows. */
export function VisitPanel() {
  const bench = useBench();
  const visit = useHandover((state) => state.visit);
  const job = useBenchState((state) => state.job?.name ?? '');
  const [before, setBefore] = useState<Visit | null>(null);
  return (
    <Panel title="Visit">
      <div className={styles.fields}>
        {FIELDS.map(([key, label]) => (
          <TypedField
            key={key}
            label={label}
            width="100%"
            value={visit[key]}
            placeholder={key === 'plant' ? job : ''}
            onChange={(text) => changeVisit(bench, (now) => ({ ...now, [key]: text.slice(0, MOST) }))}
          />
        ))}
      </div>
      {visit.sinceMs !== undefined && (
        <p className={styles.soft}>Since {dateText(visit.sinceMs)}; before that was another visit.</p>
      )}
      <Button
        variant="text"
        color="inherit"
        size="small"
        onClick={() => {
          setBefore(visit);
          changeVisit(bench, (now) => nextVisit(now, Date.now()));
        }}
      >
        Begin the next visit
      </Button>
      {before && (
        <p className={styles.text} role="status">
          Remarks and ticks of the last visit are out, and what was seen before now.{' '}
          <Button
            variant="text"
            color="inherit"
            size="small"
            onClick={() => {
              changeVisit(bench, () => before);
              setBefore(null);
            }}
          >
            Take it back
          </Button>
        </p>
      )}
    </Panel>
  );
}
