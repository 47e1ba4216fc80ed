'use client';

import { counted } from '../../core/counted';
import { ChoiceField, TypedField } from '../../ui/fields';
import styles from './frames.module.css';
import { numberIn, secondsIn, type TypedFilter } from './capture-filter';
import type { CaptureActions, CaptureState } from './capture-store';

/** What the list shows: columns at once, words as they are found. */
export function CaptureFilters({ capture }: { readonly capture: CaptureState & CaptureActions }) {
  const { found, opened, typed, setTyped } = capture;
  const put = (change: Partial<TypedFilter>): void => setTyped({ ...typed, ...change });
  const bad = (text: string, read: (text: string) => number | undefined): string =>
    text.trim() !== '' && read(text) === undefined ? 'a number' : '';
  return (
    <div className={styles.tools} role="search" aria-label="Filter the capture">
      <TypedField
        label="Station"
        width={90}
        value={typed.unit}
        onChange={(unit) => put({ unit })}
        error={bad(typed.unit, numberIn)}
      />
      <TypedField
        label="Function"
        width={90}
        value={typed.fc}
        onChange={(fc) => put({ fc })}
        error={bad(typed.fc, numberIn)}
      />
      <TypedField
        label="Register"
        width={100}
        value={typed.register}
        onChange={(register) => put({ register })}
        error={bad(typed.register, numberIn)}
      />
      <ChoiceField
        label="Only"
        width={150}
        value={typed.only}
        onChange={(only) => put({ only })}
        options={[
          ['', 'everything'],
          ['faults', 'no frames'],
          ['exceptions', 'refusals'],
          ['unanswered', 'unanswered'],
        ]}
      />
      <TypedField
        label="From, s"
        width={90}
        value={typed.from}
        onChange={(from) => put({ from })}
        error={bad(typed.from, secondsIn)}
      />
      <TypedField
        label="To, s"
        width={90}
        value={typed.to}
        onChange={(to) => put({ to })}
        error={bad(typed.to, secondsIn)}
      />
      <TypedField label="Words or bytes" width={200} value={typed.text} onChange={(text) => put({ text })} />
      <span role="status" data-testid="capture-found">
        {found
          ? `${counted(found.count, 'entry', 'entries')} of ${opened?.frames ?? 0}${found.over ? '' : `, ${found.looked} looked at …`}`
          : ''}
      </span>
    </div>
  );
}
