'use client';

import Button from '@mui/material/Button';
import type { Look } from '../../core/registers/look';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { placeIn } from './look-space';
import { useLook } from './look-store';
import { editSheet, setEntry, setPart } from './sheet-drafts';

interface EntryButtonProps {
  readonly sheet: Sheet;
  readonly look: Look;
  readonly address: number;
  /** How it was found. */
  readonly said: string;
  /** What is known of it besides where it is. */
  readonly as?: Partial<Parameter>;
}

/** From a find to a named entry in one press. */
export function EntryButton({ sheet, look, address, said, as = {} }: EntryButtonProps) {
  const drive = useLook((state) => state.name);
  const commands = useLook((state) => state.commands);
  const make = (): void => {
    const taken = new Set(sheet.parameters?.map(({ number }) => number));
    const own = look.table === 'command' ? (commands[address] ?? '') : `${address}`;
    const number = taken.has(own) ? `${look.table === 'input-register' ? 'I' : 'R'}${own}` : own;
    const entry: Parameter = {
      number,
      name: `${look.table === 'uss' ? 'parameter' : look.table === 'command' ? 'command' : 'register'} ${own}`,
      type: look.table === 'coil' || look.table === 'discrete-input' ? 'bool' : 'uint16',
      at: [placeIn(look.table, address, commands)],
      source: { kind: 'drive', text: `${drive}, ${said}`.slice(0, 400) },
      ...as,
    };
    editSheet((before) => ({ ...before, parameters: [...(before.parameters ?? []), entry] }));
    setEntry(sheet.parameters?.length ?? 0);
    setPart('parameters');
  };
  return (
    <Button variant="text" color="inherit" onClick={make}>
      Make an entry
    </Button>
  );
}
