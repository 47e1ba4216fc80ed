import { FLAG } from './frame-block';
import type { FrameIndex, IndexedBlock, ReadAgain } from './frame-index';
import { ofEachKind, type Kinds, type KindTest } from './kinds';
import { Selection } from './selection';

/** What a filter asks of each frame; an absent field asks nothing. */
export interface FrameFilter {
  readonly unit?: number;
  readonly fc?: number;
  /** A register that the frame reads or writes; a response counts with its request. */
  readonly register?: number;
  readonly only?: 'faults' | 'exceptions' | 'unanswered';
  readonly fromUs?: number;
  readonly toUs?: number;
}

/** Told of what was found as far as was looked; false ends the search. */
export type GoesOn = (found: Selection, looked: number) => boolean;

const always: GoesOn = () => true;

const has = (flag: number) => (kinds: Kinds, id: number) => (kinds.flags(id) & flag) !== 0;
const isJunk = has(FLAG.junk);

const ONLY: Readonly<Record<NonNullable<FrameFilter['only']>, KindTest>> = {
  faults: has(FLAG.fault),
  exceptions: has(FLAG.exception),
  unanswered: (kinds, id) => kinds.isRequest(id) && kinds.distance(id) === 0,
};

/** Whether a filter lets frames of a kind through, whenever they came. */
function kindTestOf({ unit, fc, register, only }: FrameFilter): KindTest {
  const tests: KindTest[] = only ? [ONLY[only]] : [];
  if (unit !== undefined) tests.push((kinds, id) => !isJunk(kinds, id) && kinds.unit(id) === unit);
  if (fc !== undefined) tests.push((kinds, id) => !isJunk(kinds, id) && kinds.fc(id) === fc);
  if (register !== undefined)
    tests.push((kinds, id) => {
      const behind = register - kinds.address(id);
      return !isJunk(kinds, id) && behind >= 0 && behind < kinds.quantity(id);
    });
  return (kinds, id) => tests.every((test) => test(kinds, id));
}

/**
 * Frames that a filter lets through; null where `goesOn` ended it. Each kind is looked at once; then only the numbers of kinds are gone through. Bytes are read
 * again only where station, function or register are asked for and not kept.
 */
export async function filterFrames(
  index: FrameIndex,
  filter: FrameFilter,
  readAgain: ReadAgain,
  goesOn = always,
): Promise<Selection | null> {
  const { unit, fc, register, fromUs = -Infinity, toUs = Infinity, only } = filter;
  const isOfBytes = unit !== undefined || fc !== undefined || register !== undefined;
  const isTimed = fromUs !== -Infinity || toUs !== Infinity;
  const isOwn = (place: number, timeUs: number): boolean =>
    !(only === 'unanswered' && index.isAnsweredLate(place)) && (!isTimed || (timeUs >= fromUs && timeUs <= toUs));
  return select(
    index,
    isOfBytes ? index.blocks(readAgain) : index.outlines(),
    kindTestOf(filter),
    isTimed || only === 'unanswered' ? isOwn : null,
    goesOn,
  );
}

/** Frames of some kinds; null where `goesOn` ended it. */
export const framesOfKinds = (
  index: FrameIndex,
  isWanted: KindTest,
  readAgain: ReadAgain,
  goesOn = always,
): Promise<Selection | null> => select(index, index.blocks(readAgain), isWanted, null, goesOn);

/** `isOwn` is asked of each frame by itself; nothing is where it is null. */
async function select(
  index: FrameIndex,
  blocks: Iterable<IndexedBlock> | AsyncIterable<IndexedBlock>,
  isWanted: KindTest,
  isOwn: ((place: number, timeUs: number) => boolean) | null,
  goesOn: GoesOn,
): Promise<Selection | null> {
  const found = new Selection(index.count);
  let known: Kinds | null = null;
  let passes = new Uint8Array(0);
  for await (const { block, first } of blocks) {
    const { kinds } = block;
    if (kinds !== known || passes.length < kinds.count) passes = ofEachKind(kinds, isWanted);
    known = kinds;
    if (isOwn === null) addPassing(found, block.ids, passes, first);
    else
      for (let i = 0; i < block.size; i++)
        if (passes[block.ids[i] as number] === 1 && isOwn(first + i, block.timeUs(i))) found.add(first + i);
    if (!goesOn(found, first + block.size)) return null;
  }
  return found;
}

/** Adds the frames of a block whose kinds pass: nothing else is asked of each of them. */
function addPassing(found: Selection, ids: Uint8Array | Uint16Array, passes: Uint8Array, first: number): void {
  for (let i = 0; i < ids.length; i++) if (passes[ids[i] as number] === 1) found.add(first + i);
}
