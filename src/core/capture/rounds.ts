import type { FrameEntry, FrameIndex } from './frame-index';
import type { FrameTraits } from './kinds';

/** What tells one request from another; of protocols without addresses, telegrams of other lengths are others. */
type Asked = Pick<FrameEntry, 'unit' | 'fc' | 'address' | 'quantity' | 'tcp' | 'length'>;

/** A request that comes again and again: an exchange that somebody keeps going. */
export interface Round extends Asked {
  readonly cycles: number;
  /** Without an answer, or with a refusal. */
  readonly lost: number;
  /** NaN where the source has no times. */
  readonly meanUs: number;
}

/** So many times at least, or it goes round for nobody. */
const LEAST_CYCLES = 8;
const MOST_ROUNDS = 60;

const keyOf = ({ unit, fc, address, quantity, tcp, length }: Asked): string =>
  `${unit} ${fc} ${address} ${quantity} ${length}${tcp ? ' tcp' : ''}`;

/** Whether a frame of a capture is the request of a round. */
export const isOfRound = (round: Round, entry: FrameEntry): boolean =>
  entry.direction === 'request' && keyOf(entry) === keyOf(round);

interface Tally {
  readonly first: FrameEntry;
  cycles: number;
  lost: number;
  last: number;
}

/** Blocks gone through at once: a few milliseconds at most. */
const AT_ONCE = 16;

const isLost = (reply: Pick<FrameEntry, 'exception' | 'fault'> | null): boolean =>
  reply === null || reply.exception || reply.fault;

/** What is asked of each kind of frame, once for all blocks that share their kinds. */
interface OfKinds {
  readonly kinds: readonly FrameTraits[];
  readonly isRequest: Uint8Array;
  readonly isLostWith: Uint8Array;
  readonly distances: Int16Array;
  /** What a request of each kind adds to; made when the first one comes. */
  readonly tallies: (Tally | undefined)[];
}

const ofKinds = (kinds: readonly FrameTraits[], distanceOf: (id: number) => number): OfKinds => ({
  kinds,
  isRequest: Uint8Array.from(kinds, ({ direction }) => Number(direction === 'request')),
  isLostWith: Uint8Array.from(kinds, (kind) => Number(isLost(kind))),
  distances: Int16Array.from(kinds, (_, id) => distanceOf(id)),
  tallies: [],
});

/**
 * What goes round in a capture, the most frequent first. One pass over the index, no byte of the capture is read; null where `goesOn`, which is asked every few
 * blocks, ended it.
 */
export async function roundsOf(
  index: FrameIndex,
  goesOn: () => Promise<boolean> | boolean = () => true,
): Promise<readonly Round[] | null> {
  const found = new Map<string, Tally>();
  let gone = 0;
  let known: OfKinds | null = null;
  for (const { block, first, kinds } of index.blocks()) {
    if (gone++ % AT_ONCE === AT_ONCE - 1 && !(await goesOn())) return null;
    const { ids, size } = block;
    if (known?.kinds !== kinds) known = ofKinds(kinds, (id) => block.kinds.distance(id));
    const { isRequest, isLostWith, distances, tallies } = known;
    for (let i = 0; i < size; i++) {
      const id = ids[i] as number;
      if (isRequest[id] === 0) continue;
      const place = first + i;
      let tally = tallies[id];
      if (!tally) {
        const entry = index.at(place);
        if (!entry) continue;
        const key = keyOf(entry);
        tally = found.get(key) ?? { first: entry, cycles: 0, lost: 0, last: place };
        tallies[id] = tally;
        found.set(key, tally);
      }
      tally.cycles++;
      tally.last = place;
      // Most answers stand near their request, in the same block.
      const reply = i + (distances[id] as number);
      tally.lost +=
        reply > i && reply < size
          ? (isLostWith[ids[reply] as number] as number)
          : Number(isLost(replyAt(index, place)));
    }
  }
  return [...found.values()]
    .filter(({ cycles }) => cycles >= LEAST_CYCLES)
    .sort((a, b) => b.cycles - a.cycles)
    .slice(0, MOST_ROUNDS)
    .map(({ first: { unit, fc, address, quantity, tcp, length, timeUs }, cycles, lost, last }) => ({
      unit,
      fc,
      address,
      quantity,
      tcp,
      length,
      cycles,
      lost,
      meanUs: ((index.at(last)?.timeUs ?? NaN) - timeUs) / (cycles - 1),
    }));
}

function replyAt(index: FrameIndex, place: number): FrameEntry | null {
  const partner = index.at(place)?.partner ?? -1;
  return partner < 0 ? null : index.at(partner);
}
