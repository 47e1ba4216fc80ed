'use client';

import { Command } from 'cmdk';
import styles from './palette.module.css';
import { useCommands, type PaletteCommand } from './use-commands';

/** The list of commands, narrowed by what is typed. */
export function CommandList({ onClose, onKeys }: { readonly onClose: () => void; readonly onKeys: () => void }) {
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
