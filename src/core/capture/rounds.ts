import { FLAG } from './frame-block';
import type { FrameIndex, ReadAgain } from './frame-index';
import { ofEachKind, type FrameTraits, type Kinds, type KindTest } from './kinds';

/** What tells one request from another; of protocols without addresses, telegrams of other lengths are others. */
type Asked = Pick<FrameTraits, 'unit' | 'fc' | 'address' | 'quantity' | 'tcp' | 'length'>;

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
/** So many different requests are counted at once. */
const MOST_COUNTED = 100_000;

const askedBy = (kinds: Kinds, id: number): Asked => ({
  unit: kinds.unit(id),
  fc: kinds.fc(id),
  address: kinds.address(id),
  quantity: kinds.quantity(id),
  tcp: (kinds.flags(id) & FLAG.tcp) !== 0,
  length: kinds.length(id),
});

/** Whether frames of a kind are the requests of a round. */
export const isOfRound = (round: Round, kinds: Kinds, id: number): boolean =>
  kinds.isRequest(id) &&
  kinds.unit(id) === round.unit &&
  kinds.fc(id) === round.fc &&
  kinds.address(id) === round.address &&
  kinds.quantity(id) === round.quantity &&
  kinds.length(id) === round.length &&
  ((kinds.flags(id) & FLAG.tcp) !== 0) === round.tcp;

interface Tally {
  readonly asked: Asked;
  readonly firstUs: number;
  cycles: number;
  lost: number;
  last: number;
}

/** Blocks gone through at once: a few milliseconds at most. */
const AT_ONCE = 16;

const isRequest: KindTest = (kinds, id) => kinds.isRequest(id);
const isLostWith: KindTest = (kinds, id) => (kinds.flags(id) & (FLAG.exception | FLAG.fault)) !== 0;

/** What is asked of each kind of frame, once for all blocks that share their kinds. */
interface OfKinds {
  readonly kinds: Kinds;
  readonly isRequest: Uint8Array;
  readonly isLostWith: Uint8Array;
  readonly distances: Int16Array;
  /** What a request of each kind adds to; made when the first one comes. */
  readonly tallies: (Tally | undefined)[];
}

const ofKinds = (kinds: Kinds): OfKinds => ({
  kinds,
  isRequest: ofEachKind(kinds, isRequest),
  isLostWith: ofEachKind(kinds, isLostWith),
  distances: Int16Array.from({ length: kinds.count }, (_, id) => kinds.distance(id)),
  tallies: [],
});

/** What was counted of each request, by its length and then by all else that tells it from another, in one number of 49 bits. */
class Tallies {
  readonly #most: number;
  readonly #byLength = new Map<number, Map<number, Tally>>();
  #count = 0;

  constructor(most: number) {
    this.#most = most;
  }

  get isFull(): boolean {
    return this.#count > this.#most;
  }

  /** The tally of requests of a kind, which begins with the frame at `place`. */
  of(kinds: Kinds, id: number, timeUs: number, place: number): Tally {
    const length = kinds.length(id);
    const key =
      (((kinds.unit(id) * 2 ** 8 + kinds.fc(id)) * 2 ** 16 + kinds.address(id)) * 2 ** 16 + kinds.quantity(id)) * 2 +
      Number((kinds.flags(id) & FLAG.tcp) !== 0);
    let known = this.#byLength.get(length);
    if (!known) this.#byLength.set(length, (known = new Map<number, Tally>()));
    let tally = known.get(key);
    if (!tally) {
      tally = { asked: askedBy(kinds, id), firstUs: timeUs, cycles: 0, lost: 0, last: place };
      known.set(key, tally);
      this.#count++;
    }
    return tally;
  }

  /** Keeps half of them, those that came most often; of as many cycles those that are longer here. */
  letGo(): void {
    const half = this.#most >> 1;
    const sorted = Int32Array.from(this.all(), ({ cycles }) => cycles).sort();
    const least = sorted[sorted.length - half] as number;
    let room = half - (sorted.length - 1 - sorted.lastIndexOf(least));
    for (const known of this.#byLength.values())
      for (const [key, { cycles }] of known)
        if (cycles < least || (cycles === least && room-- <= 0)) {
          known.delete(key);
          this.#count--;
        }
  }

  all(): readonly Tally[] {
    return [...this.#byLength.values()].flatMap((known) => [...known.values()]);
  }
}

/**
 * What goes round in a capture, the most frequent first; null where `goesOn`, which is asked every few blocks, ended it. One pass over the index; bytes are read
 * again of blocks that keep outlines only. Of a capture with more than `mostCounted` different requests those that came least often are let go on the way: what was
 * let go and comes again is counted from there.
 */
export async function roundsOf(
  index: FrameIndex,
  readAgain: ReadAgain,
  goesOn: () => Promise<boolean> | boolean = () => true,
  mostCounted = MOST_COUNTED,
): Promise<readonly Round[] | null> {
  const found = new Tallies(mostCounted);
  let gone = 0;
  let known: OfKinds | null = null;
  for await (const { block, first } of index.blocks(readAgain)) {
    if (gone++ % AT_ONCE === AT_ONCE - 1 && !(await goesOn())) return null;
    const { ids, size, kinds } = block;
    if (found.isFull) {
      found.letGo();
      known = null;
    }
    if (known?.kinds !== kinds || known.isRequest.length < kinds.count) known = ofKinds(kinds);
    const { isRequest, isLostWith, distances, tallies } = known;
    for (let i = 0; i < size; i++) {
      const id = ids[i] as number;
      if (isRequest[id] === 0) continue;
      const place = first + i;
      const tally = (tallies[id] ??= found.of(kinds, id, block.timeUs(i), place));
      tally.cycles++;
      tally.last = place;
      // Most answers stand near their request, in the same block.
      const reply = i + (distances[id] as number);
      tally.lost +=
        reply > i && reply < size ? (isLostWith[ids[reply] as number] as number) : Number(isLostAt(index, place));
    }
  }
  return found
    .all()
    .filter(({ cycles }) => cycles >= LEAST_CYCLES)
    .sort((a, b) => b.cycles - a.cycles)
    .slice(0, MOST_ROUNDS)
    .map(({ asked, firstUs, cycles, lost, last }) => ({
      ...asked,
      cycles,
      lost,
      meanUs: ((index.at(last)?.timeUs ?? NaN) - firstUs) / (cycles - 1),
    }));
}

/** Whether a request whose answer is not in its block has none, or a refusal. */
function isLostAt(index: FrameIndex, place: number): boolean {
  const partner = index.at(place)?.partner ?? -1;
  const reply = partner < 0 ? null : index.at(partner);
  return !reply || reply.exception || reply.fault;
}
