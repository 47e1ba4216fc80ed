import type { ModbusTable } from './tables';

/**
 * Looks which places of a table a drive has: a range is read in blocks, and a block that is refused is halved until every address is known as
 * there, not there, or refused for another reason. Pure: whoever drives it sends what `nextAsk` says and tells `afterReply` what came.
 */

/** What is looked through: a Modbus table, the numbers of the parameter channel of USS, or the readable commands of a dialect by their place in its list. */
export type LookSpace = ModbusTable | 'uss' | 'command';

export interface Stretch {
  readonly first: number;
  readonly quantity: number;
}

/** What is known of one address. */
export type Finding =
  /** `text` where it is no number. */
  | { readonly kind: 'there'; readonly word: number; readonly text?: string }
  | { readonly kind: 'missing' }
  /** Another exception than 2. */
  | { readonly kind: 'refused'; readonly code: number };

export interface Look {
  readonly table: LookSpace;
  /** Addresses that are looked at, both ends included. */
  readonly from: number;
  readonly to: number;
  /** Still to be asked, the next one first. */
  readonly waiting: readonly Stretch[];
  readonly found: ReadonlyMap<number, Finding>;
  readonly requests: number;
  /** Silences in a row: a drive that does not answer is not asked for ever. */
  readonly silences: number;
}

export type LookReply =
  | { readonly kind: 'words'; readonly words: readonly number[] }
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'exception'; readonly code: number }
  | { readonly kind: 'silent' };

/** How a space is asked, and what a refusal means there. */
interface SpaceRule {
  /** Places of a first block: what is lost by a refusal stays small. */
  readonly block: number;
  readonly last: number;
  /** The code of a place that does not exist. */
  readonly missing: number;
  /** The code of a drive that knows no such request at all, whatever is asked with it; null where there is none. */
  readonly unknown: number | null;
}
/** Exceptions 2 and 1 (Modbus Application Protocol V1.1b3, section 7). */
const MODBUS: SpaceRule = { block: 32, last: 0xffff, missing: 2, unknown: 1 };
/** Error number 0, no such parameter (USS protocol specification, from memory); one a telegram. */
const USS: SpaceRule = { block: 1, last: 9999, missing: 0, unknown: null };
/** How a command that the drive does not know is told here; the numbers of its dialect are its own. */
export const NO_SUCH_COMMAND = -1;
const COMMANDS: SpaceRule = { block: 1, last: 9999, missing: NO_SUCH_COMMAND, unknown: null };
const ruleOf = (space: LookSpace): SpaceRule => (space === 'uss' ? USS : space === 'command' ? COMMANDS : MODBUS);

/** After so many silences in a row a look pauses by itself. */
export const MOST_SILENCES = 3;
/** Begins to look at a range, both ends included; an end before its beginning is taken the other way round. */
export function beginLook(table: LookSpace, from: number, to: number): Look {
  const { block, last } = ruleOf(table);
  const [low, high] = [Math.max(0, Math.min(from, to)), Math.min(last, Math.max(from, to))];
  const waiting: Stretch[] = [];
  for (let first = low; first <= high; first += block)
    waiting.push({ first, quantity: Math.min(block, high - first + 1) });
  return { table, from: low, to: high, waiting, found: new Map(), requests: 0, silences: 0 };
}

/** The next block to be read; null where everything is known. */
export const nextAsk = ({ waiting }: Look): Stretch | null => waiting[0] ?? null;

/** The look after the reply to `nextAsk`. A silence leaves the block where it is. */
export function afterReply(look: Look, reply: LookReply): Look {
  const [asked, ...waiting] = look.waiting;
  if (!asked) return look;
  const requests = look.requests + 1;
  if (reply.kind === 'silent') return { ...look, requests, silences: look.silences + 1 };
  const next = { ...look, requests, silences: 0 };
  const { first, quantity } = asked;
  if (reply.kind === 'text')
    return { ...next, found: new Map(look.found).set(first, { kind: 'there', word: 0, text: reply.text }), waiting };
  if (reply.kind === 'words') {
    const words = reply.words.slice(0, quantity);
    const found = new Map(look.found);
    words.forEach((word, i) => found.set(first + i, { kind: 'there', word }));
    // A reply that is shorter than was asked for says nothing of the rest.
    const rest = quantity - words.length;
    return {
      ...next,
      found,
      waiting: rest > 0 && words.length > 0 ? [{ first: first + words.length, quantity: rest }, ...waiting] : waiting,
    };
  }
  const { missing, unknown } = ruleOf(look.table);
  if (reply.code === unknown) {
    const found = new Map(look.found);
    for (const stretch of look.waiting)
      for (let i = 0; i < stretch.quantity; i++) found.set(stretch.first + i, { kind: 'refused', code: reply.code });
    return { ...next, found, waiting: [] };
  }
  if (quantity > 1) {
    const half = quantity >> 1;
    return {
      ...next,
      waiting: [{ first, quantity: half }, { first: first + half, quantity: quantity - half }, ...waiting],
    };
  }
  const finding: Finding = reply.code === missing ? { kind: 'missing' } : { kind: 'refused', code: reply.code };
  return { ...next, found: new Map(look.found).set(first, finding), waiting };
}

/** How far a look is: addresses known, and of how many. */
export const progressOf = ({ from, to, found }: Look): { readonly known: number; readonly of: number } => ({
  known: found.size,
  of: to - from + 1,
});

/** Only what was found there, to be looked at again. */
export function lookAgain(look: Look): Look {
  const there = [...look.found]
    .filter(([, { kind }]) => kind === 'there')
    .map(([address]) => address)
    .sort((a, b) => a - b);
  const waiting: { first: number; quantity: number }[] = [];
  for (const address of there) {
    const last = waiting[waiting.length - 1];
    if (last && last.first + last.quantity === address && last.quantity < ruleOf(look.table).block) last.quantity++;
    else waiting.push({ first: address, quantity: 1 });
  }
  return { ...look, waiting, found: new Map(), requests: 0, silences: 0 };
}

/** One register that changed between two looks, and what the change is in every usual type. */
export interface Moved {
  readonly address: number;
  readonly before: number;
  readonly after: number;
  /** The same with the register behind it, as values of 32 bits; empty where that is not known in both. */
  readonly wide: readonly { readonly as: string; readonly before: number; readonly after: number }[];
}

const WIDE: readonly { readonly as: string; readonly of: (high: number, low: number) => number }[] = [
  { as: 'int32 ABCD', of: (first, second) => (first << 16) | second | 0 },
  { as: 'int32 CDAB', of: (first, second) => (second << 16) | first | 0 },
  { as: 'float32 ABCD', of: (first, second) => floatOf(first, second) },
  { as: 'float32 CDAB', of: (first, second) => floatOf(second, first) },
];

function floatOf(high: number, low: number): number {
  const view = new DataView(new ArrayBuffer(4));
  view.setUint16(0, high);
  view.setUint16(2, low);
  return view.getFloat32(0);
}

const wordIn = ({ found }: Look, address: number): number | null => {
  const finding = found.get(address);
  return finding?.kind === 'there' ? finding.word : null;
};

/** What moved between two looks, in the order of the addresses. A float that no drive would keep is left out. */
export function movedBetween(before: Look, after: Look): readonly Moved[] {
  return [...after.found.keys()]
    .sort((a, b) => a - b)
    .flatMap((address): readonly Moved[] => {
      const [was, is] = [wordIn(before, address), wordIn(after, address)];
      if (was === null || is === null || was === is) return [];
      // Parameters of USS and commands are numbers of their own, however wide.
      const wide = after.table === 'uss' || after.table === 'command' ? [] : wideOf(before, after, address);
      return [{ address, before: was, after: is, wide }];
    });
}

/** A float outside of this is no quantity of a drive but two registers that are something else. */
const PLAUSIBLE = { least: 1e-6, most: 1e9 };

function wideOf(before: Look, after: Look, address: number): Moved['wide'] {
  const [a, b] = [wordIn(before, address), wordIn(before, address + 1)];
  const [c, d] = [wordIn(after, address), wordIn(after, address + 1)];
  if (a === null || b === null || c === null || d === null) return [];
  return WIDE.map(({ as, of }) => ({ as, before: of(a, b), after: of(c, d) })).filter(
    ({ as, before: was, after: is }) =>
      !as.startsWith('float') ||
      [was, is].every(
        (value) => value === 0 || (Math.abs(value) >= PLAUSIBLE.least && Math.abs(value) <= PLAUSIBLE.most),
      ),
  );
}
