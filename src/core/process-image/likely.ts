import { asNumber } from '../as-number';
import { counted } from '../counted';
import { cia402 } from '../profile/cia402';
import { statesOf, type Profile } from '../profile/profile';
import { PROFIDRIVE } from '../profile/profidrive';
import { done, failed, type Result } from '../result';
import { parseQuantity } from '../scaling/quantity';
import type { SheetIndex } from '../sheet/index-sheet';
import { patternOfCells } from '../drive/seen';
import { readTyped } from '../sets/typed-value';
import { numberOfPattern } from '../values/pattern';
import type { Block } from './blocks';
import type { NamedItem } from './controller';
import { IMAGE_ORDERS, ITEM_TYPES, readImage, type ImageOrder } from './image';

/** How copied bytes are taken: as which block, in which order, and how many bytes of them come before it. */
export interface BlockReading {
  readonly block: Block;
  readonly order: ImageOrder;
  /** Negative: so many of its first bytes were not copied. */
  readonly skip: number;
}

/** Something that speaks for a reading, or against it; `weight` says how much, and which. */
export interface Evidence {
  readonly text: string;
  readonly weight: number;
}

export interface LikelyReading extends BlockReading {
  /** What would be wrong then, in a sentence; empty for the reading as it is. */
  readonly mistake: string;
  readonly score: number;
  readonly evidence: readonly Evidence[];
}

/** What a value should be, as a person knows it from the display or from the machine: between two counts. */
export interface KnownItem {
  readonly low: number;
  readonly high: number;
  readonly said: string;
}

/** A display and a shaft that goes on between two looks differ by so much of the value. */
const WITHIN = 0.02;
/** A state that the profile knows, a value within its limits, a value that a person knows: what each is worth. */
const WEIGHT = { known: 5, state: 1.5, limits: 0.5, beyond: 2, rest: 0.3, change: 0.2 } as const;
/** Longer than any cyclic block with its slot: what was copied is something else. */
export const MOST_COPIED = 2048;
/** More bytes before a block than these are no slip. */
const MOST_SKIP = 16;
/** Nothing turns at more than twice its full speed. */
const MOST_SHARE = 2;

/** What a person typed for an item: a share of its full scale, a value by the sheet, or counts. */
export function knownItem(index: SheetIndex | null, item: NamedItem, text: string): Result<KnownItem, string> {
  const about = (value: number, said: string): Result<KnownItem, string> => {
    const off = Math.max(Math.abs(value) * WITHIN, 1);
    return done({ low: value - off, high: value + off, said });
  };
  if (item.full !== undefined) {
    const share = parseQuantity(text, '%');
    return share.ok ? about((asNumber(share.value) * item.full) / 100, text.trim()) : failed(share.error.text);
  }
  const parameter = index?.byNumber.get(item.name);
  if (!index || !parameter) {
    const counts = parseQuantity(text, '');
    return counts.ok ? about(asNumber(counts.value), text.trim()) : failed(counts.error.text);
  }
  const words = readTyped(index, parameter, text, () => undefined);
  const pattern = words.ok ? patternOfCells(parameter, words.value) : null;
  return words.ok
    ? pattern === null
      ? failed('a number of this width is not compared')
      : about(numberOfPattern(parameter.type, pattern), text.trim())
    : failed(words.error);
}

/** Items of standards that show a state, with the profile that says which. */
export const STATUS_ITEMS: ReadonlyMap<string, Profile> = new Map([
  ['ZSW1', PROFIDRIVE],
  ['6041', cia402('profile-velocity')],
]);

/** What sheet and standard have for or against a value in its item; null where they say nothing of it. */
function judged(index: SheetIndex | null, item: NamedItem, value: string): Evidence | null {
  const number = Number(value);
  const parameter = index?.byNumber.get(item.name);
  const profile = STATUS_ITEMS.get(item.name) ?? (parameter?.role === 'status-word' ? index?.profile : null);
  if (profile) {
    const [state] = statesOf(profile, number);
    return state
      ? { text: `${item.name} would be “${state.name}”`, weight: WEIGHT.state }
      : { text: `${item.name} would be no state that the standard or the sheet knows`, weight: -WEIGHT.state };
  }
  if (item.full !== undefined)
    return Math.abs(number) <= MOST_SHARE * item.full
      ? null
      : { text: `${item.name} would be ${((100 * number) / item.full).toFixed(0)} %`, weight: -WEIGHT.beyond };
  if (!parameter || parameter.type.startsWith('float')) return null;
  const isWithin = parameter.choices
    ? parameter.choices.some((choice) => choice.value === number)
    : number >= parameter.min && number <= parameter.max;
  const isNarrow = parameter.choices !== undefined || parameter.max - parameter.min < 2 ** (ITEM_TYPES[item.type] - 2);
  if (isWithin) return isNarrow ? { text: `${item.name} would be within its limits`, weight: WEIGHT.limits } : null;
  return { text: `${item.name} would be ${value}, beyond its limits`, weight: -WEIGHT.beyond };
}

/** The closer it comes, the more it says: bytes that stand wrong by one place can come near by chance. */
function comparedWith({ low, high, said }: KnownItem, name: string, value: string): Evidence {
  const off = Math.abs(Number(value) - (low + high) / 2) / ((high - low) / 2);
  return off <= 1
    ? { text: `${name} would be ${value}, which is the ${said} that you know`, weight: WEIGHT.known + 1 - off }
    : { text: `${name} would be ${value}, and not the ${said} that you know`, weight: -WEIGHT.known };
}

function evidenceOf(
  index: SheetIndex | null,
  { block, order, skip }: BlockReading,
  items: readonly NamedItem[],
  bytes: Uint8Array,
  known: ReadonlyMap<string, KnownItem>,
): readonly Evidence[] {
  const window = windowOf(bytes, block.size, skip);
  const { values } = readImage(items, block.size, order, window);
  const said = items.flatMap((item): readonly Evidence[] => {
    const value = values.get(item.name);
    const wanted = known.get(item.name);
    // What was not copied says nothing.
    if (value === undefined || item.byte < -skip || item.byte + ITEM_TYPES[item.type] / 8 + skip > bytes.length)
      return [];
    if (wanted) return [comparedWith(wanted, item.name, value)];
    const found = judged(index, item, value);
    return found ? [found] : [];
  });
  const rest = [bytes.subarray(0, Math.max(0, skip)), bytes.subarray(Math.max(0, skip + block.size))];
  const count = rest.reduce((sum, { length }) => sum + length, 0);
  const isPadding = count > 0 && rest.every((part) => part.every((byte) => byte === 0));
  return isPadding
    ? [...said, { text: `the ${counted(count, 'byte')} that would be no part of it are 0`, weight: WEIGHT.rest }]
    : said;
}

/** The bytes of a block that begins after `skip` of those that were copied; what was not copied is 0. */
export function windowOf(bytes: Uint8Array, size: number, skip: number): Uint8Array {
  const window = new Uint8Array(size);
  window.set(bytes.subarray(Math.max(0, skip), Math.max(0, skip + size)), Math.max(0, -skip));
  return window;
}

/** Low byte first turns the words of a wide value round too; swapped words turn them once more. */
const highWordFirst = (order: ImageOrder): boolean => order.startsWith('big') !== order.endsWith('words');

const ORDERS = Object.keys(IMAGE_ORDERS) as readonly ImageOrder[];
const hasWide = ({ items }: Block): boolean => items.some(({ type }) => ITEM_TYPES[type] >= 32);

/** What each order is the mistake of, seen from another one. */
function mistakeOf(own: BlockReading, other: BlockReading): string {
  const [a, b] = [own.order, other.order];
  const isBytes = a.startsWith('big') !== b.startsWith('big');
  const isWords = hasWide(other.block) && highWordFirst(a) !== highWordFirst(b);
  const shift = other.skip - own.skip;
  return [
    own.block.id === other.block.id ? '' : 'the sides are exchanged: these are the bytes that go the other way',
    isBytes ? 'the two bytes of each word are swapped' : '',
    isWords ? 'the two words of each value of 32 bits are swapped' : '',
    shift === 0
      ? ''
      : shift > 0
        ? `everything stands ${counted(shift, 'byte')} further on, as behind a head of a slot`
        : `everything stands ${counted(-shift, 'byte')} too early: the first ${counted(-shift, 'byte')} were not copied`,
  ]
    .filter((part) => part !== '')
    .join('; ');
}

/**
 * The ways in which copied bytes can be taken, the likeliest first, each with what speaks for it and against it: other orders of bytes and words, a
 * shift, the other side. The reading as it is stands among them. Nothing is decided: two that are equally likely have the same score.
 */
export function likelyReadings(
  index: SheetIndex | null,
  own: BlockReading,
  otherSide: Block | null,
  bytes: Uint8Array,
  known: ReadonlyMap<string, KnownItem>,
): readonly LikelyReading[] {
  const blocks = [own.block, ...(otherSide ? [otherSide] : [])];
  const readings = blocks.flatMap((block) => {
    // Of most items of a large block nothing is known: they are not read a hundred times for nothing.
    const items = block.items.filter(
      (item) =>
        known.has(item.name) ||
        item.full !== undefined ||
        STATUS_ITEMS.has(item.name) ||
        index?.byNumber.has(item.name) === true,
    );
    const most = Math.min(MOST_SKIP, Math.max(2, bytes.length - block.size));
    const skips = Array.from({ length: most + 3 }, (_, i) => i - 2);
    const orders = hasWide(block) ? ORDERS : ORDERS.filter((order) => !order.endsWith('words') || order === own.order);
    return [...new Set([...skips, own.skip])].flatMap((skip) =>
      orders.map((order): LikelyReading => {
        const reading = { block, order, skip };
        const evidence = evidenceOf(index, reading, items, bytes, known);
        const changes =
          Number(block.id !== own.block.id) +
          Number(order !== own.order) +
          Number(skip !== own.skip) +
          Number(skip < 0);
        const score = evidence.reduce((sum, { weight }) => sum + weight, 0) - changes * WEIGHT.change;
        return { ...reading, evidence, score, mistake: mistakeOf(own, reading) };
      }),
    );
  });
  return readings.sort((a, b) => b.score - a.score);
}
