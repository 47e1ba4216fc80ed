import { bytesToHex, hexNumber } from '../bytes/hex';
import type { PlaceLink } from '../places/place-link';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { patternIn } from '../drive/seen';
import type { Trial, TrialStep, What } from './trial';

/** What is needed of an entry of the trace. */
interface Crossed {
  readonly line: string;
  readonly station: number;
  readonly direction: string;
  readonly outcome: string;
  readonly cause: string;
  readonly exchange: number;
  readonly bytes: Uint8Array;
}

/** What the bench sends without a person, or what a trial itself sent. */
const NOT_BY_HAND = /^(?:poll|keep-alive|Stop|trial)/;

const whatOf = ({ role, number }: PlacedParameter): What => (role ? { role } : { number });

/** The newest acts of a person on a station as steps of a trial: what was written and what was read, in their order. */
export function stepsOfExchanges(
  index: SheetIndex,
  places: PlaceLink,
  entries: readonly Crossed[],
  line: string,
  station: number,
  most: number,
): readonly TrialStep[] {
  const replies = new Map<number, Crossed>();
  const steps: TrialStep[] = [];
  for (let i = entries.length - 1; i >= 0 && steps.length < most; i--) {
    const entry = entries[i];
    if (!entry || entry.line !== line || entry.station !== station || NOT_BY_HAND.test(entry.cause)) continue;
    if (entry.direction === 'received' && entry.outcome === 'answered') replies.set(entry.exchange, entry);
    if (entry.direction !== 'sent') continue;
    const id = `step-${most - steps.length}`;
    const reply = replies.get(entry.exchange);
    const step =
      writeStep(index, places, entry.bytes, id) ??
      (reply ? readStep(index, places, entry.bytes, reply.bytes, id) : null) ??
      asItStood(index, entry.bytes, reply !== undefined, id);
    if (step) steps.push(step);
  }
  return steps.reverse();
}

/** A request that the sheet knows nothing of, as it stood. A line of a dialect is framed anew when it is sent, so that it is left out here. */
const asItStood = (index: SheetIndex, bytes: Uint8Array, isAnswered: boolean, id: string): TrialStep | null =>
  index.sheet.dialect
    ? null
    : { id, kind: 'send', bytes: bytesToHex(bytes, ' '), expects: isAnswered ? 'answer' : 'any' };

function writeStep(index: SheetIndex, places: PlaceLink, bytes: Uint8Array, id: string): TrialStep | null {
  const written = places.written(bytes);
  const words = new Map(written);
  const place = placeOf(index, written);
  const pattern = place && patternIn(place, (cell) => words.get(cell));
  return place && pattern !== undefined ? { id, kind: 'write', what: whatOf(place), to: hexNumber(pattern) } : null;
}

function readStep(
  index: SheetIndex,
  places: PlaceLink,
  request: Uint8Array,
  reply: Uint8Array,
  id: string,
): TrialStep | null {
  const place = placeOf(index, places.learned(request, reply));
  return place ? { id, kind: 'read', what: whatOf(place) } : null;
}

const placeOf = (index: SheetIndex, told: ReturnType<PlaceLink['written']>): PlacedParameter | undefined =>
  told.map(([cell]) => index.byCell.get(cell)).find((place) => place !== undefined);

/** A trial of what was done by hand; null where nothing of it was for this drive. */
export const trialOfSteps = (steps: readonly TrialStep[], id: string, name: string): Trial | null =>
  steps.length === 0
    ? null
    : {
        format: 1,
        id,
        name,
        proves: 'Not said yet.',
        leaves: 'Not said yet.',
        steps: [...steps],
      };
