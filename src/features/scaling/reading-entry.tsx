'use client';

import { useState } from 'react';
import type { Rational } from '../../core/scaling/rational';
import { wantedFrom, type ReadingKind, type SpeedScale } from '../../core/scaling/speed-scale';
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
  const [typed, setTyped] = useState<string | null>(null);
  const result = typed === null ? null : wantedFrom(scale, kind, typed);
  const id = `reading-${kind}`;
  return (
    <div className={styles.reading}>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        value={typed ?? text}
        spellCheck={false}
        aria-invalid={result?.ok === false}
        aria-describedby={`${id}-trouble`}
        onChange={(event) => {
          setTyped(event.target.value);
          const wanted = wantedFrom(scale, kind, event.target.value);
          if (wanted.ok) onWanted(wanted.value);
        }}
        onBlur={() => setTyped(null)}
      />
      <div id={`${id}-trouble`} className={styles.trouble}>
        {result?.ok === false ? result.error.text : ''}
      </div>
    </div>
  );
}
