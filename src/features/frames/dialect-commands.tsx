'use client';

import Button from '@mui/material/Button';
import {
  ACCESSES,
  COMMAND_ROLES,
  type CommandRole,
  type Dialect,
  type DialectCommand,
  type DialectField,
} from '../../core/dialect/dialect';
import { ACCESS_NAMES } from '../../core/dialect/read';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { slugOf } from './dialect-draft';
import { Tick } from './dialect-frame';
import styles from './frames.module.css';

interface DialectCommandsProps {
  readonly dialect: Dialect;
  readonly onChange: (change: Partial<Dialect>) => void;
}

const SIGNS = [
  ['', 'no sign'],
  ['minus', 'minus where needed'],
  ['always', 'plus or minus'],
  ['twos', 'two’s complement'],
] as const;

const NEW_FIELD: DialectField = { name: 'value', base: 'decimal' };

type Optional = 'width' | 'decimals' | 'min' | 'max' | 'unit' | 'perCount' | 'sign';

const without = (field: DialectField, key: Optional): DialectField => {
  const rest = { ...field };
  delete rest[key];
  return rest;
};

/** The same field without what an empty text leaves out. */
function withNumber(field: DialectField, key: 'width' | 'decimals' | 'min' | 'max', text: string): DialectField {
  const rest = without(field, key);
  return /^-?\d{1,15}$/.test(text.trim()) ? { ...rest, [key]: Number(text) } : rest;
}

const withText = (field: DialectField, key: 'unit' | 'perCount', text: string): DialectField => {
  const rest = without(field, key);
  return text.trim() === '' ? rest : { ...rest, [key]: text };
};

/** The commands and the texts of errors, one row each. */
export function DialectCommands({ dialect, onChange }: DialectCommandsProps) {
  const { commands, errors = [] } = dialect;
  const put = (at: number, command: DialectCommand): void =>
    onChange({ commands: commands.map((one, i) => (i === at ? command : one)) });
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
    <>
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
                onChange={(next) => put(i, next)}
                onRemove={() => onChange({ commands: commands.filter((_, k) => k !== i) })}
              />
            </li>
          ))}
        </ol>
      </Panel>
      <Panel
        title="Errors"
        tools={
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => onChange({ errors: [...errors, { code: errors.length + 1, text: 'what it means' }] })}
          >
            Add an error
          </Button>
        }
      >
        <div className={styles.compose}>
          {errors.map((error, i) => (
            <span key={`${i}`} className={styles.mark}>
              <TypedField
                label="Number"
                width={80}
                value={String(error.code)}
                onChange={(text) =>
                  /^\d{1,5}$/.test(text) &&
                  onChange({ errors: errors.map((one, k) => (k === i ? { ...one, code: Number(text) } : one)) })
                }
              />
              <TypedField
                label="Meaning"
                width={220}
                value={error.text}
                onChange={(text) => onChange({ errors: errors.map((one, k) => (k === i ? { ...one, text } : one)) })}
              />
            </span>
          ))}
        </div>
      </Panel>
    </>
  );
}

function CommandRow({
  command,
  onChange,
  onRemove,
}: {
  readonly command: DialectCommand;
  readonly onChange: (command: DialectCommand) => void;
  readonly onRemove: () => void;
}) {
  const { fields, access } = command;
  const field = (at: number, next: DialectField): void =>
    onChange({ ...command, fields: fields.map((one, i) => (i === at ? next : one)) });
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
        <Button variant="text" color="inherit" onClick={() => onChange({ ...command, fields: [...fields, NEW_FIELD] })}>
          Add a value
        </Button>
        <Button variant="text" color="inherit" onClick={onRemove} aria-label={`Remove ${command.verb}`}>
          Remove
        </Button>
      </div>
      {fields.map((one, i) => (
        <div key={`${i}`} className={styles.subfields}>
          <TypedField label="Value" width={130} value={one.name} onChange={(name) => field(i, { ...one, name })} />
          <ChoiceField
            label="Written"
            width={100}
            value={one.base}
            onChange={(base) => field(i, { ...one, base: base as DialectField['base'] })}
            options={[
              ['decimal', 'decimal'],
              ['hex', 'hex'],
              ['text', 'text'],
            ]}
          />
          <TypedField
            label="Digits"
            width={70}
            value={String(one.width ?? '')}
            onChange={(text) => field(i, withNumber(one, 'width', text))}
          />
          <ChoiceField
            label="Sign"
            width={150}
            value={one.sign ?? ''}
            onChange={(sign) => {
              const rest = without(one, 'sign');
              field(i, sign === '' ? rest : { ...rest, sign: sign as NonNullable<DialectField['sign']> });
            }}
            options={SIGNS}
          />
          <TypedField
            label="Decimals"
            width={80}
            value={String(one.decimals ?? '')}
            onChange={(text) => field(i, withNumber(one, 'decimals', text))}
          />
          <TypedField
            label="Least"
            width={100}
            value={String(one.min ?? '')}
            onChange={(text) => field(i, withNumber(one, 'min', text))}
          />
          <TypedField
            label="Most"
            width={100}
            value={String(one.max ?? '')}
            onChange={(text) => field(i, withNumber(one, 'max', text))}
          />
          <TypedField
            label="Unit"
            width={80}
            value={one.unit ?? ''}
            onChange={(text) => field(i, withText(one, 'unit', text))}
          />
          <TypedField
            label="One count is"
            width={110}
            value={one.perCount ?? ''}
            onChange={(text) => field(i, withText(one, 'perCount', text))}
          />
          <Button
            variant="text"
            color="inherit"
            onClick={() => onChange({ ...command, fields: fields.filter((_, k) => k !== i) })}
            aria-label={`Remove value ${one.name}`}
          >
            Remove
          </Button>
        </div>
      ))}
    </>
  );
}
