import Button from '@mui/material/Button';
import type { StepReport } from '../../core/trial/report';
import { HeadRow } from '../../ui/head-row';
import { useLongList } from '../../ui/use-long-list';
import { VerdictMark } from './verdict-mark';
import styles from './trials.module.css';

/** The usual height of a row. */
const ROW_PX = 30;

/** What is done, one step after the other, and what each came to. */
export function StepsTable({
  steps,
  onShow,
}: {
  readonly steps: readonly StepReport[];
  /** Shows one of them in the picture; null where there is none. */
  readonly onShow: ((at: number) => void) | null;
}) {
  const { scroller, shown, before, after, measure, isLong } = useLongList<HTMLDivElement>(steps.length, ROW_PX);
  return (
    <div className={isLong ? styles.longTable : styles.scroll} ref={scroller}>
      <table className={styles.table} aria-label="Steps of the trial" aria-rowcount={steps.length + 1}>
        <HeadRow names={['', 'what is done and expected', 'shaft', 'verdict', 'seen', 'took', '']} />
        <tbody>
          {before > 0 && <tr style={{ height: before }} />}
          {shown.map((at) => {
            const report = steps[at];
            return report && <StepRow key={at} at={at} report={report} measure={measure} onShow={onShow} />;
          })}
          {after > 0 && <tr style={{ height: after }} />}
        </tbody>
      </table>
    </div>
  );
}

interface RowProps {
  readonly at: number;
  readonly report: StepReport;
  readonly measure: (row: HTMLElement | null) => void;
  readonly onShow: ((at: number) => void) | null;
}

function StepRow({ at, report: { compiled, verdict, why, seen, fromUs, toUs }, measure, onShow }: RowProps) {
  return (
    <tr ref={measure} data-index={at} aria-current={verdict === 'under-way' ? 'step' : undefined}>
      <td>{at + 1}</td>
      <td>
        {compiled.text}
        {compiled.time > 1 && `, time ${compiled.time}`}
        {compiled.step.note !== undefined && <span className={styles.note}>{compiled.step.note}</span>}
        {why !== '' && (
          <span className={verdict === 'failed' ? styles.why : styles.note}>
            {compiled.isLeftOut ? `left out: ${why}` : why}
          </span>
        )}
      </td>
      <td>{compiled.turns ? '↻ may turn' : ''}</td>
      <td className={styles.short}>
        <VerdictMark verdict={verdict} />
      </td>
      <td className={styles.mono}>{seen}</td>
      <td className={`${styles.mono} ${styles.short}`}>
        {fromUs !== null && toUs !== null && toUs > fromUs ? `${((toUs - fromUs) / 1e6).toFixed(2)} s` : ''}
      </td>
      <td>
        {onShow && (
          <Button
            variant="text"
            color="inherit"
            sx={{ py: 0 }}
            aria-label={`Show step ${at + 1} in the picture`}
            onClick={() => onShow(at)}
          >
            show
          </Button>
        )}
      </td>
    </tr>
  );
}
