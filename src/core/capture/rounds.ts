import type { FrameEntry, FrameIndex } from './frame-index';

/** A request that comes again and again: an exchange that somebody keeps going. */
export interface Round {
  readonly unit: number;
  readonly fc: number;
  readonly address: number;
  readonly quantity: number;
  readonly tcp: boolean;
  /** Bytes of the request: of protocols without addresses, telegrams of other lengths are others. */
  readonly length: number;
  readonly cycles: number;
  /** Without an answer, or with a refusal. */
  readonly lost: number;
  /** NaN where the source has no times. */
  readonly meanUs: number;
}

/** So many times at least, or it goes round for nobody. */
const LEAST_CYCLES = 8;
const MOST_ROUNDS = 60;

type Asked = Pick<FrameEntry, 'unit' | 'fc' | 'address' | 'quantity' | 'tcp' | 'length'>;

const keyOf = ({ unit, fc, address, quantity, tcp, length }: Asked): string =>
  `${unit} ${fc} ${address} ${quantity} ${length}${tcp ? ' tcp' : ''}`;

/** Whether a frame of a capture is the request of a round. */
export const isOfRound = (round: Round, entry: FrameEntry): boolean =>
  entry.direction === 'request' && keyOf(entry) === keyOf(round);

/** Frames gone through at once: some ten milliseconds. */
const AT_ONCE = 20_000;

/**
 * What goes round in a capture, the most frequent first. One pass over the index, no byte of the capture is read; null where `goesOn`, which is asked every few
 * thousand frames, ended it.
 */
export async function roundsOf(
  index: FrameIndex,
  goesOn: () => Promise<boolean> | boolean = () => true,
): Promise<readonly Round[] | null> {
  const found = new Map<string, { entry: FrameEntry; cycles: number; lost: number; lastUs: number }>();
  for (let place = 0; place < index.count; place++) {
    if (place % AT_ONCE === AT_ONCE - 1 && !(await goesOn())) return null;
    const entry = index.at(place);
    if (entry?.direction !== 'request') continue;
    const reply = entry.partner < 0 ? null : index.at(entry.partner);
    const isLost = reply === null || reply.exception || reply.fault;
    const key = keyOf(entry);
    const known = found.get(key) ?? { entry, cycles: 0, lost: 0, lastUs: entry.timeUs };
    known.cycles++;
    known.lost += Number(isLost);
    known.lastUs = entry.timeUs;
    found.set(key, known);
  }
  return [...found.values()]
    .filter(({ cycles }) => cycles >= LEAST_CYCLES)
    .sort((a, b) => b.cycles - a.cycles)
    .slice(0, MOST_ROUNDS)
    .map(({ entry: { unit, fc, address, quantity, tcp, length, timeUs }, cycles, lost, lastUs }) => ({
      unit,
      fc,
      address,
      quantity,
      tcp,
      length,
      cycles,
      lost,
      meanUs: (lastUs - timeUs) / (cycles - 1),
    }));
}
