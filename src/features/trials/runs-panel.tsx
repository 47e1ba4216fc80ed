'use client';

import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { sheetOfRun } from '../../core/sheet/plain-text';
import { reportOf } from '../../core/trial/report';
import { messageOf } from '../../core/message-of';
import type { TrialRunRow } from '../../store/database';
import { dateText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { trialsStore, useTrials } from './trials-store';
import styles from './trials.module.css';
import { VerdictMark } from './verdict-mark';

/** Every trial that was run in this job, the newest first. */
export function RunsPanel() {
  const bench = useBench();
  const job = useBenchState((state) => state.job?.id ?? '');
  const runs = useTrials((state) => state.runs);
  const shown = useTrials((state) => state.shown);
  const rows = useMemo(
    () => [...runs.values()].filter((row) => row.job === job).sort((a, b) => b.startedMs - a.startedMs),
    [runs, job],
  );
  const drop = async (row: TrialRunRow): Promise<void> => {
    await bench.trials.drop(row.id);
    trialsStore.setState((state) => ({ runs: new Map([...state.runs].filter(([id]) => id !== row.id)) }));
  };
  return (
    <Panel title="Runs of this job" aside={rows.length === 0 ? 'none yet' : `${rows.length}`}>
      {rows.length > 0 && (
        <div className={styles.scroll}>
          <table className={styles.table} aria-label="Runs of this job">
            <tbody>
              {rows.map((row) => (
                <tr key={row.id} aria-current={row.id === shown ? 'true' : undefined}>
                  <td>{dateText(row.startedMs)}</td>
                  <td>
                    <Button
                      variant="text"
                      color="inherit"
                      sx={{ py: 0 }}
                      onClick={() => trialsStore.setState({ chosen: row.compiled.trial.id, shown: row.id })}
                    >
                      {row.compiled.trial.name}
                    </Button>
                  </td>
                  <td>{row.name}</td>
                  <td>
                    <RunVerdict row={row} />
                  </td>
                  <td className={styles.soft}>{row.run?.why ?? ''}</td>
                  <td>
                    <Button
                      variant="text"
                      color="inherit"
                      sx={{ py: 0 }}
                      disabled={row.run?.phase !== 'over'}
                      onClick={() =>
                        void drop(row).catch((error: unknown) => bench.state.setState({ refused: messageOf(error) }))
                      }
                    >
                      Delete
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Panel>
  );
}

function RunVerdict({ row: { compiled, run, sheet } }: { readonly row: TrialRunRow }) {
  const index = useBenchState((state) => sheetOfRun(state.sheets, sheet));
  const verdict = useMemo(() => (index ? reportOf(index, compiled, run).verdict : 'not-done'), [index, compiled, run]);
  return <VerdictMark verdict={verdict} />;
}
