import type { Cell, Place } from '../../core/sheet/place';
import { cellOf } from '../../core/sheet/place';
import type { ModbusFraming } from '../../core/modbus/framing';
import { readBy } from '../../core/modbus/touched';
import type { PlaceLink } from '../../core/places/place-link';
import { TABLE_READS } from '../../core/places/register-link';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import type { LookReply, LookSpace, Stretch } from '../../core/registers/look';
import { notationsOf, TABLE_NAMES, type ModbusTable } from '../../core/registers/notation';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import { learnedFrom } from '../../link/learned';
import type { ExchangeResult } from '../../link/request';

/** What can be looked through on a line of this protocol. */
export const spacesOf = (family: LineProtocol['family'] | undefined): readonly LookSpace[] =>
  family === 'uss' ? ['uss'] : family === 'modbus' ? (Object.keys(TABLE_NAMES) as ModbusTable[]) : [];

/** What one place of it is called. */
export const spaceName = (space: LookSpace): string => (space === 'uss' ? 'USS parameter' : TABLE_NAMES[space]);

/** One place as a sheet's entry has it. */
export const placeIn = (space: LookSpace, address: number): Place =>
  space === 'uss' ? { kind: 'uss', number: address } : { kind: 'register', table: space, address };

export const parameterIn = (index: SheetIndex, space: LookSpace, address: number): PlacedParameter | undefined =>
  index.byCell.get(cellOf(placeIn(space, address)));

/** The other ways in which a place is written; empty where there is one only. */
export function notationText(space: LookSpace, address: number): string {
  if (space === 'uss') return '';
  const { hex, reference5 } = notationsOf(space, address);
  return [hex, reference5].filter(Boolean).join(', ');
}

/** Something that stands at a USS number and is not known: a word is asked for, a double word is told all the same. */
const unknownParameter = (number: number): PlacedParameter => ({
  number: `${number}`,
  name: `parameter ${number}`,
  type: 'uint16',
  min: 0,
  max: 0xffff,
  place: { kind: 'uss', number },
  others: [],
  cells: [ussCell(number)],
  working: '',
});
const ussCell = (number: number): Cell => cellOf({ kind: 'uss', number });

/** The request for a stretch of places; null where this line and this sheet make none. */
export function lookRequest(
  space: LookSpace,
  { first, quantity }: Stretch,
  station: number,
  { framing, places }: { readonly framing: ModbusFraming | null; readonly places: PlaceLink | null },
): Uint8Array | null {
  if (space === 'uss') return places?.read(station, [unknownParameter(first)])[0] ?? null;
  const built = framing?.encode({ unit: station, fc: TABLE_READS[space].fc, address: first, quantity }, 'request');
  return built?.ok ? built.value : null;
}

/** What one exchange says to a look. */
export function lookReply(
  space: LookSpace,
  { first }: Stretch,
  result: ExchangeResult,
  { protocol, places }: { readonly protocol: LineProtocol | null; readonly places: PlaceLink | null },
): LookReply {
  const { outcome, said, asked, reply, request } = result;
  const pairing = reply && protocol?.pair(request.bytes, reply);
  if (pairing?.kind === 'exception') return { kind: 'exception', code: pairing.code };
  if (outcome !== 'answered') return { kind: 'silent' };
  if (space === 'uss') {
    const word = new Map(learnedFrom(result, places)).get(ussCell(first));
    return word === undefined ? { kind: 'silent' } : { kind: 'words', words: [word] };
  }
  const words = asked && readBy(asked) ? (said?.values ?? said?.coils) : undefined;
  return words ? { kind: 'words', words } : { kind: 'silent' };
}
