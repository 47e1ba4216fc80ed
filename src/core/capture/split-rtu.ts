import {
  BEGIN_AT,
  crc16Window,
  HIGH_AT,
  isGoodStretch,
  loadWindow,
  LOW_AT,
  nextGoodEnd,
  SUMS_AT,
  WHOLES_AT,
} from '../checksum/crc16-window';
import { FIRST_LOOKS, isListHead, MAY_LIST } from '../modbus/frame-length';
import { FUNCTIONS } from '../modbus/functions';
import { EXCEPTION_BIT } from '../modbus/layout';
import { RTU_MAX, RTU_MIN } from '../modbus/rtu';
import { UNIT_MAX } from '../modbus/serial';
import { Finds, FOUND, type FrameSink, type Splitter } from './frame-sink';
import { ObjectRuns } from './object-runs';
import {
  ECHO_TEST,
  lengthOfGoodList,
  lengthsAt,
  lengthsOfAsked,
  lengthsOfSaid,
  REQUEST_BITS,
  RESPONSE_AT,
  type Searched,
} from './rtu-lengths';
import { Turn } from './turn';

const NO_CUTS: readonly number[] = [];
const TRANSPORT = 43;

/** Functions whose frames have no length rule: not in the table, the echo test, or another bus’s transport. */
const OPEN_FUNCTIONS = Uint8Array.from({ length: 256 }, (_, fc) => {
  const isOpen = !FUNCTIONS[fc] || fc === ECHO_TEST || fc === TRANSPORT;
  return isOpen && fc > 0 && fc < EXCEPTION_BIT ? 1 : 0;
});

/** A request and its answer of open length: a longer stretch is not looked into. */
const LONGEST_GAP = 2 * RTU_MAX;

/** Bytes looked at in one go; what a frame could still need is carried over. */
const ROOM = 1 << 14;

/** Takes a frame of one of these lengths, 0 for none; where both readings end well, the one whose turn it is counts. Where it ends. */
function tell(bytes: Uint8Array, turn: Turn, finds: Finds, start: number, request: number, response: number): number {
  const unit = bytes[start] as number;
  const fc = (bytes[start + 1] as number) & ~EXCEPTION_BIT;
  const isRequest = response === 0 || (request !== 0 && turn.settle(unit, fc) === 'request');
  const end = start + (isRequest ? request : response);
  turn.took(isRequest ? 'request' : 'response', unit, fc);
  finds.add(start, end, isRequest ? FOUND.request : FOUND.response);
  return end;
}

/**
 * Cuts a raw RTU stream without times into frames, by structure and check alone, both directions mixed. After noise it begins anew at every
 * byte; each place costs the same, whatever stands there, so the whole is linear. A stretch between two frames that frames of open
 * length fill whole is told as those.
 */
export class RtuSplitter implements Splitter {
  readonly #sink: FrameSink;
  readonly #buffer = new Uint8Array(ROOM);
  readonly #window = crc16Window(ROOM);
  readonly #runs = new ObjectRuns(ROOM);
  readonly #searched: Searched = { bytes: this.#buffer, window: this.#window, runs: this.#runs };
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
      if (this.#filled === ROOM) this.#look(ROOM - RTU_MAX);
    }
  }

  settle(): void {}

  end(): void {
    this.#look(this.#filled);
  }

  /**
   * Cuts all that begins before `until`; what comes after stays for the next look. Every byte of a stream comes by the inner loop, and over bytes
   * in which nothing is found it is all that runs: so what it needs is at hand, and a first look (`requestLength`) and the end of a stretch
   * (`endsWell`) are written out in it.
   */
  #look(until: number): void {
    const bytes = this.#buffer;
    const window = this.#window;
    const searched = this.#searched;
    const finds = this.#finds;
    const turn = this.#turn;
    const end = this.#filled;
    loadWindow(window, bytes, end);
    this.#runs.forget();
    // A constant of another module is looked up at each use, and without `| 0` checked at each use for being a whole number.
    const looks = FIRST_LOOKS;
    const sums = SUMS_AT | 0;
    const begins = BEGIN_AT | 0;
    const wholes = WHOLES_AT | 0;
    const low = LOW_AT | 0;
    const high = HIGH_AT | 0;
    const mayList = MAY_LIST | 0;
    // From here on a length may not be there yet.
    const whole = Math.min(until, end - RTU_MAX) | 0;
    let at = 0;
    let junkFrom = 0;
    while (at < until) {
      let said = 0;
      for (; at < whole; at = (at + 1) | 0) {
        const look = looks[bytes[at + 1] as number] as number;
        if (look === 0) continue;
        const origin = at >>> 8;
        const begun = (window[sums + at] as number) ^ (window[begins + (at & 0xff)] as number);
        const asked = (at + (look & 1023) + ((bytes[at + ((look >>> 10) & 15)] as number) & -((look >>> 14) & 1))) | 0;
        let sum = window[sums + asked] as number;
        if (asked >>> 8 !== origin)
          sum =
            (window[wholes + (asked >>> 8)] as number) ^
            (window[low + (sum & 0xff)] as number) ^
            (window[high + (sum >>> 8)] as number);
        if (sum === begun) break;
        const ends =
          (at + ((look >>> 15) & 1023) + ((bytes[at + ((look >>> 25) & 15)] as number) & -((look >>> 29) & 1))) | 0;
        sum = window[sums + ends] as number;
        if (ends >>> 8 !== origin)
          sum =
            (window[wholes + (ends >>> 8)] as number) ^
            (window[low + (sum & 0xff)] as number) ^
            (window[high + (sum >>> 8)] as number);
        if (sum === begun) {
          said = ends - at;
          break;
        }
        if ((look & mayList) !== 0 && isListHead(bytes, at) && lengthOfGoodList(searched, at, end) > 0) break;
      }
      const lengths =
        said > 0
          ? lengthsOfSaid(searched, at, end, said)
          : at < whole
            ? lengthsOfAsked(searched, at, end)
            : lengthsAt(searched, at, end);
      if (lengths === 0) {
        at++;
        continue;
      }
      if (at - junkFrom >= RTU_MIN) this.#junk(junkFrom, at);
      else if (at > junkFrom) finds.add(junkFrom, at, FOUND.junk);
      junkFrom = tell(bytes, turn, finds, at, lengths & REQUEST_BITS, lengths >>> RESPONSE_AT);
      at = junkFrom;
    }
    // A stretch of junk is told as soon as it cannot be a frame without a length rule any more.
    const isLast = until === end;
    const tellFrom = isLast || at - junkFrom > LONGEST_GAP ? at : junkFrom;
    const told = Math.min(tellFrom, end);
    if (told > junkFrom) this.#junk(junkFrom, told);
    this.#sink.take(this.#offset, bytes, this.#finds);
    this.#finds.count = 0;
    this.#keepFrom(told);
  }

  #keepFrom(at: number): void {
    this.#buffer.copyWithin(0, at, this.#filled);
    this.#filled -= at;
    this.#offset += at;
  }

  /** A stretch without frames of known length: frames of open length if such fill it whole, else junk. */
  #junk(start: number, end: number): void {
    const length = end - start;
    const cuts = length >= RTU_MIN && length <= LONGEST_GAP ? this.#openFrames(start, end) : NO_CUTS;
    if (cuts.length === 0) return this.#finds.add(start, end, FOUND.junk);
    let at = start;
    for (const until of cuts) at = tell(this.#buffer, this.#turn, this.#finds, at, until - at, until - at);
  }

  /**
   * Where frames of which only the check tells the length end, if they fill the stretch to its end: one alone is met by chance too often, and
   * each place is tried once, so that the cost stays with the length.
   */
  #openFrames(start: number, end: number): readonly number[] {
    const bytes = this.#buffer;
    const window = this.#window;
    const open = OPEN_FUNCTIONS;
    // Most stretches are noise: a list is made for those only in which something is found.
    let cuts: number[] | null = null;
    for (let at = start; at < end;) {
      if (open[bytes[at + 1] as number] === 0 || (bytes[at] as number) > UNIT_MAX) return NO_CUTS;
      const most = Math.min(end, at + RTU_MAX);
      let until = nextGoodEnd(window, at, at + RTU_MIN, most);
      if (until < 0) return NO_CUTS;
      // The whole rest at once, where it ends well; else the shortest.
      if (most === end && isGoodStretch(window, at, end)) until = end;
      if (cuts) cuts.push(until);
      else cuts = [until];
      at = until;
    }
    return cuts ?? NO_CUTS;
  }
}
