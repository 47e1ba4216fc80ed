'use client';

import { useState } from 'react';
import type { FrameFilter } from '../../core/capture/frame-index';
import { counted } from '../../core/counted';
import { ChoiceField, TypedField } from '../../ui/fields';
import styles from './frames.module.css';
import type { OpenCaptureView } from './use-capture';

type Typed = Readonly<Record<'unit' | 'fc' | 'register' | 'only' | 'from' | 'to' | 'text', string>>;
const NOTHING: Typed = { unit: '', fc: '', register: '', only: '', from: '', to: '', text: '' };

const numberIn = (text: string): number | undefined =>
  /^\s*(?:0x[0-9a-f]{1,4}|\d{1,5})\s*$/i.test(text) ? Number(text) : undefined;
const secondsIn = (text: string): number | undefined =>
  /^\s*\d+(?:\.\d+)?\s*$/.test(text) ? Number(text) * 1e6 : undefined;

function filterOf({ unit, fc, register, only, from, to }: Typed): FrameFilter {
  const fields = {
    unit: numberIn(unit),
    fc: numberIn(fc),
    register: numberIn(register),
    fromUs: secondsIn(from),
    toUs: secondsIn(to),
  };
  const given = Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined));
  return { ...given, ...(only === '' ? {} : { only: only as NonNullable<FrameFilter['only']> }) };
}

/** What the list shows: columns at once, words as they are found. */
export function CaptureFilters({ capture }: { readonly capture: OpenCaptureView }) {
  const [typed, setTyped] = useState(NOTHING);
  const { found, opened } = capture;
  const put = (change: Partial<Typed>): void => {
    const next = { ...typed, ...change };
    setTyped(next);
    capture.setFilter(filterOf(next), next.text);
  };
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
