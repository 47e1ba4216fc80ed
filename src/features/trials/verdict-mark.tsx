import type { Verdict } from '../../core/trial/report';
import type { Measured } from '../../core/trial/measure';
import styles from './trials.module.css';

const MARKS: Readonly<Record<Verdict | Measured['verdict'], string>> = {
  passed: '✓ passed',
  failed: '✗ failed',
  open: '? cannot be told',
  'under-way': '▸ under way',
  'not-done': '· not done',
};

export const verdictText = (verdict: Verdict | Measured['verdict']): string => MARKS[verdict];

/** A verdict as a mark and a word. */
export const VerdictMark = ({ verdict }: { readonly verdict: Verdict | Measured['verdict'] }) => (
  <span className={verdict === 'failed' ? styles.bad : verdict === 'passed' ? styles.good : styles.soft}>
    {MARKS[verdict]}
  </span>
);
