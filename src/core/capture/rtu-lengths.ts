import { isGoodStretch } from '../checksum/crc16-window';
import { EXCEPTIONS } from '../modbus/exceptions';
import {
  FIRST_LOOKS,
  LENGTH_RULES,
  lengthBy,
  LIST_AT,
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

/** A list of so many objects is walked as it is. */
const SHORT = 4;

/** Length of the identification's response that may begin at `at`, if its check is good; 0 where it is not. */
export function lengthOfGoodList({ bytes, window, runs }: Searched, at: number, end: number): number {
  const list = (at + LIST_AT) | 0;
  const most = RTU_MAX | 0;
  const tally = bytes[at + TALLY_AT] as number;
  let place = list;
  if (tally > SHORT) {
    // The first two objects already say of most long lists that they do not fit: each other one has two bytes at least.
    const second = (list + 2 + (bytes[list + 1] as number)) | 0;
    if (second - at > most - 4 || second + 2 + (bytes[second + 1] as number) - at + 2 * tally > most + 2) return 0;
    place = second + runs.sizeOf(bytes, second, end, tally - 1);
  } else
    for (let left = tally; left > 0 && place + 1 < end; left--) place = (place + 2 + (bytes[place + 1] as number)) | 0;
  const length = place + CHECK - at;
  return length <= most && isGoodStretch(window, at, at + length) ? length : 0;
}

/** Where a frame reads both ways, its length as a response stands above its length as a request. */
export const RESPONSE_AT = 10;
export const REQUEST_BITS = 1023;

/** The lengths of the request and of the response that begin at `at`, end before `end` and have a good check; 0 for none. */
export const lengthsAt = (searched: Searched, at: number, end: number): number =>
  lengthOfGood(searched, at, end, REQUEST) | (lengthOfGood(searched, at, end, RESPONSE) << RESPONSE_AT);

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
