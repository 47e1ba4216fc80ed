'use client';

import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { hexToBytes } from '../../core/bytes/hex';
import { ByteStrip } from '../../ui/byte-strip';
import { Panel } from '../../ui/panel';
import { firstBaseOf, useFrameView } from './use-frame-view';

/** A reply from a log or a colleague, read against the request above where it belongs to it. */
export function PastedPanel({ request }: { readonly request: Uint8Array }) {
  const { key, protocol, index } = useCurrent();
  const { fieldsOf } = useFrameView();
  const [text, setText] = useTyped('pasted reply', key, 'bytes', '');
  const shown = useMemo(() => {
    const bytes = hexToBytes(text);
    if (!protocol || !bytes.ok || bytes.value.length === 0) return null;
    const pairing = protocol.pair(request, bytes.value);
    const asked = pairing.kind === 'other' ? null : request;
    return {
      bytes: [...bytes.value],
      fields: fieldsOf(bytes.value, 'response', asked),
      faults: protocol.read(bytes.value, 'response', asked).faults,
      sentence: protocol.sentence(bytes.value, 'response', asked, index),
      belongs: pairing.kind === 'other' ? `not to the request above: ${pairing.why}` : 'it fits the request above',
    };
  }, [text, protocol, request, fieldsOf, index]);
  if (!shown) return null;
  return (
    <Panel
      title="◂ Pasted reply"
      aside={shown.belongs}
      tools={
        <Button variant="text" color="inherit" onClick={() => setText('')}>
          Put away
        </Button>
      }
    >
      <p data-testid="pasted-sentence">{shown.sentence}</p>
      <ByteStrip
        firstBase={firstBaseOf(protocol)}
        label="Pasted reply"
        bytes={shown.bytes}
        fields={shown.fields}
        faults={shown.faults}
        direction="received"
        small
      />
    </Panel>
  );
}
