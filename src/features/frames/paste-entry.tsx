'use client';

import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { parseBytes } from '../../core/bytes/notation';
import styles from './frames.module.css';

/** Bytes from anywhere, in any notation; reading stops with a sentence at the character. */
export function PasteEntry({ onBytes }: { readonly onBytes: (bytes: Uint8Array) => void }) {
  const [text, setText] = useState('');
  const parsed = text.trim() === '' ? null : parseBytes(text);
  const take = (): void => {
    if (!parsed?.ok) return;
    onBytes(parsed.value.bytes);
    setText('');
  };
  const help = !parsed
    ? ''
    : parsed.ok
      ? `${parsed.value.bytes.length} bytes, read as ${parsed.value.notation}; Enter takes them`
      : parsed.error.text;
  return (
    <TextField
      className={styles.paste}
      label="Or paste bytes, any notation"
      value={text}
      onChange={(event) => setText(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && !event.ctrlKey) take();
      }}
      error={parsed !== null && !parsed.ok}
      helperText={help}
      slotProps={{ htmlInput: { spellCheck: false, style: { fontFamily: 'Atkinson Hyperlegible Mono Variable' } } }}
    />
  );
}
