'use client';

import type { ReactNode } from 'react';
import { LineStrip } from '../features/line-strip/line-strip';
import { Notices } from '../features/line-strip/notices';
import { Palette } from '../features/palette/palette';
import { StageRail } from '../features/stage-rail/stage-rail';
import { TracePanel } from '../features/trace/trace-panel';
import { UpdateNotice } from './update-notice';
import { StageView } from './stage-view';
import styles from './bench-frame.module.css';

/**
 * What is always there: the line strip above, the stages at the left, the trace below, the stage in the middle. What comes and goes by itself stands
 * between stage and trace, where it takes room from below: nothing that a hand is about to press is moved from under it.
 */
export function BenchFrame({ children }: { readonly children: ReactNode }) {
  return (
    <div className={styles.frame}>
      <div className={styles.strip}>
        <LineStrip />
      </div>
      <div className={styles.rail}>
        <StageRail />
      </div>
      <main className={styles.stage} id="stage">
        <StageView>{children}</StageView>
      </main>
      <div className={styles.notice}>
        <UpdateNotice />
        <Notices />
      </div>
      <div className={styles.trace}>
        <TracePanel />
      </div>
      <Palette />
    </div>
  );
}
