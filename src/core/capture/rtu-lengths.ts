import { isGoodStretch } from '../checksum/crc16-window';
import { EXCEPTIONS } from '../modbus/exceptions';
import {
  FIRST_LOOKS,
  isListHead,
  LENGTH_RULES,
  lengthBy,
  LIST_AT,
  MAY_LIST,
  OPEN_LENGTH,
  requestLength,
  responseLength,
  TALLY_AT,
  type LengthRules,
} from '../modbus/frame-length';
import { EXCEPTION_BIT } from '../modbus/layout';
import { RTU_MAX, RTU_MIN } from '../modbus/rtu';
import type { ObjectRuns } from './object-runs';

const { request: REQUEST, response: RESPONSE } = LENGTH_RULES;

export const ECHO_TEST = 8;
const ECHO_LENGTH = 8;
const CHECK = 2;

const STANDARD_EXCEPTIONS = Uint8Array.from({ length: 256 }, (_, code) => (EXCEPTIONS[code] ? 1 : 0));

/** What is searched for frames: bytes, their sums, and the lists that may begin in them. */
export interface Searched {
  readonly bytes: Uint8Array;
  readonly window: Uint16Array;
  readonly runs: ObjectRuns;
}

/** Length of the frame that begins at `at` and whose check is good, by the rules of one direction; 0 where there is none. */
function lengthOfGood({ bytes, window }: Searched, at: number, end: number, rules: LengthRules): number {
  const length = lengthBy(rules, bytes, at, end);
  if (length > 0) {
    if (at + length > end || length < RTU_MIN || !isGoodStretch(window, at, at + length)) return 0;
    // An exception is so short that noise often ends well as one: only those of the standard count.
    const isException = ((bytes[at + 1] as number) & EXCEPTION_BIT) !== 0;
    return isException && STANDARD_EXCEPTIONS[bytes[at + 2] as number] !== 1 ? 0 : length;
  }
  // The usual echo test carries one word; a longer one, and other open frames, show as a stretch between frames.
  if (length !== OPEN_LENGTH || bytes[at + 1] !== ECHO_TEST || at + ECHO_LENGTH > end) return 0;
  return isGoodStretch(window, at, at + ECHO_LENGTH) ? ECHO_LENGTH : 0;
}

/** So many objects of a list are walked over as they are: noise that looks like a list hardly has more. */
const SHORT = 4;

/**
 * Length of the identification's response whose head stands at `at` (`isListHead`), if its check is good; 0 where it is not. Its objects stand in
 * the order of their numbers: an answer that is not whole says only with which number the next one goes on (V1.1b3, 6.21).
 */
export function lengthOfGoodList({ bytes, window, runs }: Searched, at: number, end: number): number {
  const most = (Math.min(end, at + RTU_MAX) - CHECK) | 0;
  const tally = bytes[at + TALLY_AT] as number;
  let place = (at + LIST_AT) | 0;
  // An object has two bytes at least. The tally itself may lie behind the last byte of the buffer, and is no number then.
  if (!(place + 2 * tally <= most)) return 0;
  let before = -1;
  for (let left = tally; left > 0; left--) {
    const id = bytes[place] as number;
    if (id <= before) return 0;
    if (tally - left === SHORT) {
      place = runs.endOf(bytes, place, end, left, most);
      break;
    }
    before = id;
    place = (place + 2 + (bytes[place + 1] as number)) | 0;
    if (place > most) return 0;
  }
  return place > 0 && isGoodStretch(window, at, place + CHECK) ? place + CHECK - at : 0;
}

/** Where a frame reads both ways, its length as a response stands above its length as a request. */
export const RESPONSE_AT = 10;
export const REQUEST_BITS = 1023;

/** The lengths of the request and of the response that begin at `at`, end before `end` and have a good check; 0 for none. */
export function lengthsAt(searched: Searched, at: number, end: number): number {
  const { bytes } = searched;
  let response = 0;
  // All that has a length in a function with lists is a list.
  if (((FIRST_LOOKS[bytes[at + 1] as number] as number) & MAY_LIST) === 0)
    response = lengthOfGood(searched, at, end, RESPONSE);
  else if (isListHead(bytes, at)) response = lengthOfGoodList(searched, at, end);
  return lengthOfGood(searched, at, end, REQUEST) | (response << RESPONSE_AT);
}

/** The same, where a first look found that a request ends well, or a list of objects; the longest frame has room before `end`. */
export function lengthsOfAsked(searched: Searched, at: number, end: number): number {
  const { bytes, window } = searched;
  const look = FIRST_LOOKS[bytes[at + 1] as number] as number;
  if (look < 0) return lengthsAt(searched, at, end);
  const asked = requestLength(look, bytes, at);
  const said = responseLength(look, bytes, at);
  const answers = said <= RTU_MAX && isGoodStretch(window, at, at + said);
  return (asked <= RTU_MAX ? asked : 0) | (answers ? said << RESPONSE_AT : 0);
}

/** The same, where a first look found that a response of `said` bytes ends well and no request does. */
export function lengthsOfSaid(searched: Searched, at: number, end: number, said: number): number {
  const { bytes } = searched;
  const code = bytes[at + 1] as number;
  if (code >= EXCEPTION_BIT) return STANDARD_EXCEPTIONS[bytes[at + 2] as number] === 1 ? said << RESPONSE_AT : 0;
  if ((FIRST_LOOKS[code] as number) < 0) return lengthsAt(searched, at, end);
  return said <= RTU_MAX ? said << RESPONSE_AT : 0;
}
