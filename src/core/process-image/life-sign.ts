import { failed, done, type Result } from '../result';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';

/** How a controller shows in one word, cycle by cycle, that its program runs: a bit that toggles, or a number that counts and begins again. */
export type LifeSign =
  | { readonly kind: 'toggle'; readonly bit: number }
  | { readonly kind: 'count'; readonly lowest: number; readonly bits: number; readonly least: number };

/** Forms of a sign of life that a person can choose, by name. */
export const LIFE_FORMS = {
  toggle: 'one of its bits toggles',
  byte: 'its low byte counts 0 to 255',
  /** The controller's sign of life in a second control word of PROFIdrive (IEC 61800-7-203, from memory). */
  nibble: 'its bits 12 to 15 count 1 to 15',
} as const;
export type LifeForm = keyof typeof LIFE_FORMS;

/** The sign of a form; a sentence where its bit is none of a word. */
export function lifeSignOf(form: LifeForm, bit: string): Result<LifeSign, string> {
  if (form === 'byte') return done({ kind: 'count', lowest: 0, bits: 8, least: 0 });
  if (form === 'nibble') return done({ kind: 'count', lowest: 12, bits: 4, least: 1 });
  const own = /^\d{1,2}$/.test(bit.trim()) ? Number(bit) : NaN;
  return own <= 15 ? done({ kind: 'toggle', bit: own }) : failed('a bit from 0 to 15');
}

/** What a drive goes by at once: a number that counts in them would move the shaft. */
const MOVES: ReadonlySet<ParameterRole | undefined> = new Set<ParameterRole>([
  'speed-reference',
  'target-position',
  'mode',
]);

/** Whether a value of a block can carry a sign of life at all: it is one word, and no reference. */
export const mayCarryLife = (parameter: PlacedParameter | null, words: number): boolean =>
  words === 1 && !MOVES.has(parameter?.role);

/** The bits that a sign changes. */
const maskOf = (sign: LifeSign): number =>
  sign.kind === 'toggle' ? 1 << sign.bit : ((1 << sign.bits) - 1) << sign.lowest;

/**
 * What there is against a sign in a value; empty where there is nothing. In the control word it takes bits that mean nothing to the drive: one that
 * releases, resets or reverses would do so at every other cycle.
 */
export function againstLife(index: SheetIndex, parameter: PlacedParameter | null, sign: LifeSign): string {
  if (parameter?.role !== 'control-word') return '';
  const spec = index.words?.control;
  if (!spec) return 'nothing says what the bits of the control word do';
  const mask = maskOf(sign);
  const bit = spec.bits.find((known) => known.ignored !== true && (mask >>> known.bit) & 1);
  const field = spec.fields?.find(({ from, width }) => mask & (((1 << width) - 1) << from));
  return bit
    ? `bit ${bit.bit} is “${bit.name}”: a sign of life takes bits that mean nothing else`
    : field
      ? `its bits are “${field.name}”: a sign of life takes bits that mean nothing else`
      : '';
}

/** What a word is in one cycle after the other, from its first on; then it begins again. Bits that are no part of the sign stay. */
export function lifeWords(sign: LifeSign, word: number): readonly number[] {
  if (sign.kind === 'toggle') return [word & ~(1 << sign.bit), word | (1 << sign.bit)];
  const mask = maskOf(sign);
  const count = (1 << sign.bits) - sign.least;
  return Array.from({ length: count }, (_, i) => (word & ~mask & 0xffff) | ((sign.least + i) << sign.lowest));
}

/** The words of a block in one cycle after the other: one of them carries a sign of life, the others stay. */
export const blocksInTurn = (
  words: readonly number[],
  life: { readonly at: number; readonly sign: LifeSign } | null,
): readonly (readonly number[])[] =>
  life === null
    ? [words]
    : lifeWords(life.sign, words[life.at] ?? 0).map((word) => words.map((own, i) => (i === life.at ? word : own)));
