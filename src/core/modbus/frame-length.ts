import { EXCEPTION_LAYOUT } from './exceptions';
import { FUNCTIONS } from './functions';
import { EXCEPTION_BIT, type Layout } from './layout';
import type { Direction } from '../direction';
import { wordAt } from './list-codec';
import { objectsSize } from './objects';
import { lengthRule, type LengthRule } from './place';
import { RTU_MAX } from './rtu';

export const NOT_A_FRAME = -1;
/** Only the check tells how long the frame is: from `openFrom` on, in steps of `openStep`. */
export const OPEN_LENGTH = -2;

/** Station and function before the body, the check after it. */
const HEAD = 2;
const CHECK = 2;

/** Ways to a length, as numbers in a table: a look-up per place in a stream must cost next to nothing. */
const NONE = 0;
const FIXED = 1;
const COUNTED = 2;
const CHOSEN = 3;

/** Length rules as flat tables by function code, a look-up per frame. */
export interface LengthRules {
  readonly way: Uint8Array;
  /** Length of the whole frame without what is counted. */
  readonly base: Uint16Array;
  /** Place of the byte count from the frame's start, and its width. */
  readonly countAt: Uint8Array;
  readonly countWidth: Uint8Array;
  /** For functions whose next byte or word chooses: the rule by that number. */
  readonly chosen: ReadonlyMap<number, ReadonlyMap<number, LengthRule>>;
}

function rulesOf(direction: Direction): LengthRules {
  const [way, base] = [new Uint8Array(256), new Uint16Array(256)];
  const [countAt, countWidth] = [new Uint8Array(256), new Uint8Array(256)];
  const chosen = new Map<number, ReadonlyMap<number, LengthRule>>();
  const enter = (code: number, layout: Layout): void => {
    const rule = lengthRule(layout);
    base[code] = HEAD + rule.base + CHECK;
    way[code] = rule.kind === 'counted' ? COUNTED : FIXED;
    if (rule.kind !== 'counted') return;
    countAt[code] = HEAD + rule.countAt;
    countWidth[code] = rule.width;
  };
  for (const [key, spec] of Object.entries(FUNCTIONS)) {
    const code = Number(key);
    if (!spec) continue;
    if (direction === 'response') enter(code | EXCEPTION_BIT, EXCEPTION_LAYOUT);
    if (!('variants' in spec)) {
      enter(code, spec[direction]);
      continue;
    }
    way[code] = CHOSEN;
    const rules = Object.entries(spec.variants).flatMap(([number, variant]) =>
      variant ? [[Number(number), lengthRule(variant[direction])] as const] : [],
    );
    chosen.set(code, new Map(rules));
  }
  return { way, base, countAt, countWidth, chosen };
}

/** The rules of both directions; a splitter holds them, so that nothing is looked up by name for each byte. */
export const LENGTH_RULES: Readonly<Record<Direction, LengthRules>> = {
  request: rulesOf('request'),
  response: rulesOf('response'),
};

/**
 * How many bytes an RTU frame that begins at `start` has, as far as that can be told: at least one more than there are while what tells it has
 * not come, `OPEN_LENGTH` where only the check tells, `NOT_A_FRAME` where no frame of this direction begins so.
 */
export const frameLengthAt = (bytes: Uint8Array, start: number, end: number, direction: Direction): number =>
  lengthBy(LENGTH_RULES[direction], bytes, start, end);

/** Codes with which no frame of either direction begins: most bytes of noise are passed over by this alone. */
export const CAN_BEGIN = Uint8Array.from({ length: 256 }, (_, code) =>
  LENGTH_RULES.request.way[code] === NONE && LENGTH_RULES.response.way[code] === NONE ? 0 : 1,
);

/** The same with the rules in hand. */
export function lengthBy(rules: LengthRules, bytes: Uint8Array, start: number, end: number): number {
  const available = end - start;
  if (available < HEAD) return available + 1;
  const code = bytes[start + 1] as number;
  const way = rules.way[code] as number;
  if (way === NONE) return NOT_A_FRAME;
  const base = rules.base[code] as number;
  if (way === FIXED) return base;
  if (way === CHOSEN) return chosenLength(bytes, start, end, code, rules);
  const place = rules.countAt[code] as number;
  const width = rules.countWidth[code] as number;
  if (available < place + width) return place + width;
  const at = start + place;
  return within(base + (width === 1 ? (bytes[at] as number) : wordAt(bytes, at)));
}

const within = (length: number): number => (length > RTU_MAX ? NOT_A_FRAME : length);

/** Function 8 is chosen by a word, 43 by a byte. */
const chooserWidth = (code: number): number => (code === 8 ? 2 : 1);

function ruleAt(bytes: Uint8Array, start: number, code: number, rules: LengthRules): LengthRule | undefined {
  const at = start + HEAD;
  return rules.chosen.get(code)?.get(chooserWidth(code) === 2 ? wordAt(bytes, at) : (bytes[at] as number));
}

function chosenLength(bytes: Uint8Array, start: number, end: number, code: number, rules: LengthRules): number {
  const width = chooserWidth(code);
  if (end - start < HEAD + width) return HEAD + width;
  const rule = ruleAt(bytes, start, code, rules);
  switch (rule?.kind) {
    case 'fixed':
      return HEAD + rule.base + CHECK;
    case 'open':
      return OPEN_LENGTH;
    case 'walk': {
      const list = start + HEAD + rule.base;
      if (end < list) return list - start;
      const tally = bytes[start + HEAD + rule.tallyAt] as number;
      return within(HEAD + rule.base + objectsSize(bytes, list, end, tally) + CHECK);
    }
    default:
      return NOT_A_FRAME;
  }
}

/** The lengths that a frame of open length may have: smallest and step. */
export function openLengths(
  bytes: Uint8Array,
  start: number,
  direction: Direction,
): { readonly from: number; readonly step: 1 | 2 } {
  const rule = ruleAt(bytes, start, bytes[start + 1] as number, LENGTH_RULES[direction]);
  return rule?.kind === 'open' ? { from: HEAD + rule.base + CHECK, step: rule.step } : { from: RTU_MAX + 1, step: 1 };
}
