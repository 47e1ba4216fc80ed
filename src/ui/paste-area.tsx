'use client';

import TextField from '@mui/material/TextField';
import { useState, type KeyboardEvent, type ReactNode } from 'react';

interface PasteAreaProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly rows: number;
  /** More characters than this never reach the field: laying them out alone would hold the page up. */
  readonly longest: number;
  /** What is done with a longer text; without it the field says that it was not taken. */
  readonly onTooLong?: (text: string) => void;
  readonly error?: boolean;
  readonly help?: ReactNode;
  readonly onKeyDown?: (event: KeyboardEvent) => void;
}

/** A field of several rows that people paste into. */
export function PasteArea({
  label,
  value,
  onChange,
  rows,
  longest,
  onTooLong,
  error = false,
  help,
  onKeyDown,
}: PasteAreaProps) {
  const [refused, setRefused] = useState('');
  const take = (text: string, isTooLong: boolean): void => {
    setRefused('');
    if (!isTooLong) onChange(text);
    else if (onTooLong) onTooLong(text);
    else setRefused(`${text.length} characters were not taken: ${longest} at most`);
  };
  return (
    <TextField
      fullWidth
      multiline
      rows={rows}
      label={label}
      value={value}
      onPaste={(event) => {
        const text = event.clipboardData.getData('text');
        if (value.length + text.length <= longest) return;
        event.preventDefault();
        take(text, true);
      }}
      onChange={({ target: { value: text } }) => take(text, text.length > longest)}
      {...(onKeyDown ? { onKeyDown } : {})}
      error={error || refused !== ''}
      helperText={refused || help}
      slotProps={{
        inputLabel: { shrink: true },
        // The field that fits itself to its text lays a long one out twice, half a second for 3000 rows; this one keeps its rows.
        input: { inputComponent: 'textarea' },
        htmlInput: { spellCheck: false, style: { fontFamily: 'Atkinson Hyperlegible Mono Variable' } },
      }}
    />
  );
}
