import type * as v from 'valibot';
import type { NamedValueSchema, WordFieldSchema } from './word-field-schema';

export type NamedValue = v.InferOutput<typeof NamedValueSchema>;
export type WordField = v.InferOutput<typeof WordFieldSchema>;

type FieldShape = Pick<WordField, 'bit' | 'bits' | 'signed'>;

/** The pattern of one field; plain arithmetic, since 32 bits and shifts make negative numbers. */
const patternIn = (word: number, { bit, bits }: FieldShape): number => Math.floor(word / 2 ** bit) % 2 ** bits;

/** The value of one field. */
export const fieldIn = (word: number, field: FieldShape): number => {
  const pattern = patternIn(word, field);
  return pattern > mostOfField(field) ? pattern - 2 ** field.bits : pattern;
};

/** The word with one field changed and the others as they were. */
export const withField = (word: number, field: FieldShape, value: number): number =>
  word + ((value < 0 ? value + 2 ** field.bits : value) - patternIn(word, field)) * 2 ** field.bit;

/** The most that a field holds. */
export const mostOfField = ({ bits, signed }: Pick<WordField, 'bits' | 'signed'>): number =>
  2 ** (signed ? bits - 1 : bits) - 1;

/** The least that it holds. */
export const leastOfField = ({ bits, signed }: Pick<WordField, 'bits' | 'signed'>): number =>
  signed ? -(2 ** (bits - 1)) : 0;

/** What one field holds, by name where it has one. */
export const fieldText = (word: number, field: WordField): string => {
  const value = fieldIn(word, field);
  return field.choices?.find((choice) => choice.value === value)?.name ?? `${value}`;
};

/** `input one run, input two free`: what each field of a word holds. */
export const fieldsText = (word: number, fields: readonly WordField[]): string =>
  fields.map((field) => `${field.name} ${fieldText(word, field)}`).join(', ');

/** What a word takes away by the names that it holds, field by field: `wire four free: no outside fault stops it`. */
export const disabledBy = (word: number, fields: readonly WordField[]): readonly string[] =>
  fields.flatMap((field) => {
    const chosen = field.choices?.find(({ value }) => value === fieldIn(word, field));
    return chosen?.disables === undefined ? [] : [`${field.name} ${chosen.name}: ${chosen.disables}`];
  });

/** What is wrong with fields in a word of so many bits: outside, over each other, a choice that does not fit. */
export function wordFieldFaults(
  fields: readonly WordField[],
  width: number,
): readonly { readonly at: number; readonly text: string }[] {
  const owner = new Map<number, string>();
  return fields.flatMap((field, at) => {
    const { name, bit, bits, choices = [] } = field;
    const own = Array.from({ length: bits }, (_, i) => bit + i);
    const taken = own.map((one) => owner.get(one)).find((other) => other !== undefined);
    for (const one of own) owner.set(one, name);
    return [
      ...(bit + bits > width ? [{ at, text: `${name} runs to bit ${bit + bits - 1} of a word with ${width}` }] : []),
      ...(taken === undefined ? [] : [{ at, text: `${name} lies over ${taken}` }]),
      ...choices
        .filter(({ value }) => value > mostOfField(field) || value < leastOfField(field))
        .map(({ value }) => ({
          at,
          text: `${name} holds ${leastOfField(field)} to ${mostOfField(field)}, not ${value}`,
        })),
    ];
  });
}
