import type { StepReport } from '../../core/trial/report';
import { VerdictMark } from './verdict-mark';
import styles from './trials.module.css';

interface StepsProps {
  readonly steps: readonly StepReport[];
}

/** What is done, one step after the other, and what each came to. */
export function StepsTable({ steps }: StepsProps) {
  return (
    <div className={styles.scroll}>
      <table className={styles.table} aria-label="Steps of the trial">
        <thead>
          <tr>
            {['', 'what is done and expected', 'shaft', 'verdict', 'seen', 'took'].map((heading) => (
              <th key={heading} scope="col">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {steps.map(({ compiled, verdict, why, seen, fromUs, toUs }, i) => (
            <tr
              key={`${compiled.step.id} ${compiled.time}`}
              aria-current={verdict === 'under-way' ? 'step' : undefined}
            >
              <td>{i + 1}</td>
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
              <td>
                <VerdictMark verdict={verdict} />
              </td>
              <td className={styles.mono}>{seen}</td>
              <td className={styles.mono}>
                {fromUs !== null && toUs !== null && toUs > fromUs ? `${((toUs - fromUs) / 1e6).toFixed(2)} s` : ''}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
