'use client';

import { useState } from 'react';
import { bitChanges } from '../../core/trace/bit-changes';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { clockText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { useTrend } from './use-trend';
import styles from './words.module.css';

/** Rows that are shown at once; older ones are counted. */
const MOST = 200;

/** When each bit of the status word rose and fell, newest first. */
export function TimelinePanel({ index }: { readonly index: SheetIndex }) {
  const { trend, startMs } = useTrend(index);
  const [bit, setBit] = useState('all');
  const changes = bitChanges(trend?.bits ?? []);
  const shown = bit === 'all' ? changes : changes.filter((change) => `${change.bit}` === bit);
  const time = (x: number): string => clockText(startMs + x * 1000);
  return (
    <Panel
      title="Changes of the status word"
      aside={`${shown.length} seen in the trace of this start`}
      tools={
        <select aria-label="Bit" value={bit} onChange={(event) => setBit(event.target.value)}>
          <option value="all">all bits</option>
          {(trend?.bits ?? []).map((track) => (
            <option key={track.bit} value={track.bit}>
              {track.bit} {track.name}
            </option>
          ))}
        </select>
      }
    >
      {shown.length === 0 ? (
        <p>No bit was seen to change. Press Watch; it only reads.</p>
      ) : (
        <table className={styles.changes}>
          <thead>
            <tr>
              <th scope="col">seen at</th>
              <th scope="col">bit</th>
              <th scope="col">change</th>
              <th scope="col">not before</th>
            </tr>
          </thead>
          <tbody>
            {shown.slice(0, MOST).map((change) => (
              <tr key={`${change.x} ${change.bit}`}>
                <td>{time(change.x)}</td>
                <td>{change.bit}</td>
                <td>
                  {change.rose ? '↑' : '↓'} {change.name} {change.rose ? 'rose' : 'fell'}
                </td>
                <td>{time(change.afterX)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {shown.length > MOST && <p>{shown.length - MOST} older ones are not shown; choose one bit.</p>}
    </Panel>
  );
}
