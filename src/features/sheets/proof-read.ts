import { bytesToHex } from '../../core/bytes/hex';
import type { PlaceLink } from '../../core/places/place-link';
import { cellsText } from '../../core/drive/cells-text';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import type { Proof } from '../../core/sheet/source';
import { learnedFrom } from '../../link/learned';
import type { ExchangeResult } from '../../link/request';

/** The words of an entry by the reply to a read of it; null where it said nothing sure. */
export function wordsTold(
  placed: PlacedParameter | undefined,
  places: PlaceLink | null,
  result: ExchangeResult | null,
): readonly number[] | null {
  if (!placed || !places || !result) return null;
  const told = new Map(learnedFrom(result, places));
  const words = placed.cells.flatMap((cell) => told.get(cell) ?? []);
  return words.length === placed.cells.length ? words : null;
}

/** What a drive said of an entry, in words. */
export function valueTold(
  index: SheetIndex,
  placed: PlacedParameter | undefined,
  places: PlaceLink | null,
  result: ExchangeResult | null,
): string | null {
  const words = wordsTold(placed, places, result);
  return placed && words ? cellsText(index, placed, words) : null;
}

/** Why a read gave no value, in words. */
export const noValueText = ({ outcome, said }: ExchangeResult): string =>
  `no value: ${outcome}${said?.exception === undefined ? '' : `, exception ${said.exception}`}`;

/** That a value agrees with what somebody saw: when, by which bytes, and what stood there. */
export function proofOf({ request, reply }: ExchangeResult, value: string, shows: string, when: Date): Proof {
  const answer = reply ? ` → ${bytesToHex(reply, ' ')}` : '';
  return {
    when: when.toISOString(),
    exchange: `${bytesToHex(request.bytes, ' ')}${answer}`.slice(0, 400),
    seen: `${value}${shows.trim() === '' ? '' : `; the display shows ${shows.trim()}`}`.slice(0, 400),
  };
}
