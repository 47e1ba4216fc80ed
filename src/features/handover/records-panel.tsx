'use client';

import Button from '@mui/material/Button';
import { useBench } from '../../bench/bench-context';
import { messageOf } from '../../core/message-of';
import { dateText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { handoverStore, useHandover } from './handover-store';
import styles from './handover.module.css';
import { dropRecord } from './record-acts';

/** Closed records of this job: looked at, compared with what is now, or let go. */
export function RecordsPanel() {
  const bench = useBench();
  const records = useHandover((state) => state.records);
  const shown = useHandover((state) => state.shown);
  const beside = useHandover((state) => state.beside);
  if (records.length === 0) return null;
  return (
    <Panel title="Closed records" aside={`${records.length}`}>
      <ul className={styles.records}>
        {records.map((row) => {
          const name = `${dateText(Date.parse(row.record.made))}${row.record.visit === '' ? '' : `, ${row.record.visit}`}`;
          return (
            <li key={row.digest}>
              <span>
                {name} <code>{row.digest.slice(0, 12)}</code>
              </span>
              <span>
                <Button
                  variant="text"
                  color="inherit"
                  size="small"
                  aria-label={`Look at the record of ${name}`}
                  aria-pressed={shown === row.digest}
                  onClick={() => handoverStore.setState({ shown: shown === row.digest ? '' : row.digest })}
                >
                  {shown === row.digest ? 'Back to now' : 'Look'}
                </Button>
                <Button
                  variant="text"
                  color="inherit"
                  size="small"
                  aria-label={`What is different since the record of ${name}`}
                  aria-pressed={beside === row.digest}
                  onClick={() => handoverStore.setState({ beside: beside === row.digest ? '' : row.digest, shown: '' })}
                >
                  {beside === row.digest ? 'Do not compare' : 'Compare'}
                </Button>
                {row.ships !== true && (
                  <Button
                    variant="text"
                    color="inherit"
                    size="small"
                    aria-label={`Delete the record of ${name}`}
                    onClick={() =>
                      void dropRecord(bench, row).catch((error: unknown) =>
                        handoverStore.setState({ news: [messageOf(error)] }),
                      )
                    }
                  >
                    Delete
                  </Button>
                )}
              </span>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}
