'use client';

import Button from '@mui/material/Button';
import type { DialectField } from '../../core/dialect/dialect';
import { ChoiceField, TypedField } from '../../ui/fields';
import styles from './frames.module.css';
import { NumberEntry, OptionalNumberEntry } from './number-entry';

const SIGNS = [
  ['', 'no sign'],
  ['minus', 'minus where needed'],
  ['always', 'plus or minus'],
  ['twos', 'two’s complement'],
] as const;

const BASES = [
  ['decimal', 'decimal'],
  ['hex', 'hex'],
  ['text', 'text'],
] as const;

type Optional = 'width' | 'decimals' | 'min' | 'max' | 'unit' | 'perCount' | 'sign' | 'choices';
type Choice = NonNullable<DialectField['choices']>[number];

const without = (field: DialectField, key: Optional): DialectField => {
  const rest = { ...field };
  delete rest[key];
  return rest;
};

const withNumber = (
  field: DialectField,
  key: 'width' | 'decimals' | 'min' | 'max',
  value: number | undefined,
): DialectField => {
  const rest = without(field, key);
  return value === undefined ? rest : { ...rest, [key]: value };
};

const withText = (field: DialectField, key: 'unit' | 'perCount', text: string): DialectField => {
  const rest = without(field, key);
  return text.trim() === '' ? rest : { ...rest, [key]: text };
};

const withChoices = (field: DialectField, choices: readonly Choice[]): DialectField => {
  const rest = without(field, 'choices');
  return choices.length === 0 ? rest : { ...rest, choices: [...choices] };
};

interface DialectValueProps {
  readonly field: DialectField;
  readonly onChange: (field: DialectField) => void;
  readonly onRemove: () => void;
  /** The number that the drive leaves the factory with; absent where none is kept. */
  readonly factory?: { readonly value: number | undefined; readonly onChange: (value: number | undefined) => void };
}

/** One value of a command: how it is written, its limits and unit, and names for some of its numbers. */
export function DialectValueRow({ field, onChange, onRemove, factory }: DialectValueProps) {
  const { choices = [] } = field;
  const number = (label: string, key: 'width' | 'decimals' | 'min' | 'max', width: number) => (
    <OptionalNumberEntry
      label={label}
      width={width}
      value={field[key]}
      onChange={(value) => onChange(withNumber(field, key, value))}
    />
  );
  const text = (label: string, key: 'unit' | 'perCount', width: number) => (
    <TypedField
      label={label}
      width={width}
      value={field[key] ?? ''}
      onChange={(typed) => onChange(withText(field, key, typed))}
    />
  );
  return (
    <>
      <div className={styles.subfields}>
        <TypedField label="Value" width={120} value={field.name} onChange={(name) => onChange({ ...field, name })} />
        <ChoiceField
          label="Written"
          width={92}
          value={field.base}
          onChange={(base) => onChange({ ...field, base: base as DialectField['base'] })}
          options={BASES}
        />
        {number('Digits', 'width', 62)}
        <ChoiceField
          label="Sign"
          width={128}
          value={field.sign ?? ''}
          onChange={(sign) => {
            const rest = without(field, 'sign');
            onChange(sign === '' ? rest : { ...rest, sign: sign as NonNullable<DialectField['sign']> });
          }}
          options={SIGNS}
        />
        {number('Decimals', 'decimals', 76)}
        {number('Least', 'min', 94)}
        {number('Most', 'max', 94)}
        {text('Unit', 'unit', 70)}
        {text('One count is', 'perCount', 98)}
        {factory && (
          <OptionalNumberEntry label="From the factory" width={106} value={factory.value} onChange={factory.onChange} />
        )}
        <Button
          variant="text"
          color="inherit"
          onClick={() => onChange(withChoices(field, [...choices, freshChoice(choices)]))}
          aria-label={`Name a number of ${field.name}`}
        >
          Name a number
        </Button>
        <Button variant="text" color="inherit" onClick={onRemove} aria-label={`Remove value ${field.name}`}>
          Remove
        </Button>
      </div>
      {choices.length > 0 && (
        <ul className={styles.choices} aria-label={`Named numbers of ${field.name}`}>
          {choices.map((choice, at) => (
            <li key={`${at}`} className={styles.mark}>
              <NumberEntry
                label="Number"
                width={80}
                value={choice.value}
                onChange={(value) => onChange(withChoices(field, replaced(choices, at, { ...choice, value })))}
              />
              <TypedField
                label="Means"
                width={170}
                value={choice.name}
                onChange={(name) => onChange(withChoices(field, replaced(choices, at, { ...choice, name })))}
              />
              <Button
                variant="text"
                color="inherit"
                onClick={() => onChange(withChoices(field, removed(choices, at)))}
                aria-label={`Remove ${choice.value} ${choice.name}`}
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** The lowest number that has no name yet. */
const freshChoice = (choices: readonly Choice[]): Choice => {
  let value = 0;
  while (choices.some((choice) => choice.value === value)) value++;
  return { value, name: 'what it means' };
};

export const replaced = <T,>(list: readonly T[], at: number, next: T): T[] =>
  list.map((one, i) => (i === at ? next : one));

export const removed = <T,>(list: readonly T[], at: number): T[] => list.filter((_, i) => i !== at);
