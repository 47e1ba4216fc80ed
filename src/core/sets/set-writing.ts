import { cellsNumber } from '../drive/cells-text';
import type { PlacedParameter } from '../sheet/index-sheet';
import { isNumeric } from './typed-value';
import type { WritePhase } from './write-order';

/** What became of one planned value. Only a read-back proves: a drive may confirm and limit, round or forget. */
export type WriteResult =
  | { readonly kind: 'waiting' }
  /** The request is out and nothing sure came back: it may hold either value. */
  | { readonly kind: 'sent' }
  /** Confirmed; not read back yet. */
  | { readonly kind: 'confirmed' }
  | { readonly kind: 'equal' }
  /** It holds another value than was written. */
  | { readonly kind: 'kept-as'; readonly words: readonly number[] }
  | { readonly kind: 'refused'; readonly why: string }
  /** Not written, and why. */
  | { readonly kind: 'not-reached'; readonly why: string };

export interface WriteItem {
  readonly number: string;
  readonly name: string;
  readonly phase: WritePhase;
  readonly words: readonly number[];
  readonly reason: string;
  readonly result: WriteResult;
  /** How often its write went out. */
  readonly writes: number;
  /** How often it was asked without an answer, since the last sure one. */
  readonly silences: number;
}

/** A plan that is being written, or was: plain data, kept after every exchange so that it can be told and gone on with. */
export interface SetWriting {
  readonly items: readonly WriteItem[];
  /** Silences in a row over all items: then it pauses. */
  readonly silences: number;
}

/** What is sent next; null where there is nothing left to do. */
export type WriteAct =
  | { readonly kind: 'write'; readonly at: number; readonly item: WriteItem }
  | { readonly kind: 'read'; readonly at: number; readonly item: WriteItem };

export type WriteReply =
  | { readonly kind: 'confirmed' }
  | { readonly kind: 'value'; readonly words: readonly number[] }
  | { readonly kind: 'refused'; readonly why: string }
  /** It was not sent, since something stands against it now. */
  | { readonly kind: 'held-back'; readonly why: string }
  | { readonly kind: 'silent' };

/** So often one value is asked for before it is left: then what became of it is not known. */
const MOST_SILENCES = 4;
/** After so many silences in a row the writing pauses. */
export const SILENCES_TO_PAUSE = 3;

/** Whether a value is not at its end: it waits, or is on its way. */
export const isUndone = ({ kind }: WriteResult): boolean =>
  kind === 'waiting' || kind === 'sent' || kind === 'confirmed';

/** The next request: what is out without a sure answer is read before anything else is done with it, so that nothing is written twice. */
export function nextAct({ items }: SetWriting): WriteAct | null {
  const at = items.findIndex(({ result }) => isUndone(result));
  const item = items[at];
  if (!item) return null;
  return { kind: item.result.kind === 'waiting' ? 'write' : 'read', at, item };
}

const withItem = (writing: SetWriting, at: number, change: Partial<WriteItem>): SetWriting => ({
  ...writing,
  items: writing.items.map((item, i) => (i === at ? { ...item, ...change } : item)),
});

/** To be kept before the request of a write goes out: whatever happens from now on, it may be at the drive. */
export const beforeWrite = (writing: SetWriting, { at, item }: WriteAct): SetWriting =>
  withItem(writing, at, { result: { kind: 'sent' }, writes: item.writes + 1 });

/** The writing after the reply to an act. */
export function afterAct(before: SetWriting, act: WriteAct, reply: WriteReply): SetWriting {
  const { at, item } = act;
  if (reply.kind === 'silent') {
    const silences = item.silences + 1;
    const writing = { ...before, silences: before.silences + 1 };
    return withItem(
      writing,
      at,
      silences < MOST_SILENCES ? { silences } : { silences, result: { kind: 'not-reached', why: notKnown(item) } },
    );
  }
  const writing = { ...before, silences: 0 };
  if (reply.kind === 'held-back')
    return withItem(writing, at, { silences: 0, result: { kind: 'not-reached', why: `not sent: ${reply.why}` } });
  if (reply.kind === 'refused') {
    // A read that is refused says nothing of the value that was confirmed.
    const why = act.kind === 'read' ? `it cannot be read back: ${reply.why}` : reply.why;
    return withItem(writing, at, { silences: 0, result: { kind: 'refused', why } });
  }
  if (act.kind === 'write') return withItem(writing, at, { silences: 0, result: { kind: 'confirmed' } });
  if (reply.kind !== 'value') return withItem(writing, at, { silences: item.silences + 1 });
  const isEqual = reply.words.join() === item.words.join();
  // After a lost answer the old value means that the write did not arrive: it goes out once more, and no more.
  if (!isEqual && item.result.kind === 'sent' && item.writes < 2)
    return withItem(writing, at, { silences: 0, result: { kind: 'waiting' } });
  return withItem(writing, at, {
    silences: 0,
    result: isEqual ? { kind: 'equal' } : { kind: 'kept-as', words: reply.words },
  });
}

const notKnown = ({ writes }: WriteItem): string =>
  writes === 0 ? 'the drive does not answer' : 'the drive does not answer: whether it holds the new value is not known';

/** What is not proved is tried again; what a read-back proved stays, and nothing is written a second time without a read before. */
export const writingAgain = (writing: SetWriting): SetWriting => ({
  silences: 0,
  items: writing.items.map((item) => {
    if (item.result.kind === 'equal' || item.result.kind === 'kept-as') return item;
    const result: WriteResult =
      item.result.kind === 'refused' || item.writes === 0 ? { kind: 'waiting' } : { kind: 'sent' };
    return { ...item, silences: 0, writes: result.kind === 'waiting' ? 0 : item.writes, result };
  }),
});

/** In counts: how the value that is held lies to the one that was written. */
export function keptAsText(parameter: PlacedParameter, wanted: readonly number[], held: readonly number[]): string {
  const [asked, kept] = [cellsNumber(parameter, wanted), cellsNumber(parameter, held)];
  if (asked === null || kept === null || !isNumeric(parameter)) return 'holds another value';
  if (kept === parameter.min || kept === parameter.max) return 'limited it';
  return Math.abs(kept - asked) <= Math.max(parameter.step ?? 1, Math.abs(asked) / 100)
    ? 'rounded it'
    : 'holds another value';
}

/** How many items are how far. */
export function writingCounts({ items }: SetWriting): Readonly<Record<WriteResult['kind'], number>> {
  const counts = { waiting: 0, sent: 0, confirmed: 0, equal: 0, 'kept-as': 0, refused: 0, 'not-reached': 0 };
  for (const { result } of items) counts[result.kind]++;
  return counts;
}
