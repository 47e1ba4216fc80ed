'use client';

import type { ModbusMessage } from '../../core/modbus/message';
import { ChoiceField, TypedField } from '../../ui/fields';
import { useTypedOver } from '../../ui/use-typed-over';
import { AddressNote } from './address-note';
import type { MessageField } from './message-fields';

interface ComposeFieldsProps {
  readonly fields: readonly MessageField[];
  readonly message: ModbusMessage;
  readonly onChange: (change: Partial<ModbusMessage>) => void;
}

/** Said of a value that can be read and still made no frame: a count or an address beyond what a request may have. */
const NOT_ALLOWED = 'not in the bytes: the standard allows no frame like that';

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
  const [text, setText, isInBytes] = useTypedOver(shown, (typed) => {
    const change = field.take(typed);
    return change && field.show({ ...message, ...change });
  });
  const take = (next: string): void => {
    setText(next);
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
      error={field.take(text) === null ? field.hint : isInBytes ? '' : NOT_ALLOWED}
      note={field.table && text !== shown ? <AddressNote text={text} table={field.table} onTake={take} /> : ''}
    />
  );
}
