import { HEX_MARK } from './hex';

/** Bases in which people write whole numbers. */
export type Base = 'hex' | 'decimal' | 'binary' | 'octal';

export interface BaseReading {
  readonly value: number;
  readonly base: Base;
}

/** Digits that this many cannot be exceeded by: more would not be exact. */
const MOST = Number.MAX_SAFE_INTEGER;

/** Forms that say their base themselves: `0x6B`, `$6B`, `16#6B`, `6Bh`, `0b11`, `2#11`, `0o7`, `8#7`, `-3`. */
const MARKED: readonly { readonly form: RegExp; readonly radix: number; readonly base: Base }[] = [
  { form: new RegExp(`^${HEX_MARK}([0-9a-f]+)$`, 'i'), radix: 16, base: 'hex' },
  { form: /^([0-9a-f]+)h$/i, radix: 16, base: 'hex' },
  { form: /^(?:0b|2#)([01]+)$/i, radix: 2, base: 'binary' },
  { form: /^(?:0o|8#)([0-7]+)$/i, radix: 8, base: 'octal' },
  { form: /^(-\d+)$/, radix: 10, base: 'decimal' },
];

const compact = (text: string): string => text.replace(/[\s_]/g, '').replace(/^\u2212/, '-');

const reading = (digits: string, radix: number, base: Base): readonly BaseReading[] => {
  const value = parseInt(digits, radix);
  return Math.abs(value) <= MOST ? [{ value, base }] : [];
};

/**
 * A whole number in the base that its own mark says, as any field takes it; without a mark it is decimal. Blanks and underscores may stand
 * between digits. Null where the text is none, or beyond 2^53.
 */
export function wholeIn(text: string): number | null {
  const bare = compact(text);
  const marked = readMarked(bare);
  if (marked) return marked[0]?.value ?? null;
  return /^\d+$/.test(bare) ? (reading(bare, 10, 'decimal')[0]?.value ?? null) : null;
}

/**
 * What a word of so many bits may mean, the likeliest first. Nothing says the base of `0637`, `06 37` or `00000110`, so each base that fits is
 * given: as many binary digits as the word has bits are binary; a leading zero, pairs, or as many digits as the word has in hex with a letter
 * are hex first; other digits are decimal first.
 */
export function readingsOfWord(text: string, width: number): readonly BaseReading[] {
  const bare = compact(text);
  const marked = readMarked(bare);
  if (marked) return marked;
  // What begins as binary and is none may be a slip: it is not taken for hex.
  if (!/^(?!0b)[0-9a-f]+$/i.test(bare)) return [];
  const hex = reading(bare, 16, 'hex');
  if (!/^\d+$/.test(bare)) return hex;
  const decimal = reading(bare, 10, 'decimal');
  const groups = text.trim().split(/[\s_]+/);
  const isWide = bare.length === width / 4;
  const inHalves = groups.length > 1 && groups.every(({ length }) => length === groups[0]?.length && length % 2 === 0);
  const binary = /^[01]+$/.test(bare) && bare.length === width ? reading(bare, 2, 'binary') : [];
  if (binary.length > 0) return [...binary, ...(isWide ? hex : [])];
  if (inHalves || (bare.startsWith('0') && bare.length > 1)) return [...hex, ...decimal];
  return isWide ? [...decimal, ...hex] : decimal;
}

function readMarked(bare: string): readonly BaseReading[] | null {
  for (const { form, radix, base } of MARKED) {
    const digits = form.exec(bare)?.[1];
    if (digits !== undefined) return reading(digits, radix, base);
  }
  return null;
}
