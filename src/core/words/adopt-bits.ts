import type { BitTable } from './bit-table';
import type { BitSpec, WordSpec } from './spec';

/** A word with the bits of a table in place of its own; a bit that keeps its number keeps its role, by which views know it. */
export function withBits<Role extends string>(word: WordSpec<Role>, { bits, fields }: BitTable): WordSpec<Role> {
  const before = new Map(word.bits.map((bit) => [bit.bit, bit]));
  const described = new Set(bits.map(({ bit }) => bit));
  const exclusive = word.exclusive?.filter((group) => group.every((bit) => described.has(bit)));
  return {
    width: word.width,
    bits: bits.map((bit) => ({ ...bit, role: before.get(bit.bit)?.role, ignored: before.get(bit.bit)?.ignored })),
    ...(exclusive && exclusive.length > 0 ? { exclusive } : {}),
    ...(fields.length > 0 ? { fields } : {}),
  };
}

/** Bits by which the bench knows what turns and stops a shaft, and which a table leaves out: their roles are lost with them. */
export const lostRoles = (word: WordSpec, { bits }: BitTable): readonly BitSpec[] =>
  word.bits.filter(({ bit, role }) => role !== undefined && !bits.some((own) => own.bit === bit));

/** The bits of `edited` that say something else than `base`: all that a sheet must hold of a word whose other bits a standard describes. */
export function changedBits<Role extends string>(base: WordSpec<Role>, edited: WordSpec<Role>): WordSpec<Role> {
  const before = new Map(base.bits.map((bit) => [bit.bit, bit]));
  const bits = edited.bits.filter((bit) => {
    const was = before.get(bit.bit);
    return (
      !was ||
      was.name !== bit.name ||
      was.one !== bit.one ||
      was.zero !== bit.zero ||
      was.acts !== bit.acts ||
      was.active !== bit.active
    );
  });
  return { ...edited, bits };
}
