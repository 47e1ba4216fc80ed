import {
  decimalText,
  multiply,
  compare as compareRationals,
  ratio,
  subtract,
  type Rational,
} from '../scaling/rational';
import { toValue } from '../scaling/scale';
import { cellsValue } from '../drive/cells-text';
import { chainOf } from '../drive/describe';
import type { PlacedParameter } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { isFloatType } from '../values/type';
import { followsFrom } from './follows';
import { knownOf, saidText, type Said } from './said';
import type { Witness } from './witness';

/** Why a difference of this value is none to act on. */
export type Aside = 'live' | 'identity' | 'link' | 'size' | null;

export type Verdict =
  /** All that know it say the same, within what the drive can tell apart. */
  | 'same'
  | 'differs'
  /** Only one of the witnesses knows it. */
  | 'one-only'
  /** Nobody knows it. */
  | 'unknown';

export interface CompareRow {
  readonly number: string;
  readonly name: string;
  readonly parameter: PlacedParameter;
  /** What each witness says, in words, in the order of the witnesses; empty where it says nothing. */
  readonly texts: readonly string[];
  readonly verdict: Verdict;
  readonly aside: Aside;
  /** Who says what where they differ, in a sentence; empty where there is nothing to say. */
  readonly sentence: string;
  /** By how much they differ, and what follows from it; empty where nothing is known of that. */
  readonly follows: string;
}

const IDENTITY: ReadonlySet<ParameterRole> = new Set(['type-code', 'firmware']);
const LINK: ReadonlySet<ParameterRole> = new Set(['station', 'bit-rate', 'character-form']);

/** Why an entry is set aside when sets are compared: it names the device, belongs to the link, or always changes. */
export function asideOf({ role, write, sizeBound }: PlacedParameter): Aside {
  if (role && IDENTITY.has(role)) return 'identity';
  if (role && LINK.has(role)) return 'link';
  if (write === 'never') return 'live';
  return sizeBound ? 'size' : null;
}

/** Why a row is set aside, in words. */
export const ASIDE_TEXT: Readonly<Record<NonNullable<Aside>, string>> = {
  live: 'can only be read: it changes by itself',
  identity: 'tells drives apart',
  link: 'a setting of the link',
  size: 'belongs to the drive’s size',
};

interface Known {
  readonly witness: Witness;
  readonly parameter: PlacedParameter;
  readonly said: Extract<Said, { kind: 'value' }>;
}

/** Lays what witnesses say beside each other: a row for each number that any of them has, in the order of the first that lists it. Linear. */
export function compareSets(witnesses: readonly Witness[]): readonly CompareRow[] {
  const numbers = new Map<string, PlacedParameter>();
  for (const { index } of witnesses)
    for (const parameter of index.parameters)
      if (!numbers.has(parameter.number)) numbers.set(parameter.number, parameter);
  return [...numbers.values()].map((parameter) => new Row(parameter, witnesses));
}

/** One row; its words are made when they are looked at, since a list shows a few of thousands. */
class Row implements CompareRow {
  readonly parameter: PlacedParameter;
  readonly verdict: Verdict;
  readonly aside: Aside;
  readonly #witnesses: readonly Witness[];
  /** Two that differ, where a person has to know. */
  readonly #apart: readonly [Known, Known] | null;
  #texts: readonly string[] | null = null;

  constructor(parameter: PlacedParameter, witnesses: readonly Witness[]) {
    this.parameter = parameter;
    this.#witnesses = witnesses;
    const known = witnesses.flatMap((witness): readonly Known[] => {
      const [own, said] = [witness.index.byNumber.get(parameter.number), witness.said.get(parameter.number)];
      return own && said?.kind === 'value' ? [{ witness, parameter: own, said }] : [];
    });
    const [first, ...others] = known;
    const other = first && others.find((one) => !isSame(first, one));
    this.aside = asideOf(parameter);
    this.verdict = !first ? 'unknown' : other ? 'differs' : others.length > 0 ? 'same' : 'one-only';
    this.#apart = first && other && this.aside === null ? [first, other] : null;
  }

  get number(): string {
    return this.parameter.number;
  }

  get name(): string {
    return this.parameter.name;
  }

  get texts(): readonly string[] {
    this.#texts ??= this.#witnesses.map(({ index, said }) => {
      const own = index.byNumber.get(this.number);
      return own ? saidText(index, own, said.get(this.number), said) : '';
    });
    return this.#texts;
  }

  get sentence(): string {
    return this.#apart ? differenceText(...this.#apart) : '';
  }

  get follows(): string {
    return this.#apart ? followsText(...this.#apart) : '';
  }
}

const followsText = (first: Known, other: Known): string =>
  [timesText(first, other), followsFrom(first.parameter.role)].filter((part) => part !== '').join('; ');

const valueOf = ({ witness: { index, said: all }, parameter, said }: Known): Rational | null =>
  cellsValue(index, parameter, said.words, knownOf(index, all));

/** The value of one count in the unit, where counts are even; null for floats, names and bits. */
function countOf({ witness, parameter }: Known): Rational | null {
  if (parameter.choices || parameter.fields || isFloatType(parameter.type)) return null;
  const chain = chainOf(witness.index.sheet, parameter, knownOf(witness.index, witness.said));
  if (!chain) return ratio(1n);
  const [zero, one] = [toValue(chain, 0n), toValue(chain, 1n)];
  return zero.ok && one.ok ? subtract(one.value.value, zero.value.value) : null;
}

/** Single precision holds seven digits; a drive that prints and reads its own numbers keeps six of them. */
const FLOAT_SHARE = ratio(1n, 1_000_000n);

/** Whether two say the same: the same words, or numbers that the coarser of the two cannot tell apart. */
function isSame(a: Known, b: Known): boolean {
  if (a.parameter.type === b.parameter.type && a.said.words.join() === b.said.words.join()) return sameScale(a, b);
  const [left, right] = [valueOf(a), valueOf(b)];
  if (!left || !right || a.parameter.choices || a.parameter.fields) return false;
  const apart = absolute(subtract(left, right));
  if (isFloatType(a.parameter.type) || isFloatType(b.parameter.type))
    return compareRationals(apart, multiply(FLOAT_SHARE, absolute(left))) <= 0;
  const [one, other] = [countOf(a), countOf(b)];
  const coarser = one && other ? (compareRationals(one, other) > 0 ? one : other) : null;
  // Half a count of the coarser: with the same counts, only the same count is the same.
  return coarser !== null && compareRationals(multiply(apart, ratio(2n)), coarser) < 0;
}

/** The same words mean the same only where both are counted alike. */
function sameScale(a: Known, b: Known): boolean {
  if (a.witness.index === b.witness.index && a.parameter.scale?.kind !== 'by') return true;
  const [left, right] = [valueOf(a), valueOf(b)];
  return !left || !right || compareRationals(left, right) === 0;
}

const absolute = (value: Rational): Rational => (value.num < 0n ? { ...value, num: -value.num } : value);

/** `the last visit 8 s, the drive now 12 s` */
function differenceText(a: Known, b: Known): string {
  const text = ({ witness, parameter, said }: Known): string =>
    `${witness.name} ${saidText(witness.index, parameter, said, witness.said)}`;
  return `${text(a)}, ${text(b)}`;
}

/** `1.5 times what the last visit says`; empty where that means nothing, or where it is next to nothing. */
function timesText(a: Known, b: Known): string {
  const [left, right] = [valueOf(a), valueOf(b)];
  if (!left || !right || a.parameter.choices || a.parameter.fields || a.parameter.bitNames || right.num === 0n)
    return '';
  const share = Number(left.num * right.den) / Number(left.den * right.num);
  if (!(share > 0) || (share < 1.05 && share > 0.95) || share > 1000) return '';
  return `${decimalText(ratio(BigInt(Math.round(share * 100)), 100n), 2, false)} times ${b.witness.name}`;
}
