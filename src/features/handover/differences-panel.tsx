'use client';

import type { RecordDifference } from '../../core/handover/differences';
import type { VisitRecord } from '../../core/handover/document';
import { dateText } from '../../ui/format';
import { HeadRow } from '../../ui/head-row';
import { Panel } from '../../ui/panel';
import { useLongList } from '../../ui/use-long-list';
import styles from './handover.module.css';

const ROW_PX = 44;
const cells = (row: readonly string[] | null): string => row?.filter((cell) => cell !== '').join(' · ') ?? '';

/** What is different from an earlier record, line by line: settings, identity, words, verdicts. */
export function DifferencesPanel({
  differences,
  before,
}: {
  readonly differences: readonly RecordDifference[];
  readonly before: VisitRecord;
}) {
  const {
    scroller,
    shown,
    before: above,
    after: below,
    measure,
  } = useLongList<HTMLDivElement>(differences.length, ROW_PX);
  const when = dateText(Date.parse(before.made));
  return (
    <Panel title={`Different since ${when}`} aside={differences.length === 0 ? 'nothing' : `${differences.length}`}>
      {differences.length > 0 && (
        <div className={styles.list} ref={scroller}>
          <table className={styles.table} aria-label="Differences" aria-rowcount={differences.length + 1}>
            <HeadRow names={['where', `in the record of ${when}`, 'in this one']} />
            <tbody>
              {above > 0 && <tr style={{ height: above }} />}
              {shown.map((at) => {
                const own = differences[at];
                return (
                  own && (
                    <tr key={at} ref={measure} data-index={at}>
                      <td>
                        {own.section}
                        <span className={styles.soft}>{own.table}</span>
                      </td>
                      <td>{own.before ? cells(own.before) : 'not there'}</td>
                      <td>{own.after ? cells(own.after) : 'not there any more'}</td>
                    </tr>
                  )
                );
              })}
              {below > 0 && <tr style={{ height: below }} />}
            </tbody>
          </table>
        </div>
      )}
    </Panel>
  );
}
