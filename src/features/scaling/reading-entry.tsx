'use client';

import { useState } from 'react';
import type { Rational } from '../../core/scaling/rational';
import { wantedFrom, type ReadingKind, type SpeedScale } from '../../core/scaling/speed-scale';
import { useSayUnread } from '../../ui/unread';
import styles from './scaling.module.css';

interface ReadingEntryProps {
  readonly scale: SpeedScale;
  readonly kind: ReadingKind;
  readonly label: string;
  readonly text: string;
  readonly onWanted: (wanted: Rational) => void;
}

/** One reading that can be typed into; while it is being typed it shows what was typed, then what the number became. */
export function ReadingEntry({ scale, kind, label, text, onWanted }: ReadingEntryProps) {
  const [entry, setEntry] = useState<{ readonly text: string; readonly over: string } | null>(null);
  const result = entry === null ? null : wantedFrom(scale, kind, entry.text);
  // What was refused stays, named, until it is mended or the value is set elsewhere.
  const stands = entry !== null && (result?.ok === true || entry.over === text);
  const isRefused = stands && result?.ok === false;
  useSayUnread(label, isRefused);
  const id = `reading-${kind}`;
  return (
    <div className={styles.reading}>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        value={stands ? entry.text : text}
        spellCheck={false}
        aria-invalid={isRefused}
        aria-describedby={`${id}-trouble`}
        onChange={(event) => {
          setEntry({ text: event.target.value, over: text });
          const wanted = wantedFrom(scale, kind, event.target.value);
          if (wanted.ok) onWanted(wanted.value);
        }}
        onBlur={() => {
          if (!isRefused) setEntry(null);
        }}
      />
      <div id={`${id}-trouble`} className={styles.trouble}>
        {isRefused ? result.error.text : ''}
      </div>
    </div>
  );
}
