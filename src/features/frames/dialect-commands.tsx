'use client';

import Button from '@mui/material/Button';
import type { Dialect, DialectCommand, DialectField } from '../../core/dialect/dialect';
import { ACCESSES, COMMAND_ROLES, type CommandRole } from '../../core/dialect/roles';
import { ACCESS_NAMES } from '../../core/dialect/read';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import type { SheetFault } from '../../core/sheet/sheet-fault';
import { commandOfPath, slugOf } from './dialect-draft';
import { Tick } from './dialect-frame';
import { DialectValueRow, removed, replaced } from './dialect-values';
import styles from './frames.module.css';

interface DialectCommandsProps {
  readonly dialect: Dialect;
  /** What keeps the description from being kept; said at its command too. */
  readonly faults: readonly SheetFault[];
  readonly onChange: (change: Partial<Dialect>) => void;
}

const NEW_FIELD: DialectField = { name: 'value', base: 'decimal' };
const NEW_INDEX: DialectField = { name: 'index', base: 'decimal' };

/** The commands, one row each, with the values that they carry. */
export function DialectCommands({ dialect, faults, onChange }: DialectCommandsProps) {
  const { commands } = dialect;
  const add = (): void => {
    const id = `command-${commands.length + 1}`;
    onChange({
      commands: [
        ...commands,
        { id, verb: `C${commands.length + 1}`, name: 'new command', access: ['read'], fields: [NEW_FIELD] },
      ],
    });
  };
  return (
    <Panel
      title="Commands"
      tools={
        <Button variant="outlined" color="inherit" onClick={add}>
          Add a command
        </Button>
      }
    >
      <ol className={styles.commands} aria-label="Commands">
        {commands.map((command, i) => (
          <li key={`${i}`}>
            <CommandRow
              command={command}
              faults={faults.filter(({ path }) => commandOfPath(path) === i)}
              onChange={(next) => onChange({ commands: replaced(commands, i, next) })}
              onRemove={() => onChange({ commands: removed(commands, i) })}
            />
          </li>
        ))}
      </ol>
    </Panel>
  );
}

/** The command without factory values, or with one for each of its values. */
function withDefault(command: DialectCommand, values: readonly number[] | undefined): DialectCommand {
  const rest = { ...command };
  delete rest.default;
  return values === undefined ? rest : { ...rest, default: [...values] };
}

function withAsks(command: DialectCommand, asks: readonly DialectField[]): DialectCommand {
  const rest = { ...command };
  delete rest.asks;
  return asks.length === 0 ? rest : { ...rest, asks: [...asks] };
}

function withNote(command: DialectCommand, note: string): DialectCommand {
  const rest = { ...command };
  delete rest.note;
  return note === '' ? rest : { ...rest, note };
}

function CommandRow({
  command,
  faults,
  onChange,
  onRemove,
}: {
  readonly command: DialectCommand;
  readonly faults: readonly SheetFault[];
  readonly onChange: (command: DialectCommand) => void;
  readonly onRemove: () => void;
}) {
  const { fields, access, asks = [] } = command;
  const factory = command.default;
  return (
    <>
      <div className={styles.compose}>
        <TypedField label="Verb" width={90} value={command.verb} onChange={(verb) => onChange({ ...command, verb })} />
        <TypedField
          label="What it is"
          width={200}
          value={command.name}
          onChange={(name) => onChange({ ...command, name, id: slugOf(name) })}
        />
        <ChoiceField
          label="Known to the bench as"
          width={170}
          value={command.role ?? ''}
          onChange={(role) => onChange({ ...command, role: role === '' ? undefined : (role as CommandRole) })}
          options={[['', 'nothing special'], ...COMMAND_ROLES.map((role) => [role, role] as const)]}
        />
        {ACCESSES.map((one) => (
          <Tick
            key={one}
            label={ACCESS_NAMES[one]}
            on={access.includes(one)}
            onChange={(on) =>
              onChange({
                ...command,
                access: ACCESSES.filter((other) => (other === one ? on : access.includes(other))),
              })
            }
          />
        ))}
        <TypedField
          label="Note"
          width={180}
          value={command.note ?? ''}
          onChange={(note) => onChange(withNote(command, note))}
        />
        <Button
          variant="text"
          color="inherit"
          onClick={() =>
            onChange({
              ...withDefault(command, factory && [...factory, 0]),
              fields: [...fields, NEW_FIELD],
            })
          }
        >
          Add a value
        </Button>
        {access.includes('read') && (
          <Button
            variant="text"
            color="inherit"
            onClick={() => onChange(withAsks(command, [...asks, NEW_INDEX]))}
            aria-label={`Add what a read of ${command.verb} names`}
          >
            A read names …
          </Button>
        )}
        <Button variant="text" color="inherit" onClick={onRemove} aria-label={`Remove ${command.verb}`}>
          Remove
        </Button>
      </div>
      {faults.map(({ path, text }) => (
        <p key={path + text} className={styles.bad}>
          {text}
        </p>
      ))}
      {fields.map((field, i) => (
        <DialectValueRow
          key={`${i}`}
          field={field}
          onChange={(next) => onChange({ ...command, fields: replaced(fields, i, next) })}
          onRemove={() =>
            onChange({ ...withDefault(command, factory && removed(factory, i)), fields: removed(fields, i) })
          }
          factory={{
            value: factory?.[i],
            onChange: (value) =>
              onChange(
                withDefault(
                  command,
                  value === undefined ? undefined : fields.map((_, k) => (k === i ? value : (factory?.[k] ?? 0))),
                ),
              ),
          }}
        />
      ))}
      {asks.length > 0 && (
        <div role="group" aria-label={`What a read of ${command.verb} names`} className={styles.asks}>
          <span>A read names:</span>
          {asks.map((field, i) => (
            <DialectValueRow
              key={`${i}`}
              field={field}
              onChange={(next) => onChange(withAsks(command, replaced(asks, i, next)))}
              onRemove={() => onChange(withAsks(command, removed(asks, i)))}
            />
          ))}
        </div>
      )}
    </>
  );
}
