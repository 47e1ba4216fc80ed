'use client';

import Button from '@mui/material/Button';
import { useRef, type ReactNode } from 'react';

interface FileButtonProps {
  /** What the browser's own field of the file is called. */
  readonly label: string;
  /** Endings and types that are offered first. */
  readonly accept?: string;
  readonly onFile: (file: File) => void;
  readonly disabled?: boolean;
  readonly variant?: 'text' | 'outlined' | 'contained';
  readonly children: ReactNode;
}

/** A button that lets the user choose one file; the same file can be chosen again. */
export function FileButton({ label, accept, onFile, disabled = false, variant = 'text', children }: FileButtonProps) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button variant={variant} color="inherit" disabled={disabled} onClick={() => chooser.current?.click()}>
        {children}
      </Button>
      <input
        ref={chooser}
        type="file"
        {...(accept === undefined ? {} : { accept })}
        hidden
        aria-label={label}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
