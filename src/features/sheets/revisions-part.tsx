'use client';

import { useState } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { compareSheets } from '../../core/sheet/compare-sheets';
import { revisionsOf } from '../../core/sheet/shelf';
import type { Sheet } from '../../core/sheet/sheet';
import { ChoiceField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import styles from './sheets.module.css';

const MOST_SHOWN = 200;

/** What differs between the sheet as it is typed and one of its revisions, or what it was made from. */
export function RevisionsPart({ sheet }: { readonly sheet: Sheet }) {
  const sheets = useBenchState((state) => state.sheets);
  const base = sheet.base ? revisionsOf(sheets, sheet.base.slug) : [];
  const known = [...revisionsOf(sheets, sheet.slug), ...base];
  const [chosen, setChosen] = useState(0);
  const other = known[chosen]?.sheet;
  if (!other) return <Panel title="Revisions">Nothing was kept yet to compare with.</Panel>;
  const differences = compareSheets(other, sheet);
  return (
    <Panel
      title={differences.length === 0 ? 'No difference' : `${differences.length} differences`}
      aside="the sheet as it is here, against"
      tools={
        <ChoiceField
          label="Against"
          width={260}
          value={`${chosen}`}
          onChange={(value) => setChosen(Number(value))}
          options={known.map(({ sheet: one }, i) => [`${i}`, `${one.name}, revision ${one.revision}`] as const)}
        />
      }
    >
      <table className={styles.found} aria-label="Differences">
        <thead>
          <tr>
            <th scope="col">what</th>
            <th scope="col">
              {other.name}, revision {other.revision}
            </th>
            <th scope="col">here</th>
          </tr>
        </thead>
        <tbody>
          {differences.slice(0, MOST_SHOWN).map(({ what, before, after }, i) => (
            <tr key={i}>
              <td>{what}</td>
              <td className={styles.mono}>{before?.slice(0, 200) ?? 'none'}</td>
              <td className={styles.mono}>{after?.slice(0, 200) ?? 'none'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {differences.length > MOST_SHOWN && <p className={styles.soft}>And {differences.length - MOST_SHOWN} more.</p>}
    </Panel>
  );
}
