'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { Command } from 'cmdk';
import { Fragment, useState } from 'react';
import { useKeys } from '../../ui/use-keys';
import { KEY_TABLE } from './key-table';
import styles from './palette.module.css';
import { useCommands, type PaletteCommand } from './use-commands';

type Shown = 'nothing' | 'commands' | 'keys';

/** Any command by its name (Ctrl K), and the map of keys (?). */
export function Palette() {
  const [shown, setShown] = useState<Shown>('nothing');
  const close = (): void => setShown('nothing');
  useKeys({ 'Ctrl+k': () => setShown('commands'), '?': () => setShown('keys') });
  return (
    <>
      {shown === 'commands' && <CommandList onClose={close} onKeys={() => setShown('keys')} />}
      <KeyMapDialog open={shown === 'keys'} onClose={close} />
    </>
  );
}

function CommandList({ onClose, onKeys }: { readonly onClose: () => void; readonly onKeys: () => void }) {
  const commands = useCommands(onKeys);
  const groups = [...new Set(commands.map(({ group }) => group))];
  const run = (command: PaletteCommand): void => {
    onClose();
    command.run();
  };
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      label="Commands"
      overlayClassName={styles.overlay}
      contentClassName={styles.content}
      loop
    >
      <Command.Input placeholder="type what you want to do" aria-label="Find a command" />
      <Command.List className={styles.list} label="Commands">
        <Command.Empty>No command is called that.</Command.Empty>
        {groups.map((group) => (
          <Command.Group key={group} heading={group}>
            {commands
              .filter((command) => command.group === group)
              .map((command) => (
                <Command.Item key={command.text} value={`${group} ${command.text}`} onSelect={() => run(command)}>
                  {command.text}
                  {command.keys !== undefined && <kbd>{command.keys}</kbd>}
                </Command.Item>
              ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}

function KeyMapDialog({ open, onClose }: { readonly open: boolean; readonly onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="key-map-title">
      <DialogTitle id="key-map-title">Keys</DialogTitle>
      <DialogContent>
        {KEY_TABLE.map(({ where, rows }) => (
          <Fragment key={where}>
            <strong>{where}</strong>
            <dl className={styles.keys}>
              {rows.map(([keys, what]) => (
                <Fragment key={keys}>
                  <dt>
                    <kbd>{keys}</kbd>
                  </dt>
                  <dd>{what}</dd>
                </Fragment>
              ))}
            </dl>
          </Fragment>
        ))}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" variant="outlined" onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
