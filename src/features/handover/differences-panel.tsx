'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useRegisters } from '../../bench/registers/registers-store';
import { counted } from '../../core/counted';
import type { RecordDifference } from '../../core/handover/differences';
import type { VisitRecord } from '../../core/handover/document';
import { dateText } from '../../ui/format';
import { HeadRow } from '../../ui/head-row';
import { Panel } from '../../ui/panel';
import { useLongList } from '../../ui/use-long-list';
import { ActButton } from '../../ui/act-button';
import { useHandover } from './handover-store';
import styles from './handover.module.css';
import { endReading, readable, readEverything } from './read-again';

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
    <Panel
      title={`Different since ${when}`}
      aside={differences.length === 0 ? 'nothing' : `${differences.length}`}
      tools={<ReadAgain />}
    >
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
                      <td>{own.before ? cells(own.before) : 'not in that record'}</td>
                      <td>{own.after ? cells(own.after) : 'not in this record'}</td>
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

/** One press reads all that can be reached; what is different since then stands below. */
function ReadAgain() {
  const bench = useBench();
  const isReading = useHandover((state) => state.isReading);
  const count = useBenchState((state) => readable(state).length);
  const left = useRegisters(({ running, sets }) =>
    [...running.values()].reduce((sum, { id }) => {
      const reading = sets.get(id)?.reading;
      return sum + (reading ? reading.of - reading.said.size : 0);
    }, 0),
  );
  return isReading ? (
    <>
      <span role="status" className={styles.soft}>
        {counted(left, 'value')} to go
      </span>
      <Button variant="outlined" color="inherit" onClick={endReading}>
        Pause
      </Button>
    </>
  ) : (
    <ActButton
      variant="outlined"
      color="inherit"
      off={count === 0 ? 'no line with a drive that has a sheet is open' : ''}
      onClick={() => void readEverything(bench)}
    >
      Read all {counted(count, 'drive')} again
    </ActButton>
  );
}
