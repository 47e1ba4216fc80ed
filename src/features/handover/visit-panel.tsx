'use client';

import { useBench, useBenchState } from '../../bench/bench-context';
import type { Visit } from '../../core/handover/visit';
import { TypedField } from '../../ui/fields';
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
    </Panel>
  );
}
