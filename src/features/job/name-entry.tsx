'use client';

import OutlinedInput from '@mui/material/OutlinedInput';

interface NameEntryProps {
  readonly label: string;
  readonly value: string;
  readonly onName: (name: string) => void;
  readonly onEnter: () => void;
  readonly onLeave: () => void;
  readonly onBlur?: () => void;
}

/** The name of a job as it is typed: Enter takes it, Escape leaves it. */
export function NameEntry({ label, value, onName, onEnter, onLeave, onBlur }: NameEntryProps) {
  return (
    <OutlinedInput
      size="small"
      placeholder={label}
      inputProps={{ 'aria-label': label }}
      value={value}
      autoFocus
      onChange={(event) => onName(event.target.value)}
      onBlur={onBlur}
      onKeyDown={(event) => {
        if (event.key === 'Enter') onEnter();
        if (event.key === 'Escape') onLeave();
      }}
    />
  );
}
