import { learnedRegisters } from '../core/modbus/touched';
import type { PlaceLink } from '../core/places/place-link';
import type { ExchangeResult } from './request';

/** Places of a station and the words that they have. */
export type Learned = readonly (readonly [number, number])[];

const NOTHING: Learned = [];

/** What an exchange tells of a station's values; an uncertain reply tells nothing. `places` reads what is not Modbus. */
export function learnedFrom(
  { outcome, asked, said, request, reply }: ExchangeResult,
  places: PlaceLink | null,
): Learned {
  if (outcome !== 'answered' && outcome !== 'unconfirmed') return NOTHING;
  if (asked && said) return learnedRegisters(asked, said);
  return (reply && places?.learned(request.bytes, reply)) ?? NOTHING;
}
