'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { useKeys } from '../../ui/use-keys';

// Both come when they are first asked for: the first view has no use for them.
const CommandList = dynamic(() => import('./command-list').then((part) => part.CommandList), { ssr: false });
const KeyMapDialog = dynamic(() => import('./key-map-dialog').then((part) => part.KeyMapDialog), { ssr: false });

type Shown = 'nothing' | 'commands' | 'keys';

/** Any command by its name (Ctrl K), and the map of keys (?). */
export function Palette() {
  const [shown, setShown] = useState<Shown>('nothing');
  const close = (): void => setShown('nothing');
  useKeys({ 'Ctrl+k': () => setShown('commands'), '?': () => setShown('keys') });
  return (
    <>
      {shown === 'commands' && <CommandList onClose={close} onKeys={() => setShown('keys')} />}
      {shown === 'keys' && <KeyMapDialog onClose={close} />}
    </>
  );
}
