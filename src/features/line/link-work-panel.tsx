'use client';

import type { Cell } from '../../core/sheet/place';
import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { indexOf } from '../../bench/state/bench-state';
import { isUnderWay, lastRun, type RunView } from '../../bench/state/runs';
import { AFTER, BEFORE } from '../../core/procedure/link-procedures';
import { compareRestart } from '../../core/papers/restart';
import { Panel, Warning } from '../../ui/panel';
import styles from './line.module.css';

type Mark = 'now' | 'done' | 'failed';

const MARK: Readonly<Record<Mark, string>> = { now: '…', done: '✓', failed: '✗' };

const KIND_TEXT = {
  active: 'became active',
  lost: 'was lost: it had not been kept',
  changed: 'is another now',
} as const;

interface Line {
  readonly text: string;
  readonly mark: Mark;
}

/** Steps as far as the run has come; those that say the same are one line. */
function linesOf(view: RunView): readonly Line[] {
  const { steps } = view.procedure;
  const at = view.run?.at ?? 0;
  const isDone = view.run?.end === 'done';
  return steps.slice(0, at + 1).reduce<readonly Line[]>((lines, { text }, i) => {
    const mark = i < at || isDone ? 'done' : isUnderWay(view) ? 'now' : 'failed';
    const last = lines[lines.length - 1];
    return last?.text === text ? [...lines.slice(0, -1), { text, mark }] : [...lines, { text, mark }];
  }, []);
}

/** A change of both ends or a restart, step by step, and what to do when it failed. */
export function LinkWorkPanel() {
  const bench = useBench();
  const view = useBenchState((state) => lastRun(state, state.lineId, 'both-ends', 'restart'));
  if (!view) return null;
  const isOver = !isUnderWay(view);
  const failed = isOver && view.run?.end !== 'done';
  const { about } = view;
  const way = about.kind === 'both-ends' ? about : null;
  return (
    <Panel
      title={view.procedure.title}
      aside={isOver ? (failed ? 'not done' : 'done') : 'under way; Stop ends it'}
      tools={
        isOver && (
          <Button variant="text" color="inherit" onClick={() => bench.putAway(view.id)}>
            Put away
          </Button>
        )
      }
    >
      <ol className={styles.steps} data-testid="link-work" aria-live="polite">
        {linesOf(view).map(({ text, mark }) => (
          <li key={text}>
            <span className={mark === 'done' ? styles.good : mark === 'failed' ? styles.bad : styles.soft}>
              {MARK[mark]}
            </span>
            <span>{text}</span>
          </li>
        ))}
      </ol>
      {failed && <p className={styles.bad}>It ended there: {view.run?.why}.</p>}
      {failed && way && (
        <>
          <Warning>Way back: {way.wayBack}.</Warning>
          {way.breakMs !== null && (
            <div className={styles.row} style={{ marginTop: 8 }}>
              <Button
                variant="outlined"
                color="inherit"
                onClick={() => bench.post({ kind: 'break', line: view.line, ms: way.breakMs ?? 0 })}
              >
                Send a break of {way.breakMs} ms
              </Button>
            </div>
          )}
        </>
      )}
      {view.run?.end === 'done' && about.kind === 'restart' && <RestartRows view={view} written={about.written} />}
    </Panel>
  );
}

/** What the restart did to each setting. */
function RestartRows({ view, written }: { readonly view: RunView; readonly written: ReadonlySet<Cell> }) {
  const index = useBenchState((state) => indexOf(state, view.line, view.procedure.station));
  const kept = view.run?.kept;
  if (!index || !kept) return null;
  const rows = compareRestart(index, new Map(kept[BEFORE] ?? []), new Map(kept[AFTER] ?? []), written);
  return (
    <>
      {rows.length === 0 && <p>No setting is another than before.</p>}
      <table className={styles.table}>
        <tbody>
          {rows.map(({ parameter, kind, before, after }) => (
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
  );
}
