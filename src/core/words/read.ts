import type { BitSpec, FieldSpec, WordSpec } from './spec';

/** A bit as read: its level, whether that level makes it active, and what the manual says of it. */
export interface ReadBit {
  readonly bit: number;
  readonly name: string;
  readonly level: 0 | 1;
  readonly active: boolean;
  readonly text: string;
  readonly spec: BitSpec | null;
}

/** The level of a bit of a word; bit 0 is the lowest. */
export const levelOf = (word: number, bit: number): 0 | 1 => ((word >>> bit) & 1 ? 1 : 0);

/** The word with one bit set or cleared; unsigned, also for bit 31. */
export const withBit = (word: number, bit: number, level: 0 | 1): number =>
  (level ? word | (1 << bit) : word & ~(1 << bit)) >>> 0;

const isActive = (spec: BitSpec, level: 0 | 1): boolean => (level === 1) === (spec.active !== 'low');

/** Every bit of a word from 0 upward, those without a meaning included. */
export function readWord(spec: WordSpec, word: number): readonly ReadBit[] {
  return Array.from({ length: spec.width }, (_, bit): ReadBit => {
    const known = spec.bits.find((candidate) => candidate.bit === bit);
    const level = levelOf(word, bit);
    const field = spec.fields?.find(({ from, width }) => bit >= from && bit < from + width);
    if (!known && field)
      return { bit, name: `${field.name}, bit ${bit - field.from}`, level, active: level === 1, text: '', spec: null };
    if (!known)
      return {
        bit,
        name: 'no meaning',
        level,
        active: false,
        text: level ? 'set, though the sheet gives it no meaning' : '',
        spec: null,
      };
    return {
      bit,
      name: known.name,
      level,
      active: isActive(known, level),
      text: level ? known.one : known.zero,
      spec: known,
    };
  });
}

export interface ReadField {
  readonly spec: FieldSpec;
  readonly value: number;
  readonly text: string;
}

const fieldMask = ({ from, width }: FieldSpec): number => ((2 ** width - 1) << from) >>> 0;

/** The numbers that bits of a word make together. */
export const readFields = ({ fields = [] }: WordSpec, word: number): readonly ReadField[] =>
  fields.map((spec) => {
    const value = (word & fieldMask(spec)) >>> spec.from;
    return {
      spec,
      value,
      text: spec.values.find((known) => known.value === value)?.name ?? 'a value without a meaning',
    };
  });

/** The word with a field set to a value; a value too big is cut to the field. */
export const withField = (word: number, spec: FieldSpec, value: number): number =>
  ((word & ~fieldMask(spec)) | ((value << spec.from) & fieldMask(spec))) >>> 0;

/** The bits that count when two words are compared: all but the ignored ones. */
export function maskOf(spec: WordSpec): number {
  const all = spec.width === 32 ? 0xffffffff : (1 << spec.width) - 1;
  return spec.bits.filter(({ ignored }) => ignored).reduce((mask, { bit }) => withBit(mask, bit, 0), all >>> 0);
}

export interface WordChange {
  readonly bit: number;
  readonly name: string;
  readonly to: 0 | 1;
  readonly text: string;
}

/** What changed from one word to the next, ignored bits left out. */
export function compareWords(spec: WordSpec, from: number, to: number): readonly WordChange[] {
  const changed = (from ^ to) & maskOf(spec);
  return readWord(spec, to)
    .filter(({ bit }) => levelOf(changed, bit) === 1)
    .map(({ bit, name, level, text }) => ({ bit, name, to: level, text }));
}

/** Sentences for bits that must not be active together in this word. */
export function contradictionsIn(spec: WordSpec, word: number): readonly string[] {
  const bits = readWord(spec, word);
  return (spec.exclusive ?? []).flatMap((group) => {
    const active = group.flatMap((bit) => bits[bit] ?? []).filter((bit) => bit.active);
    return active.length > 1 ? [`${active.map(({ name }) => name).join(' and ')} together contradict each other`] : [];
  });
}

/** The bit that has a role, or undefined where the sheet names none. */
export const bitOfRole = <Role extends string>(spec: WordSpec<Role>, role: Role): BitSpec<Role> | undefined =>
  spec.bits.find((bit) => bit.role === role);

/** Whether the bit with a role is active in a word; null where the sheet has no such bit. */
export function roleActive<Role extends string>(spec: WordSpec<Role>, role: Role, word: number): boolean | null {
  const bit = bitOfRole(spec, role);
  return bit ? isActive(bit, levelOf(word, bit.bit)) : null;
}

/** `0000 0000 0111 0111` */
export function binaryText(word: number, width: number): string {
  const digits = (word >>> 0).toString(2).padStart(width, '0');
  return digits.replace(/(.{4})(?=.)/g, '$1 ');
}
