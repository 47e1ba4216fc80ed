'use client';

import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { goTo } from '../../bench/hooks/go-to';
import { useCurrent } from '../../bench/hooks/use-current';
import { OUTCOME_TEXT } from '../../bench/state/outcome-text';
import { turningOf } from '../../bench/state/known-state';
import { BY_ITSELF, waitingForRestart } from '../../bench/state/restart-pending';
import { restartDrive } from '../../bench/procedures/link-procedures';
import { counted } from '../../core/counted';
import { wordsOfSaid } from '../../core/sets/said';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel } from '../../ui/panel';
import styles from './registers.module.css';

/** The value of a keep command that stores: the one that is not nothing. */
const STORES = 1;
/** Memory that is written anew so often wears noticeably; common practice, no source. */
const MANY_STORES = 20;

/** What stands in working memory only, what waits for a restart, and the acts that end both. */
export function KeepPanel({ index }: { readonly index: SheetIndex }) {
  const bench = useBench();
  const { drive, line, station, name, places, isOpen, view } = useCurrent();
  const entries = useBenchState((state) => state.entries);
  const turning = useBenchState((state) => turningOf(index, view, state.nowUs));
  const [ticket, setTicket] = useState(0);
  const outcome = useBenchState((state) => state.results.get(ticket)?.outcome ?? null);
  if (!line || !station) return null;
  const [keep, restart] = [index.byRole.get('keep'), index.byRole.get('restart')];
  const waiting = waitingForRestart(entries, line.id, station.station, index, places);
  const stores = keep
    ? entries.filter(
        ({ direction, line: own, station: at, bytes, cause }) =>
          direction === 'sent' &&
          !BY_ITSELF.has(cause) &&
          own === line.id &&
          at === station.station &&
          places?.written(bytes).some(([cell, word]) => cell === keep.cells[0] && word === STORES),
      ).length
    : 0;
  const bytes =
    keep && places
      ? places.write(station.station, keep, wordsOfSaid(keep, STORES)[0] ?? STORES, () => undefined)
      : null;
  return (
    <Panel title="Kept and in effect" aside={name}>
      <p className={styles.soft}>
        {keep
          ? `What is written stands in working memory until it is kept by ${keep.number} ${keep.name}; ${counted(stores, 'time')} kept in what this page holds of the trace${stores >= MANY_STORES ? ': such memory wears, so keep at the end' : ''}.`
          : places?.writeKept
            ? 'Over this link each write says itself whether it is kept: a plan is written into working memory, or stored at once.'
            : 'The sheet names no command that keeps settings: what each write does without power stands at the value.'}{' '}
        {waiting.length > 0
          ? `${counted(waiting.length, 'setting')} ${waiting.length === 1 ? 'waits' : 'wait'} for a restart: ${waiting.join(', ')}.`
          : 'Nothing that was written from here waits for a restart.'}
      </p>
      <div className={styles.row}>
        {keep && (
          <ActButton
            variant="outlined"
            off={whyOff([!isOpen, LINE_CLOSED], [!bytes, 'this line does not reach it'])}
            onClick={() => drive && bytes && setTicket(bench.send(drive, bytes, 'Registers, keep'))}
          >
            Keep the settings of {name}
          </ActButton>
        )}
        {restart && (
          <ActButton
            variant="outlined"
            off={whyOff([!isOpen, LINE_CLOSED], [turning === true, 'the shaft turns'])}
            onClick={() => {
              if (drive) restartDrive(bench, drive, index);
              goTo('/line');
            }}
          >
            Restart {name}, and see what became of its settings
          </ActButton>
        )}
        {outcome && <span role="status">{OUTCOME_TEXT[outcome]}</span>}
      </div>
    </Panel>
  );
}
