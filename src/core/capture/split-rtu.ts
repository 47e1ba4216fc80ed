import {
  BEGIN_BACK,
  begunAt,
  Crc16Window,
  endsWell,
  HIGH_BACK,
  isGoodStretch,
  LOW_BACK,
  nextGoodEnd,
  type StretchSums,
} from '../checksum/crc16-window';
import type { Direction } from '../direction';
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
import { FUNCTIONS } from '../modbus/functions';
import { EXCEPTION_BIT } from '../modbus/layout';
import { RTU_MAX, RTU_MIN } from '../modbus/rtu';
import { UNIT_MAX } from '../modbus/serial';
import { Finds, FOUND, type FrameSink, type Splitter } from './frame-sink';
import { ObjectRuns } from './object-runs';
import { Turn } from './turn';

const { request: REQUEST, response: RESPONSE } = LENGTH_RULES;

const NO_CUTS: readonly number[] = [];
const ECHO_TEST = 8;
const ECHO_LENGTH = 8;
const TRANSPORT = 43;
const CHECK = 2;
/** So many places after a frame are tried one by one. */
const TRIES = 3;

/** Functions whose frames have no length rule: not in the table, the echo test, or another bus’s transport. */
const OPEN_FUNCTIONS = Uint8Array.from({ length: 256 }, (_, fc) => {
  const isOpen = !FUNCTIONS[fc] || fc === ECHO_TEST || fc === TRANSPORT;
  return isOpen && fc > 0 && fc < EXCEPTION_BIT ? 1 : 0;
});

const STANDARD_EXCEPTIONS = Uint8Array.from({ length: 256 }, (_, code) => (EXCEPTIONS[code] ? 1 : 0));

/** A request and its answer of open length: a longer stretch is not looked into. */
const LONGEST_GAP = 2 * RTU_MAX;

/** Bytes looked at in one go; what a frame could still need is carried over. */
const ROOM = 1 << 14;

/** What a search needs: the bytes, their sums, and the lists that may begin in them. */
interface Searched {
  readonly bytes: Uint8Array;
  readonly sums: StretchSums;
  readonly runs: ObjectRuns;
}

/** Length of the frame that begins at `at` and whose check is good, by the rules of one direction; 0 where there is none. */
function lengthOfGood({ bytes, sums }: Searched, at: number, end: number, rules: LengthRules): number {
  const length = lengthBy(rules, bytes, at, end);
  if (length > 0) {
    if (at + length > end || length < RTU_MIN || !isGoodStretch(sums, at, at + length)) return 0;
    // An exception is so short that noise often ends well as one: only those of the standard count.
    const isException = ((bytes[at + 1] as number) & EXCEPTION_BIT) !== 0;
    return isException && STANDARD_EXCEPTIONS[bytes[at + 2] as number] !== 1 ? 0 : length;
  }
  // The usual echo test carries one word; a longer one, and other open frames, show as a stretch between frames.
  if (length !== OPEN_LENGTH || bytes[at + 1] !== ECHO_TEST || at + ECHO_LENGTH > end) return 0;
  return isGoodStretch(sums, at, at + ECHO_LENGTH) ? ECHO_LENGTH : 0;
}

/** Length of the identification's response that may begin at `at`, if its check is good; 0 where it is not. */
function lengthOfGoodList({ bytes, sums, runs }: Searched, at: number, end: number): number {
  const length = LIST_AT + CHECK + runs.sizeOf(bytes, at + LIST_AT, end, bytes[at + TALLY_AT] as number);
  return length <= RTU_MAX && isGoodStretch(sums, at, at + length) ? length : 0;
}

/** Where a frame reads both ways, its length as a response stands above its length as a request. */
const RESPONSE_AT = 10;
const REQUEST_BITS = (1 << RESPONSE_AT) - 1;

/** The lengths of the request and of the response that begin at `at` with a good check; a clean stream is nothing but these. */
function lengthsAt(searched: Searched, at: number, end: number): number {
  const { bytes, sums } = searched;
  // Near the end a length may not be there yet.
  if (at + RTU_MAX > end) return closerLook(searched, at, end);
  const look = FIRST_LOOKS[bytes[at + 1] as number] as number;
  if (look === 0) return 0;
  const said = responseLength(look, bytes, at);
  const begun = begunAt(sums, at);
  const answers = endsWell(sums, begun, at, at + said);
  if ((bytes[at + 1] as number) >= EXCEPTION_BIT)
    return answers && STANDARD_EXCEPTIONS[bytes[at + 2] as number] === 1 ? said << RESPONSE_AT : 0;
  const asked = requestLength(look, bytes, at);
  const asks = endsWell(sums, begun, at, at + asked);
  if (look > 0) return (asks ? asked : 0) | (answers ? said << RESPONSE_AT : 0);
  const list = (look & MAY_LIST) !== 0 && isListHead(bytes, at) ? lengthOfGoodList(searched, at, end) : 0;
  return asks || answers ? closerLook(searched, at, end) : list << RESPONSE_AT;
}

const closerLook = (searched: Searched, at: number, end: number): number =>
  lengthOfGood(searched, at, end, REQUEST) | (lengthOfGood(searched, at, end, RESPONSE) << RESPONSE_AT);

/**
 * The next place from `from` on where a frame may begin whose check is good. Over bytes in which nothing is found this loop is all that runs.
 */
function nextPlace({ bytes, sums: window, runs }: Searched, from: number, until: number, end: number): number {
  // At hand, as every byte of a stream comes by here: a look outside this function would cost as much as all the rest.
  const looks = FIRST_LOOKS;
  const beginBack = BEGIN_BACK;
  const lowBack = LOW_BACK;
  const highBack = HIGH_BACK;
  const { sums, wholes } = window;
  // Near the end a length may not be there yet.
  const whole = Math.min(until, end - RTU_MAX);
  let at = from;
  for (; at < whole; at++) {
    const look = looks[bytes[at + 1] as number] as number;
    if (look === 0) continue;
    const origin = at >>> 8;
    const begun = (sums[at] as number) ^ (beginBack[at & 0xff] as number);
    const asked = at + requestLength(look, bytes, at);
    let sum = sums[asked] as number;
    if (asked >>> 8 !== origin)
      sum = (wholes[asked >>> 8] as number) ^ (lowBack[sum & 0xff] as number) ^ (highBack[sum >>> 8] as number);
    if (sum === begun) return at;
    const said = at + responseLength(look, bytes, at);
    sum = sums[said] as number;
    if (said >>> 8 !== origin)
      sum = (wholes[said >>> 8] as number) ^ (lowBack[sum & 0xff] as number) ^ (highBack[sum >>> 8] as number);
    if (sum === begun) return at;
    if ((look & MAY_LIST) !== 0 && isListHead(bytes, at)) {
      const listed = at + LIST_AT + CHECK + runs.sizeOf(bytes, at + LIST_AT, end, bytes[at + TALLY_AT] as number);
      if (listed - at > RTU_MAX) continue;
      sum = sums[listed] as number;
      if (listed >>> 8 !== origin)
        sum = (wholes[listed >>> 8] as number) ^ (lowBack[sum & 0xff] as number) ^ (highBack[sum >>> 8] as number);
      if (sum === begun) return at;
    }
  }
  return at;
}

/**
 * Cuts a raw RTU stream without times into frames, by structure and check alone, both directions mixed. After noise it begins anew at every
 * byte; each place costs the same, whatever stands there, so the whole is linear. A stretch between two frames that frames of open
 * length fill whole is told as those.
 */
export class RtuSplitter implements Splitter {
  readonly #sink: FrameSink;
  readonly #buffer = new Uint8Array(ROOM);
  readonly #window = new Crc16Window(ROOM);
  readonly #runs = new ObjectRuns(ROOM);
  readonly #searched: Searched = { bytes: this.#buffer, sums: this.#window, runs: this.#runs };
  readonly #turn = new Turn();
  /** A frame has four bytes at least, and noise stands between two of them. */
  readonly #finds = new Finds(ROOM / 2);
  #filled = 0;
  /** Place in the stream of the buffer's first byte. */
  #offset = 0;

  constructor(sink: FrameSink) {
    this.#sink = sink;
  }

  push(chunk: Uint8Array): void {
    for (let at = 0; at < chunk.length;) {
      const part = Math.min(chunk.length - at, ROOM - this.#filled);
      this.#buffer.set(chunk.subarray(at, at + part), this.#filled);
      this.#filled += part;
      at += part;
      if (this.#filled === ROOM) this.#look(ROOM - LONGEST_GAP);
    }
  }

  settle(): void {}

  end(): void {
    this.#look(this.#filled);
  }

  /** Cuts all that begins before `until`; what comes after stays for the next look. */
  #look(until: number): void {
    const end = this.#filled;
    const searched = this.#searched;
    this.#window.load(this.#buffer, end);
    this.#runs.forget();
    let at = 0;
    let junkFrom = 0;
    let tried = 0;
    while (at < until) {
      const lengths = lengthsAt(searched, at, end);
      if (lengths === 0) {
        // A byte or two of noise between frames are not worth a search.
        at = ++tried < TRIES ? at + 1 : nextPlace(searched, at + 1, until, end);
        continue;
      }
      tried = 0;
      this.#junk(junkFrom, at);
      const request = lengths & REQUEST_BITS;
      const response = lengths >>> RESPONSE_AT;
      const direction = response === 0 ? 'request' : request === 0 ? 'response' : this.#whoseTurn(at);
      const length = direction === 'request' ? request : response;
      this.#tell(at, at + length, direction);
      at += length;
      junkFrom = at;
    }
    // A stretch of junk is told as soon as it cannot be a frame without a length rule any more.
    const isLast = until === end;
    const tellFrom = isLast || at - junkFrom > LONGEST_GAP ? at : junkFrom;
    this.#junk(junkFrom, Math.min(tellFrom, end));
    this.#sink.take(this.#offset, this.#buffer, this.#finds);
    this.#finds.count = 0;
    this.#keepFrom(Math.min(tellFrom, end));
  }

  #keepFrom(at: number): void {
    this.#buffer.copyWithin(0, at, this.#filled);
    this.#filled -= at;
    this.#offset += at;
  }

  /** Where both readings end well, the one whose turn it is counts. */
  #whoseTurn(at: number): Direction {
    return this.#turn.settle(this.#buffer[at] as number, (this.#buffer[at + 1] as number) & ~EXCEPTION_BIT);
  }

  #tell(start: number, end: number, direction: Direction): void {
    const unit = this.#buffer[start] as number;
    const fc = (this.#buffer[start + 1] as number) & ~EXCEPTION_BIT;
    this.#turn.took(direction, unit, fc);
    this.#finds.add(start, end, FOUND[direction]);
  }

  /** A stretch without frames of known length: frames of open length if such fill it whole, else junk. */
  #junk(start: number, end: number): void {
    if (end <= start) return;
    const length = end - start;
    const cuts = length >= RTU_MIN && length <= LONGEST_GAP ? this.#openFrames(start, end) : NO_CUTS;
    if (cuts.length === 0) return this.#finds.add(start, end, FOUND.junk);
    let at = start;
    for (const until of cuts) {
      const direction = this.#turn.settle(this.#buffer[at] as number, this.#buffer[at + 1] as number);
      this.#tell(at, until, direction);
      at = until;
    }
  }

  /**
   * Where frames of which only the check tells the length end, if they fill the stretch to its end: one alone is met by chance too often, and
   * each place is tried once, so that the cost stays with the length.
   */
  #openFrames(start: number, end: number): readonly number[] {
    const cuts: number[] = [];
    for (let at = start; at < end;) {
      if (!this.#isOpenFunction(at)) return NO_CUTS;
      // The whole rest at once, where it ends well; else the shortest.
      const until =
        end - at <= RTU_MAX && end - at >= RTU_MIN && isGoodStretch(this.#window, at, end)
          ? end
          : nextGoodEnd(this.#window, at, at + RTU_MIN, Math.min(end, at + RTU_MAX) - 1);
      if (until < 0) return NO_CUTS;
      cuts.push(until);
      at = until;
    }
    return cuts;
  }

  #isOpenFunction(at: number): boolean {
    return OPEN_FUNCTIONS[this.#buffer[at + 1] as number] === 1 && (this.#buffer[at] as number) <= UNIT_MAX;
  }
}
