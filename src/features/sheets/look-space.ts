import { cellOf, type Place } from '../../core/sheet/place';
import type { Sheet } from '../../core/sheet/sheet';
import type { ModbusFraming } from '../../core/modbus/framing';
import { readBy } from '../../core/modbus/touched';
import type { PlaceLink } from '../../core/places/place-link';
import { TABLE_READS } from '../../core/places/register-link';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import { NO_SUCH_COMMAND, type LookReply, type LookSpace, type Stretch } from '../../core/registers/look';
import { TABLE_NAMES, type ModbusTable } from '../../core/registers/tables';
import { notationsOf } from '../../core/registers/notation';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import { learnedFrom } from '../../link/learned';
import type { ExchangeResult } from '../../link/request';

const SPACES: Readonly<Record<LineProtocol['family'], readonly LookSpace[]>> = {
  uss: ['uss'],
  modbus: Object.keys(TABLE_NAMES) as ModbusTable[],
  ascii: ['command'],
};

/** What can be looked through on a line of this protocol. */
export const spacesOf = (family: LineProtocol['family'] | undefined): readonly LookSpace[] =>
  family === undefined ? [] : SPACES[family];

/** The commands of a dialect that are read without a value being given: a look asks each of them. */
export const readable = ({ dialect }: Sheet): readonly string[] =>
  (dialect?.commands ?? []).flatMap(({ id, access, asks }) => (access.includes('read') && !asks ? [id] : []));

/** What one place of it is called. */
export const spaceName = (space: LookSpace): string =>
  space === 'uss' ? 'USS parameter' : space === 'command' ? 'command' : TABLE_NAMES[space];

/** One place as a sheet's entry has it; `commands` are those that are looked through. */
export function placeIn(space: LookSpace, address: number, commands: readonly string[]): Place {
  if (space === 'uss') return { kind: 'uss', number: address };
  if (space === 'command') return { kind: 'command', command: commands[address] ?? '' };
  return { kind: 'register', table: space, address };
}

export const parameterIn = (
  index: SheetIndex,
  space: LookSpace,
  address: number,
  commands: readonly string[],
): PlacedParameter | undefined => index.byCell.get(cellOf(placeIn(space, address, commands)));

/** The other ways in which a place is written; empty where there is one only. */
export function notationText(space: LookSpace, address: number): string {
  if (space === 'uss' || space === 'command') return '';
  const { hex, reference5 } = notationsOf(space, address);
  return [hex, reference5].filter(Boolean).join(', ');
}

/** Something that stands at a USS number or behind a command and is not known: a word is asked for, a double word is told all the same. */
const unknownAt = (place: Place): PlacedParameter => ({
  number: '?',
  name: 'not known yet',
  type: 'uint16',
  min: 0,
  max: 0xffff,
  place,
  others: [],
  cells: [cellOf(place)],
  working: '',
});

/** How a line is asked here, and what the answers are read with. */
export interface LookWay {
  readonly protocol: LineProtocol | null;
  readonly framing: ModbusFraming | null;
  readonly places: PlaceLink | null;
  /** The commands that are looked through. */
  readonly commands: readonly string[];
}

/** The request for a stretch of places; null where this line and this sheet make none. */
export function lookRequest(
  space: LookSpace,
  { first, quantity }: Stretch,
  station: number,
  { framing, places, commands }: LookWay,
): Uint8Array | null {
  if (space === 'uss' || space === 'command')
    return places?.read(station, [unknownAt(placeIn(space, first, commands))])[0] ?? null;
  const built = framing?.encode({ unit: station, fc: TABLE_READS[space].fc, address: first, quantity }, 'request');
  return built?.ok ? built.value : null;
}

/** What one exchange says to a look. */
export function lookReply(
  space: LookSpace,
  { first }: Stretch,
  result: ExchangeResult,
  { protocol, places, commands }: LookWay,
): LookReply {
  const { outcome, said, asked, reply, request } = result;
  const pairing = reply && protocol?.pair(request.bytes, reply);
  if (pairing?.kind === 'exception') {
    const isUnknown = space === 'command' && protocol?.refusal(pairing.code).why === 'function';
    return { kind: 'exception', code: isUnknown ? NO_SUCH_COMMAND : pairing.code };
  }
  if (outcome !== 'answered') return { kind: 'silent' };
  if (space === 'uss' || space === 'command') {
    const word = new Map(learnedFrom(result, places)).get(cellOf(placeIn(space, first, commands)));
    if (word !== undefined) return { kind: 'words', words: [word] };
    // A command may answer with a text.
    return space === 'command' && reply && protocol
      ? { kind: 'text', text: protocol.sentence(reply, 'response', request.bytes, null) }
      : { kind: 'silent' };
  }
  const words = asked && readBy(asked) ? (said?.values ?? said?.coils) : undefined;
  return words ? { kind: 'words', words } : { kind: 'silent' };
}
