'use client';

import { useState } from 'react';
import { COPY_FORMS } from '../core/bytes/copy-forms';
import { selectionValues } from '../core/bytes/selection-values';
import { counted } from '../core/counted';
import styles from './byte-strip.module.css';

/** What the selected bytes are as numbers, and the forms in which they can be copied. */
export function SelectionPanel({ bytes }: { readonly bytes: Uint8Array }) {
  const [copied, setCopied] = useState('');
  const copy = (name: string, text: string): void => {
    navigator.clipboard.writeText(text).then(
      () => setCopied(`copied as ${name}`),
      () => setCopied(`the browser does not allow copying here: ${text}`),
    );
  };
  const values = selectionValues(bytes);
  return (
    <div className={styles.selection} aria-live="polite">
      <span>
        <b>{counted(bytes.length, 'byte')} selected</b>
        {values.length === 0 && ': 1, 2, 4 or 8 make a number'}
      </span>
      {values.map(({ type, order, value }) => (
        <span key={`${type} ${order}`} className={styles.value}>
          {type}
          {order && ` ${order}`} <b>{value}</b>
        </span>
      ))}
      <span className={styles.copies}>
        copy as
        {COPY_FORMS.map(({ name, of }) => (
          <button key={name} type="button" onClick={() => copy(name, of(bytes))}>
            {name}
          </button>
        ))}
        {copied}
      </span>
    </div>
  );
}
