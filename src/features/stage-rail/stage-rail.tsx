'use client';

import type { MouseEvent } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { goTo, useStagePath, type StagePath } from '../../bench/hooks/go-to';
import { useKeys } from '../../ui/use-keys';
import { SIDE_PLACES, STAGES } from '../../bench/state/stages';
import styles from './stage-rail.module.css';

/** A plain press shows the stage here; with a key or the middle button the browser opens it elsewhere, as with any link. */
function follow(event: MouseEvent, target: StagePath): void {
  if (event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return;
  event.preventDefault();
  goTo(target);
}

/** The stages in working order; any can be opened at any time, by its number key too. */
export function StageRail() {
  const path = useStagePath();
  const job = useBenchState((state) => state.job);
  useKeys(Object.fromEntries(STAGES.map((stage, i) => [`${i + 1}`, () => goTo(stage.path)])));
  return (
    <nav className={styles.rail} aria-label="Stages">
      {STAGES.map(({ path: target, name }, i) => (
        <a
          key={target}
          href={target}
          onClick={(event) => follow(event, target)}
          className={styles.stage}
          aria-current={path === target ? 'page' : undefined}
          aria-keyshortcuts={`${i + 1}`}
        >
          <span className={styles.number} aria-hidden>
            {i + 1}
          </span>
          {name}
        </a>
      ))}
      {SIDE_PLACES.map(({ path: target, name }) => (
        <a
          key={target}
          href={target}
          onClick={(event) => follow(event, target)}
          className={`${styles.stage} ${styles.side}`}
          aria-current={path === target ? 'page' : undefined}
        >
          <span className={styles.number} aria-hidden />
          {name}
        </a>
      ))}
      <div className={styles.foot}>
        {job?.name ?? ' '}
        <br />
        <kbd>Ctrl K</kbd> any command
        <br />
        <kbd>?</kbd> the keys
      </div>
    </nav>
  );
}
