'use client';

import TextField from '@mui/material/TextField';
import type { ReactNode } from 'react';
import { useSayUnread } from './unread';

interface FieldProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  /** A sentence at the field; what was typed stays. */
  readonly error?: string;
  readonly width?: number | string;
  readonly disabled?: boolean;
}

/** A typed value with its fault beside it; while it has one, the acts of the form around it are off. */
export function TypedField({
  label,
  value,
  onChange,
  error = '',
  width = 120,
  disabled,
  ...rest
}: FieldProps & {
  readonly placeholder?: string;
  /** Said under the field while it has no fault. */
  readonly note?: ReactNode;
  /** Id of a list of usual values that the browser offers. */
  readonly list?: string;
}) {
  useSayUnread(label, error !== '');
  return (
    <TextField
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      error={error !== ''}
      helperText={error || rest.note || undefined}
      disabled={disabled === true}
      placeholder={rest.placeholder ?? ''}
      slotProps={{
        inputLabel: { shrink: true },
        ...(rest.list === undefined ? {} : { htmlInput: { list: rest.list } }),
      }}
      sx={{ width, '& .MuiFormHelperText-root': { marginX: 0 } }}
    />
  );
}

/** One of a few values. */
export function ChoiceField({
  label,
  value,
  onChange,
  error = '',
  width = 120,
  disabled,
  options,
}: FieldProps & { readonly options: readonly (readonly [string, ReactNode])[] }) {
  return (
    <TextField
      select
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      error={error !== ''}
      helperText={error || undefined}
      disabled={disabled === true}
      slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      sx={{ width }}
    >
      {options.map(([id, text]) => (
        <option key={id} value={id}>
          {text}
        </option>
      ))}
    </TextField>
  );
}
