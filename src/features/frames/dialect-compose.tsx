'use client';

import { useState } from 'react';
import type { Dialect, DialectCommand, DialectField, DialectMessage } from '../../core/dialect/dialect';
import { ACCESSES, type Access } from '../../core/dialect/roles';
import { frameHelp } from '../../core/dialect/help';
import { literalBytes, literalText } from '../../core/dialect/literal';
import { ACCESS_NAMES, readDialect } from '../../core/dialect/read';
import { encodeDialect, framed } from '../../core/dialect/write';
import { textToBytes } from '../../core/bytes/text';
import { ChoiceField, TypedField } from '../../ui/fields';
import { wholeIn } from '../../core/bytes/whole';
import { useTypedOver } from '../../ui/use-typed-over';
import styles from './frames.module.css';

interface DialectComposeProps {
  readonly bytes: Uint8Array;
  readonly dialect: Dialect;
  readonly station: number;
  readonly onBytes: (bytes: Uint8Array) => void;
}

const startOf = ({ base, min = 0, max = 0 }: DialectField): number | string =>
  base === 'text' ? '' : Math.min(Math.max(0, min), Math.max(max, min));

/** A line by its fields, or as it is typed; the check follows by itself. */
export function DialectCompose({ bytes, dialect, station, onBytes }: DialectComposeProps) {
  const { message } = readDialect(dialect, bytes, 'request');
  const command = dialect.commands.find(({ id }) => id === message?.command) ?? dialect.commands[0];
  const access: Access = ACCESSES.find((one) => one === message?.kind) ?? command?.access[0] ?? 'read';
  const [trouble, setTrouble] = useState('');
  if (!command) return null;
  const fieldsOf = (which: DialectCommand, how: Access): readonly DialectField[] =>
    how === 'read' ? (which.asks ?? []) : which.fields;
  const put = (which: DialectCommand, how: Access, values: readonly (number | string)[]): void => {
    const kind = which.access.includes(how) ? how : (which.access[0] ?? 'read');
    const fields = fieldsOf(which, kind);
    const whole: DialectMessage = {
      ...(dialect.station ? { station } : {}),
      kind,
      command: which.id,
      values: fields.map((field, i) => values[i] ?? startOf(field)),
    };
    const built = encodeDialect(dialect, whole, 'request');
    setTrouble(built.ok ? '' : (built.error[0]?.text ?? ''));
    if (built.ok) onBytes(built.value);
  };
  const fields = fieldsOf(command, access);
  return (
    <>
      <div className={styles.compose}>
        <ChoiceField
          label="Command"
          width={300}
          value={command.id}
          onChange={(id) => {
            const next = dialect.commands.find((one) => one.id === id);
            if (next) put(next, access, []);
          }}
          options={dialect.commands.map(({ id, verb, name }) => [id, `${verb} · ${name}`] as const)}
        />
        <ChoiceField
          label="What to do"
          width={160}
          value={access}
          onChange={(next) => put(command, next as Access, message?.values ?? [])}
          options={command.access.map((one) => [one, ACCESS_NAMES[one]] as const)}
        />
        {fields.map((field, i) => (
          <DialectValue
            key={`${command.id} ${access} ${i}`}
            field={field}
            value={message?.values?.[i] ?? startOf(field)}
            onValue={(value) =>
              put(
                command,
                access,
                fields.map((_, k) => (k === i ? value : (message?.values?.[k] ?? startOf(fields[k] ?? field)))),
              )
            }
          />
        ))}
        <LineEntry bytes={bytes} dialect={dialect} onBytes={onBytes} />
      </div>
      <p className={trouble ? styles.bad : styles.soft}>{trouble || command.note || frameHelp(dialect)}</p>
    </>
  );
}

function DialectValue({
  field,
  value,
  onValue,
}: {
  readonly field: DialectField;
  readonly value: number | string;
  readonly onValue: (value: number | string) => void;
}) {
  const isText = field.base === 'text';
  const [shown, setShown, isInBytes] = useTypedOver(String(value), (text) => (isText ? text : String(wholeIn(text))));
  if (field.choices)
    return (
      <ChoiceField
        label={field.name}
        width={260}
        value={String(value)}
        onChange={(next) => onValue(Number(next))}
        options={field.choices.map((choice) => [String(choice.value), `${choice.value} · ${choice.name}`] as const)}
      />
    );
  return (
    <TypedField
      label={`${field.name}${field.perCount && field.unit ? `, × ${field.perCount} ${field.unit}` : field.unit ? `, ${field.unit}` : ''}`}
      width={220}
      value={shown}
      error={isInBytes ? '' : isText ? 'not in the bytes' : `not in the bytes: ${takenBy(field)}`}
      onChange={(text) => {
        setShown(text);
        const whole = isText ? text : wholeIn(text);
        if (whole !== null) onValue(whole);
      }}
    />
  );
}

const takenBy = ({ min, max }: DialectField): string =>
  min !== undefined && max !== undefined ? `a whole number, ${min} to ${max}` : 'a whole number, decimal or 0x…';

/** The line as text, without what frames it: opening, check and closing come by themselves. */
function LineEntry({ bytes, dialect, onBytes }: Omit<DialectComposeProps, 'station'>) {
  const { fields } = readDialect(dialect, bytes, 'request');
  const tail = fields.find(({ path }) => path === 'check-lead' || path === 'check' || path === 'close');
  const open = literalBytes(dialect.open).length;
  const shown = literalText(bytes.subarray(open, tail?.start ?? bytes.length));
  const [text, setText] = useTypedOver(shown, (typed) => literalText(literalBytes(typed)));
  return (
    <TypedField
      label="Or the line itself"
      width={240}
      value={text}
      onChange={(next) => {
        const line = framed(dialect, literalBytes(next));
        setText(next);
        onBytes(line.length > 0 ? line : textToBytes(next));
      }}
    />
  );
}
