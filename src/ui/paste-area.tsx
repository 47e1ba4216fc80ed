'use client';

import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState, type ClipboardEvent, type KeyboardEvent, type ReactNode } from 'react';

/** A longer text is held whole and shown by its beginning: laying all of it out would hold the page up. */
const SHOWN_WHOLE = 10_000;
const BEGINNING = 2000;

interface PasteAreaProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly rows: number;
  /** More characters than this are not taken. */
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
  const isBeginning = value.length > SHOWN_WHOLE;
  const take = (text: string): void => {
    setRefused('');
    if (text.length <= longest) onChange(text);
    else if (onTooLong) onTooLong(text);
    else setRefused(`${text.length} characters were not taken: ${longest} at most`);
  };
  const paste = (event: ClipboardEvent<HTMLDivElement>): void => {
    const pasted = event.clipboardData.getData('text');
    const { target } = event;
    if (!(target instanceof HTMLTextAreaElement)) return;
    // What is shown by its beginning cannot be written into: the next text takes its place.
    const next = isBeginning
      ? pasted
      : value.slice(0, target.selectionStart) + pasted + value.slice(target.selectionEnd);
    if (!isBeginning && next.length <= SHOWN_WHOLE) return;
    event.preventDefault();
    take(next);
  };
  return (
    <TextField
      fullWidth
      multiline
      rows={rows}
      label={label}
      value={isBeginning ? beginningOf(value) : value}
      onPaste={paste}
      onChange={({ target: { value: text } }) => take(text)}
      {...(onKeyDown ? { onKeyDown } : {})}
      error={error || refused !== ''}
      helperText={refused || help}
      slotProps={{
        inputLabel: { shrink: true },
        // The field that fits itself to its text lays a long one out twice, half a second for 3000 rows; this one keeps its rows.
        input: {
          inputComponent: 'textarea',
          ...(isBeginning
            ? {
                endAdornment: (
                  <Beginning
                    value={value}
                    onEmpty={() => {
                      setRefused('');
                      onChange('');
                    }}
                  />
                ),
                sx: { flexWrap: 'wrap' },
              }
            : {}),
        },
        htmlInput: {
          spellCheck: false,
          readOnly: isBeginning,
          style: { fontFamily: 'Atkinson Hyperlegible Mono Variable' },
        },
      }}
    />
  );
}

/** Whole lines where there are any. */
function beginningOf(text: string): string {
  const end = text.lastIndexOf('\n', BEGINNING);
  return text.slice(0, end > 0 ? end : BEGINNING);
}

function Beginning({ value, onEmpty }: { readonly value: string; readonly onEmpty: () => void }) {
  const all = lineCount(value);
  const shown = lineCount(beginningOf(value));
  const part = shown > 1 ? `the first ${shown} are shown` : `the first ${BEGINNING} are shown`;
  return (
    <span style={{ flex: '1 0 100%' }}>
      {all > 1 ? `${all} lines` : `${value.length} characters`}: {part}, all are read.{' '}
      <Button size="small" color="inherit" onClick={onEmpty}>
        Empty the field
      </Button>
    </span>
  );
}

function lineCount(text: string): number {
  let count = 1;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) count++;
  return count;
}
