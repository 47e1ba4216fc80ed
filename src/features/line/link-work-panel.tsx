'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import type { WorkStep } from '../../bench/link-work-state';
import { Panel, Warning } from '../../ui/panel';
import styles from './line.module.css';

const MARK: Readonly<Record<WorkStep['state'], string>> = { now: '…', done: '✓', failed: '✗' };

const KIND_TEXT = {
  active: 'became active',
  lost: 'was lost: it had not been kept',
  changed: 'is another now',
} as const;

/** A change of both ends or a restart, step by step, and what to do when it failed. */
export function LinkWorkPanel() {
  const bench = useBench();
  const work = useBenchState((state) => (state.linkWork?.line === state.lineId ? state.linkWork : null));
  if (!work) return null;
  const failed = work.over && work.steps.some(({ state }) => state === 'failed');
  return (
    <Panel
      title={work.title}
      aside={work.over ? (failed ? 'not done' : 'done') : 'under way; Stop ends it'}
      tools={
        work.over && (
          <Button variant="text" color="inherit" onClick={() => bench.state.setState({ linkWork: null })}>
            Put away
          </Button>
        )
      }
    >
      <ol className={styles.steps} data-testid="link-work" aria-live="polite">
        {work.steps.map(({ text, state }) => (
          <li key={text}>
            <span className={state === 'done' ? styles.good : state === 'failed' ? styles.bad : styles.soft}>
              {MARK[state]}
            </span>
            <span>{text}</span>
          </li>
        ))}
      </ol>
      {failed && work.wayBack !== '' && (
        <>
          <Warning>Way back: {work.wayBack}.</Warning>
          {work.breakMs !== null && (
            <div className={styles.row} style={{ marginTop: 8 }}>
              <Button
                variant="outlined"
                color="inherit"
                onClick={() => bench.post({ kind: 'break', line: work.line, ms: work.breakMs ?? 0 })}
              >
                Send a break of {work.breakMs} ms
              </Button>
            </div>
          )}
        </>
      )}
      {work.rows && (
        <>
          {work.rows.length === 0 && <p>No setting is another than before.</p>}
          <table className={styles.table}>
            <tbody>
              {work.rows.map(({ parameter, kind, before, after }) => (
                <tr key={parameter.number}>
                  <td>
                    {parameter.number} {parameter.name}
                  </td>
                  <td className={kind === 'active' ? styles.good : styles.bad}>{KIND_TEXT[kind]}</td>
                  <td className={styles.mono}>{kind === 'active' ? after : `${before} → ${after}`}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </Panel>
  );
}
