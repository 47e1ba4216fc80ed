'use client';

import { wholeIn } from '../../core/bytes/whole';
import { TypedField } from '../../ui/fields';
import { useTypedOver } from '../../ui/use-typed-over';

interface NumberEntryProps {
  readonly label: string;
  readonly width: number;
  /** Smallest and largest number that is taken. */
  readonly least?: number;
  readonly most?: number;
}

/** The text of an entry while it is typed: what is no number that is taken, a minus sign alone, stays and is named. */
function Entry({
  label,
  width,
  least = -Infinity,
  most = Infinity,
  shown,
  onText,
  empty,
}: NumberEntryProps & {
  readonly shown: string;
  readonly onText: (text: string) => void;
  readonly empty: boolean;
}) {
  const meaning = (text: string): string | null => {
    if (empty && text.trim() === '') return '';
    const value = wholeIn(text);
    return value !== null && value >= least && value <= most ? String(value) : null;
  };
  const [text, setText] = useTypedOver(shown, meaning);
  const limited = Number.isFinite(least) && Number.isFinite(most);
  return (
    <TypedField
      label={label}
      width={width}
      value={text}
      error={meaning(text) !== null ? '' : limited ? `${least} to ${most}` : 'a whole number'}
      onChange={(typed) => {
        setText(typed);
        const means = meaning(typed);
        if (means !== null) onText(means);
      }}
    />
  );
}

/** A whole number. */
export const NumberEntry = ({
  value,
  onChange,
  ...entry
}: NumberEntryProps & { readonly value: number; readonly onChange: (value: number) => void }) => (
  <Entry {...entry} shown={String(value)} empty={false} onText={(text) => onChange(Number(text))} />
);

/** A whole number, or none where it is empty. */
export const OptionalNumberEntry = ({
  value,
  onChange,
  ...entry
}: NumberEntryProps & {
  readonly value: number | undefined;
  readonly onChange: (value: number | undefined) => void;
}) => (
  <Entry
    {...entry}
    shown={String(value ?? '')}
    empty
    onText={(text) => onChange(text === '' ? undefined : Number(text))}
  />
);
