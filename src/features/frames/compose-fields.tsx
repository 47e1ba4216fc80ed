'use client';

import { useState } from 'react';
import type { ModbusMessage } from '../../core/modbus/message';
import { ChoiceField, TypedField } from '../../ui/fields';
import type { MessageField } from './message-fields';

interface ComposeFieldsProps {
  readonly fields: readonly MessageField[];
  readonly message: ModbusMessage;
  readonly onChange: (change: Partial<ModbusMessage>) => void;
}

/** The form of a function: what is typed changes the bytes as soon as it can be read. */
export const ComposeFields = ({ fields, message, onChange }: ComposeFieldsProps) =>
  fields.map((field) => (
    <FieldEntry key={`${message.fc} ${field.label}`} field={field} message={message} onChange={onChange} />
  ));

function FieldEntry({
  field,
  message,
  onChange,
}: Omit<ComposeFieldsProps, 'fields'> & { readonly field: MessageField }) {
  const shown = field.show(message);
  const [typed, setTyped] = useState<{ readonly text: string; readonly over: string } | null>(null);
  // What is typed stands as long as the bytes say what they said when it was typed, or what it says itself.
  const text = typed && (typed.over === shown || sameValue(field, typed.text, shown)) ? typed.text : shown;
  const take = (next: string): void => {
    setTyped({ text: next, over: shown });
    const change = field.take(next);
    if (change) onChange(change);
  };
  if (field.usual)
    return <ChoiceField label={field.label} width={field.width} value={text} onChange={take} options={field.usual} />;
  return (
    <TypedField
      label={field.label}
      width={field.width}
      value={text}
      onChange={take}
      error={field.take(text) === null ? field.hint : ''}
    />
  );
}

const sameValue = ({ take }: MessageField, a: string, b: string): boolean =>
  JSON.stringify(take(a)) === JSON.stringify(take(b));
