'use client';

import Button, { type ButtonProps } from '@mui/material/Button';
import { useId } from 'react';
import styles from './act-button.module.css';

/** A button that says why it is off: `off` is the reason, empty while it may be pressed. */
export function ActButton({ off, ...button }: Omit<ButtonProps, 'disabled'> & { readonly off: string }) {
  const id = useId();
  return (
    <span className={styles.act}>
      <Button {...button} disabled={off !== ''} {...(off === '' ? {} : { 'aria-describedby': id })} />
      {off !== '' && (
        <span id={id} className={styles.why}>
          {off}
        </span>
      )}
    </span>
  );
}

export const LINE_CLOSED = 'the line is closed';

/** The first reason that holds; empty where none does. */
export const whyOff = (...reasons: readonly (readonly [holds: boolean, why: string])[]): string =>
  reasons.find(([holds]) => holds)?.[1] ?? '';
