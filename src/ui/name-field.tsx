'use client';

import { PartField } from './part-field';

/** A name that is never empty: while nothing is typed the one that is kept stays, and the field says what it wants. */
export const NameField = ({
  label,
  width,
  value,
  onName,
}: {
  readonly label: string;
  readonly width: number;
  readonly value: string;
  readonly onName: (name: string) => void;
}) => (
  <PartField
    label={label}
    width={width}
    value={value}
    read={(text) => (text.trim() === '' ? 'a name' : { name: text })}
    onValue={({ name }) => onName(name)}
  />
);
