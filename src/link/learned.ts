import { learnedFrom as learnedRanges } from '../core/modbus/touched';
import type { PlaceLink, Told } from '../core/places/place-link';
import { cellsTold } from '../core/places/register-link';
import type { ExchangeResult } from './request';

const NOTHING: Told = [];

/** What an exchange tells of a station's values; an uncertain reply tells nothing. `places` reads what is not Modbus. */
export function learnedFrom({ outcome, asked, said, request, reply }: ExchangeResult, places: PlaceLink | null): Told {
  if (outcome !== 'answered' && outcome !== 'unconfirmed') return NOTHING;
  if (asked && said) {
    const told = cellsTold(learnedRanges(asked, said));
    return places ? places.known(told) : told;
  }
  return (reply && places?.learned(request.bytes, reply)) ?? NOTHING;
}
