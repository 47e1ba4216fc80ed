'use client';

import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import { useBenchState } from '../../bench/bench-context';
import { useKeys } from '../../ui/use-keys';
import { STAGES } from '../../bench/stages';
import styles from './stage-rail.module.css';

/** The stages in working order; any can be opened at any time, by its number key too. */
export function StageRail() {
  const path = usePathname();
  const router = useRouter();
  const job = useBenchState((state) => state.job);
  useKeys(Object.fromEntries(STAGES.map((stage, i) => [`${i + 1}`, () => router.push(stage.path)])));
  return (
    <nav className={styles.rail} aria-label="Stages">
      {STAGES.map(({ path: target, name }, i) => (
        <Link
          key={target}
          href={target}
          prefetch={false}
          className={styles.stage}
          aria-current={path === target ? 'page' : undefined}
          aria-keyshortcuts={`${i + 1}`}
        >
          <span className={styles.number} aria-hidden>
            {i + 1}
          </span>
          {name}
        </Link>
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
