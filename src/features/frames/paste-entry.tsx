'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { LONGEST_PASTE } from '../../core/bytes/pasted';
import { hexNumber } from '../../core/bytes/hex';
import { counted } from '../../core/counted';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import { PasteArea } from '../../ui/paste-area';
import styles from './frames.module.css';
import { readExchange } from './pasted-reading';

interface PasteEntryProps {
  readonly protocol: LineProtocol;
  readonly onRequest: (bytes: Uint8Array) => void;
  readonly onReply: (bytes: Uint8Array) => void;
}

/** Bytes from anywhere, in any notation, with marks of who spoke or without; reading stops with a sentence at the character. */
export function PasteEntry({ protocol, onRequest, onReply }: PasteEntryProps) {
  const [text, setText] = useState('');
  const read = text.trim() === '' ? null : readExchange(text, protocol);
  const exchange = read?.ok ? read.value : null;
  const completed = exchange?.request && !exchange.reply ? completedOf(exchange.request, protocol) : null;
  const take = (request = exchange?.request ?? null): void => {
    if (!exchange) return;
    if (request) onRequest(request);
    if (exchange.reply) onReply(exchange.reply);
    setText('');
  };
  const help =
    read === null
      ? ''
      : read.ok
        ? `${read.value.said}; Enter takes ${read.value.request && read.value.reply ? 'them' : 'it'}${read.value.left > 0 ? `; ${counted(read.value.left, 'frame')} more left out: paste them under “Capture”` : ''}`
        : read.error.text;
  return (
    <div className={styles.paste}>
      <PasteArea
        rows={text === '' ? 1 : 3}
        longest={LONGEST_PASTE}
        label="Or paste bytes, any notation"
        value={text}
        onChange={setText}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || event.ctrlKey || event.shiftKey) return;
          event.preventDefault();
          take();
        }}
        error={read?.ok === false}
        help={help}
      />
      {completed && (
        <Button variant="outlined" color="inherit" onClick={() => take(completed.bytes)}>
          Take it with {completed.added}
        </Button>
      )}
    </div>
  );
}

/** The same bytes with the check or head that was left out, and what that is; null where nothing was. */
function completedOf(
  bytes: Uint8Array,
  protocol: LineProtocol,
): { readonly bytes: Uint8Array; readonly added: string } | null {
  if (protocol.read(bytes, 'request').faults.length === 0) return null;
  const whole = protocol.completed(bytes);
  if (!whole) return null;
  const tail = [...whole.subarray(bytes.length)].map((byte) => hexNumber(byte, 2).slice(2)).join(' ');
  const isTail = bytes.every((byte, i) => byte === whole[i]);
  return { bytes: whole, added: isTail && !protocol.speaksText ? `its check, ${tail}` : 'opening, check and closing' };
}
