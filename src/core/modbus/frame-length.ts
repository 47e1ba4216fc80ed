import { EXCEPTION_LAYOUT } from './exceptions';
import { FUNCTIONS } from './functions';
import { EXCEPTION_BIT } from './layout';
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

/** Ways to a length. A look-up per place in a stream must cost next to nothing, so a rule is one number: way, base, place and width. */
const WAY = { none: 0, fixed: 1, counted: 2, open: 3, walk: 4, byByte: 5, byWord: 6 } as const;
const WAY_BITS = 7;
const [BASE_AT, PLACE_AT, WIDE_AT] = [3, 13, 23];

const packed = (way: number, base: number, place = 0, width: 1 | 2 = 1): number =>
  way | (base << BASE_AT) | (place << PLACE_AT) | ((width - 1) << WIDE_AT);

const baseOf = (rule: number): number => (rule >>> BASE_AT) & 0x3ff;
const placeOf = (rule: number): number => (rule >>> PLACE_AT) & 0x3ff;
const widthOf = (rule: number): number => ((rule >>> WIDE_AT) & 1) + 1;

/** Lengths of whole frames, head and check included. An open frame's width is the step in which it grows. */
function pack(rule: LengthRule): number {
  const base = HEAD + rule.base + CHECK;
  switch (rule.kind) {
    case 'fixed':
      return packed(WAY.fixed, base);
    case 'counted':
      return packed(WAY.counted, base, HEAD + rule.countAt, rule.width);
    case 'open':
      return packed(WAY.open, base, 0, rule.step);
    case 'walk':
      return packed(WAY.walk, base, HEAD + rule.tallyAt);
  }
}

/** Length rules of one direction as flat tables. */
export interface LengthRules {
  /** By function code. */
  readonly byCode: Int32Array;
  /** For a function whose next byte chooses, and for one whose next word does (none beyond 255 is defined): the rule by that number. */
  readonly byByte: Int32Array;
  readonly byWord: Int32Array;
}

/** Function 8 is chosen by a word, 43 by a byte. */
const CHOSEN_BY_WORD = 8;

function rulesOf(direction: Direction): LengthRules {
  const rules = { byCode: new Int32Array(256), byByte: new Int32Array(256), byWord: new Int32Array(256) };
  for (const [key, spec] of Object.entries(FUNCTIONS)) {
    const code = Number(key);
    if (!spec) continue;
    if (direction === 'response') rules.byCode[code | EXCEPTION_BIT] = pack(lengthRule(EXCEPTION_LAYOUT));
    if (!('variants' in spec)) {
      rules.byCode[code] = pack(lengthRule(spec[direction]));
      continue;
    }
    const isWord = code === CHOSEN_BY_WORD;
    rules.byCode[code] = isWord ? WAY.byWord : WAY.byByte;
    for (const [number, variant] of Object.entries(spec.variants))
      if (variant) (isWord ? rules.byWord : rules.byByte)[Number(number)] = pack(lengthRule(variant[direction]));
  }
  return rules;
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

/** The same with the rules in hand. */
export function lengthBy(rules: LengthRules, bytes: Uint8Array, start: number, end: number): number {
  const available = end - start;
  if (available < HEAD) return available + 1;
  const rule = rules.byCode[bytes[start + 1] as number] as number;
  const way = rule & WAY_BITS;
  if (way < WAY.byByte) return lengthByRule(rule, bytes, start, end);
  const width = way === WAY.byWord ? 2 : 1;
  if (available < HEAD + width) return HEAD + width;
  return lengthByRule(chosenRule(rules, way, bytes, start + HEAD), bytes, start, end);
}

/** The rule that the byte or word behind the function code chooses. */
function chosenRule(rules: LengthRules, way: number, bytes: Uint8Array, at: number): number {
  const first = bytes[at] as number;
  if (way === WAY.byByte) return rules.byByte[first] as number;
  return first === 0 ? (rules.byWord[bytes[at + 1] as number] as number) : WAY.none;
}

function lengthByRule(rule: number, bytes: Uint8Array, start: number, end: number): number {
  const way = rule & WAY_BITS;
  const base = baseOf(rule);
  if (way === WAY.fixed) return base;
  if (way === WAY.none) return NOT_A_FRAME;
  if (way === WAY.open) return OPEN_LENGTH;
  const at = start + placeOf(rule);
  const width = widthOf(rule);
  if (at + width > end) return at + width - start;
  const count = width === 1 ? (bytes[at] as number) : wordAt(bytes, at);
  if (way === WAY.counted) return within(base + count);
  const list = start + base - CHECK;
  // An object has two bytes at least: a tally that cannot fit is not walked.
  if (base + 2 * count > RTU_MAX) return NOT_A_FRAME;
  return end < list ? list - start : within(base + objectsSize(bytes, list, end, count));
}

const within = (length: number): number => (length > RTU_MAX ? NOT_A_FRAME : length);

/**
 * A look in 15 bits: the length without what is counted (10), the place of the count (4), whether there is one. `requestLength` reads it and
 * has these numbers once more, as a name outside it would be looked up for every byte of a stream.
 */
const COUNT_AT = 10;
const COUNTED_AT = 14;
const NEXT_LOOK_AT = 15;
/** Set in the two looks of a function of which a frame may hold a list of objects: its length takes a walk. */
export const MAY_LIST = 1 << 30;
/** Set, so that they are below 0, in those that may be the length of nothing: of a function with variants, of an exception. */
const TAKES_CLOSER_LOOK = 1 << 31;

/**
 * A first look at every place of a stream, by the function code alone: where all of known length that may be chosen has one length, that
 * length, defined or not. No frame of known length is missed by it, and a closer look has to follow.
 */
function firstLook({ byCode, byByte, byWord }: LengthRules, code: number): number {
  const rule = byCode[code] as number;
  const way = rule & WAY_BITS;
  if (way < WAY.byByte) return lookOf(rule);
  const known = (way === WAY.byWord ? byWord : byByte).filter((choice) => {
    const kind = choice & WAY_BITS;
    return kind !== WAY.none && kind !== WAY.open;
  });
  const first = known[0] ?? WAY.none;
  return known.every((choice) => choice === first) ? lookOf(first) : 0;
}

function lookOf(rule: number): number {
  const way = rule & WAY_BITS;
  if (way !== WAY.fixed && way !== WAY.counted) return 0;
  // A count that fits a frame has a high byte of 0.
  const countAt = way === WAY.counted ? placeOf(rule) + widthOf(rule) - 1 : 0;
  return baseOf(rule) | (countAt << COUNT_AT) | (countAt > 0 ? 1 << COUNTED_AT : 0);
}

/** The one frame with a list of objects, an identification's response: where its tally stands and its list begins. */
export const TALLY_AT = 7;
export const LIST_AT = 8;

/**
 * Whether such a frame may begin at `start`, whose function code says that it may hold a list: chosen by its transport, with a read code and a
 * flag that the standard has, and without a next object where nothing follows (V1.1b3, 6.21). With others no list is defined that could be walked.
 */
export const isListHead = (bytes: Uint8Array, start: number): boolean =>
  bytes[start + 2] === 14 &&
  ((bytes[start + 3] as number) - 1) >>> 0 < 4 &&
  (bytes[start + 5] === 0xff || ((bytes[start + 5] as number) | (bytes[start + 6] as number)) === 0);

/** The first looks of both directions by function code; 0 where no frame of known length begins. */
export const FIRST_LOOKS = Int32Array.from({ length: 256 }, (_, code) => {
  const { request, response } = LENGTH_RULES;
  const way = (response.byCode[code] as number) & WAY_BITS;
  const mayList = way === WAY.byByte && response.byByte.some((rule) => (rule & WAY_BITS) === WAY.walk);
  const takesCloserLook = way >= WAY.byByte || code >= EXCEPTION_BIT;
  return (
    firstLook(request, code) |
    (firstLook(response, code) << NEXT_LOOK_AT) |
    (mayList ? MAY_LIST : 0) |
    (takesCloserLook ? TAKES_CLOSER_LOOK : 0)
  );
});

/** The length of a request at `start` by a first look, without a branch: 0 where none begins, 511 at most. */
export const requestLength = (look: number, bytes: Uint8Array, start: number): number =>
  (look & 1023) + ((bytes[start + ((look >>> 10) & 15)] as number) & -((look >>> 14) & 1));

/** The same for a response. */
export const responseLength = (look: number, bytes: Uint8Array, start: number): number =>
  requestLength(look >>> 15, bytes, start);

/** The lengths that a frame of open length may have: smallest and step. */
export function openLengths(
  bytes: Uint8Array,
  start: number,
  direction: Direction,
): { readonly from: number; readonly step: number } {
  const rules = LENGTH_RULES[direction];
  const way = (rules.byCode[bytes[start + 1] as number] as number) & WAY_BITS;
  const rule = way < WAY.byByte ? WAY.none : chosenRule(rules, way, bytes, start + HEAD);
  return (rule & WAY_BITS) === WAY.open ? { from: baseOf(rule), step: widthOf(rule) } : { from: RTU_MAX + 1, step: 1 };
}
