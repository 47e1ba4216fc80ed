'use client';

import { useState, type ReactNode } from 'react';
import { TypedField } from './fields';

interface PartFieldProps<Value> {
  readonly label: string;
  readonly width: number;
  /** What is kept, as text. */
  readonly value: string;
  /** What a text means; a sentence where it means nothing here. */
  readonly read: (text: string) => Value | string;
  readonly onValue: (value: Value) => void;
  readonly note?: ReactNode;
}

/** A field of something that is kept, such as a sheet: what cannot be read stays in it with its reason and is not taken. */
export function PartField<Value extends object>({ label, width, value, read, onValue, note }: PartFieldProps<Value>) {
  const [typed, setTyped] = useState<{ readonly text: string; readonly over: string; readonly why: string } | null>(
    null,
  );
  // `0x10` stays as it was typed while 16 is kept.
  const same = (text: string): boolean => JSON.stringify(read(text)) === JSON.stringify(read(value));
  const own = typed !== null && (typed.over === value || (typed.why === '' && same(typed.text))) ? typed : null;
  return (
    <TypedField
      label={label}
      width={width}
      value={own?.text ?? value}
      error={own?.why ?? ''}
      note={note}
      onChange={(text) => {
        const made = read(text);
        if (typeof made === 'string') return setTyped({ text, over: value, why: made });
        setTyped({ text, over: value, why: '' });
        onValue(made);
      }}
    />
  );
}
