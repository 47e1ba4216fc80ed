import { characterUs } from '../core/line/settings';
import type { LineProtocol } from '../core/protocol/line-protocol';
import type { Clock, Due } from '../core/time/clock';
import type { LineFault, Outcome, TraceEntry } from '../core/trace/entry';
import { concatBytes } from '../core/bytes/concat';
import type { LinkPort } from './port';
import { isHeard, type ExchangeOutcome, type ExchangeResult, type LineRequest } from './request';

/** A request that got no certain answer may still be answered for this many time-outs. */
const HORIZON_TIMEOUTS = 4;
const NO_BYTES = new Uint8Array(0);
/** Time that a broadcast gives the stations (Modbus over Serial Line V1.02, 2.4.1: 100 to 200 ms). */
const TURNAROUND_US = 100_000;

/** An entry without what only the line knows: session, sequence and line. */
export type EntryDraft = Pick<
  TraceEntry,
  'station' | 'atUs' | 'direction' | 'bytes' | 'lineFaults' | 'exchange' | 'outcome' | 'cause'
>;

interface InFlight {
  readonly request: LineRequest;
  /** Nothing can be paired with a request that is not whole. */
  readonly whole: boolean;
  readonly exchange: number;
  readonly sentUs: number;
  readonly timeoutUs: number;
  readonly finish: (result: ExchangeResult) => void;
  /** The worst that was heard so far; told when nothing better comes. */
  heard: 'timeout' | 'damaged' | 'foreign';
}

/** A request without a certain answer, whose answer may still come. */
interface Outstanding {
  readonly bytes: Uint8Array;
  readonly exchange: number;
  readonly untilUs: number;
}

type Phase = 'idle' | 'sending' | 'waiting' | 'settling';

/** What a reply that fits is told as. */
const TOLD = { answer: 'answered', exception: 'exception', pending: 'unconfirmed' } as const;

/**
 * One exchange at a time on a half-duplex line: sends, waits, tells the reply from late, foreign and damaged ones, and keeps the silences.
 * After a time-out the line stays quiet for one more time-out; bytes then, and bytes before the next request's end, belong to the old one.
 * Doubt ends by itself: `clearUs` says from when on the answer to a request could be no older one's, and who can wait for that waits.
 */
export class Exchanger {
  readonly #clock: Clock;
  readonly #port: LinkPort;
  readonly #protocol: LineProtocol;
  readonly #record: (entry: EntryDraft) => void;
  readonly #onIdle: () => void;
  #phase: Phase = 'idle';
  #flight: InFlight | null = null;
  #outstanding: Outstanding[] = [];
  #buffer: Uint8Array = new Uint8Array(0);
  #bufferSinceUs = 0;
  #faults: LineFault[] = [];
  #deadline: Due | null = null;
  #silence: Due | null = null;
  #overdue = false;
  /** How long a hurried exchange may still wait for a first byte; null = its whole time-out. */
  #hurryUs: number | null = null;
  #nextExchange = 1;
  /** The adapter hears what it sends: what was sent is taken off what comes. */
  #hasEcho = false;
  #echoDue: Uint8Array = NO_BYTES;
  #echoSeen = 0;

  constructor(
    clock: Clock,
    port: LinkPort,
    protocol: LineProtocol,
    record: (entry: EntryDraft) => void,
    onIdle: () => void,
  ) {
    this.#clock = clock;
    this.#port = port;
    this.#protocol = protocol;
    this.#record = record;
    this.#onIdle = onIdle;
  }

  isIdle(): boolean {
    return this.#phase === 'idle' && this.#buffer.length === 0;
  }

  /**
   * From when on a good answer to this request could be no older request's, in microseconds of the line clock; 0 where nothing older is in its
   * way. No answer is waited for longer than its horizon, so this is never far off.
   */
  clearUs(bytes: Uint8Array): number {
    const now = this.#clock.now();
    return this.#outstanding.reduce(
      (latest, older) =>
        older.untilUs > Math.max(latest, now) && this.#protocol.shareAnswer(older.bytes, bytes)
          ? older.untilUs
          : latest,
      0,
    );
  }

  /** Whether the adapter hears what it sends. Without this a write's echo could pass for its answer, since both are the same bytes. */
  setEcho(hasEcho: boolean): void {
    this.#hasEcho = hasEcho;
    this.#expectEcho(NO_BYTES);
  }

  /** Sends a request; `finish` is called once, when it is over. The exchanger must be idle. */
  start(request: LineRequest, timeoutUs: number, finish: (result: ExchangeResult) => void): void {
    const exchange = this.#nextExchange++;
    const now = this.#clock.now();
    const bytes = this.#protocol.numbered(request.bytes, exchange);
    const sentUs = this.#port.write(bytes);
    this.#outstanding = this.#outstanding.filter(({ untilUs }) => untilUs > now);
    this.#flight = {
      request: { ...request, bytes },
      whole: this.#protocol.read(bytes, 'request').whole,
      exchange,
      sentUs,
      timeoutUs,
      finish,
      heard: 'timeout',
    };
    if (this.#hasEcho) this.#expectEcho(bytes);
    this.#note('sent', bytes, 'none', now);
    this.#phase = 'sending';
    this.#overdue = false;
    this.#hurryUs = null;
    this.#clock.at(sentUs, () => this.#requestLeft());
  }

  /** Stop has no time for a silent station: lets the frame on the wire end and a reply that has begun, but waits for none that has not. */
  abandon(graceUs: number): void {
    this.#hurryUs = graceUs;
    if (this.#phase === 'waiting') this.#armDeadline();
    if (this.#phase === 'settling') this.#settle(0);
  }

  /** The quiet after a time-out ends now: somebody's watchdog cannot wait for a reply that will hardly come. */
  endQuiet(): void {
    if (this.#phase === 'settling' && this.#buffer.length === 0) this.#settle(0);
  }

  /** The line is gone: whatever waited is told so. */
  shut(): void {
    this.#cancelTimers();
    this.#flushBuffer();
    if (this.#flight) this.#conclude('closed', null);
    this.#outstanding = [];
    this.#expectEcho(NO_BYTES);
    this.#phase = 'idle';
  }

  readonly lineError = (kind: LineFault): void => {
    this.#faults.push(kind);
    // A browser tells a fault without its byte; such a fault must not wait for a byte to be seen.
    if (this.#buffer.length === 0) this.#bufferSinceUs = this.#clock.now();
    this.#silence ??= this.#clock.at(this.#clock.now() + this.#silenceUs(), () => this.#fellSilent());
  };

  readonly bytes = (heard: Uint8Array, atUs: number): void => {
    const chunk = this.#withoutEcho(heard);
    if (chunk.length === 0) return;
    if (this.#buffer.length === 0) this.#bufferSinceUs = atUs;
    this.#buffer = concatBytes(this.#buffer, chunk);
    this.#takeFrames();
    // A line that babbles without a pause must not grow the buffer: no frame is longer than this.
    if (this.#buffer.length > 2 * this.#protocol.longest) this.#flushBuffer();
    if (this.#silence !== null) this.#clock.cancel(this.#silence);
    this.#silence = null;
    if (this.#buffer.length > 0)
      this.#silence = this.#clock.at(this.#clock.now() + this.#silenceUs(), () => this.#fellSilent());
    else this.#afterBuffer();
  };

  /** Takes the echo off, byte for byte; the first byte that differs shows that it was none, and what was taken is given back. */
  #withoutEcho(heard: Uint8Array): Uint8Array {
    if (this.#echoSeen === this.#echoDue.length) return heard;
    let at = 0;
    while (at < heard.length && this.#echoSeen < this.#echoDue.length && heard[at] === this.#echoDue[this.#echoSeen]) {
      at++;
      this.#echoSeen++;
    }
    const differs = at < heard.length && this.#echoSeen < this.#echoDue.length;
    const taken = this.#echoDue.subarray(0, this.#echoSeen - at);
    if (differs || this.#echoSeen === this.#echoDue.length) this.#expectEcho(NO_BYTES);
    return differs ? concatBytes(taken, heard) : heard.subarray(at);
  }

  #expectEcho(bytes: Uint8Array): void {
    this.#echoDue = bytes;
    this.#echoSeen = 0;
  }

  /** Rest of the line between an answer and the next request, in microseconds. */
  restUs(): number {
    const [{ restCharacters }, settings] = [this.#protocol, this.#port.settings()];
    return restCharacters !== null && settings ? restCharacters * characterUs(settings) : this.#port.pace().gapUs;
  }

  #silenceUs(): number {
    return this.#port.pace().silenceUs;
  }

  #requestLeft(): void {
    const flight = this.#flight;
    if (!flight || this.#phase !== 'sending') return;
    this.#phase = 'waiting';
    const isForAll = !this.#protocol.answers(flight.request.bytes);
    // Keys of a terminal: a drive's command line is not whole before its end, and nobody answers a part of it.
    const isPart = this.#protocol.family === 'ascii' && !flight.whole;
    if (!isForAll && !isPart) return this.#armDeadline();
    this.#conclude('sent', null);
    this.#settle(isForAll ? TURNAROUND_US : this.restUs());
  }

  #armDeadline(): void {
    const flight = this.#flight;
    if (!flight) return;
    const wholeUs = flight.sentUs + flight.timeoutUs;
    const dueUs = this.#hurryUs === null ? wholeUs : Math.min(wholeUs, this.#clock.now() + this.#hurryUs);
    if (this.#deadline !== null) this.#clock.cancel(this.#deadline);
    this.#deadline = this.#clock.at(dueUs, () => {
      this.#deadline = null;
      this.#overdue = true;
      if (this.#buffer.length === 0) this.#giveUp();
    });
  }

  /** Takes complete frames off the buffer; a frame found after junk counts only when it answers what was asked. */
  #takeFrames(): void {
    for (;;) {
      const end = this.#buffer.length;
      const first = this.#protocol.probe(this.#buffer, 0, end);
      if (first > 0) this.#takeFrame(0, first);
      else if (!this.#takeFrameAfterJunk(end)) return;
    }
  }

  #takeFrameAfterJunk(end: number): boolean {
    for (let start = 1; start < end; start++) {
      const length = this.#protocol.probe(this.#buffer, start, end);
      if (length <= 0) continue;
      if (!this.#flight?.whole || !this.#fits(this.#flight.request.bytes, this.#buffer.subarray(start, start + length)))
        continue;
      this.#takeFrame(start, length);
      return true;
    }
    return false;
  }

  #fits(request: Uint8Array, reply: Uint8Array): boolean {
    return this.#protocol.pair(request, reply).kind !== 'other';
  }

  #takeFrame(start: number, length: number): void {
    const frame = this.#buffer.slice(start, start + length);
    const junk = this.#buffer.slice(0, start);
    this.#buffer = this.#buffer.slice(start + length);
    if (junk.length > 0) this.#note('received', junk, 'stray');
    this.#frameArrived(frame);
    this.#bufferSinceUs = this.#clock.now();
  }

  #fellSilent(): void {
    this.#silence = null;
    this.#flushBuffer();
    this.#afterBuffer();
  }

  /** Silence ended what no structure could end: a frame of a function without a length rule, or something broken. */
  #flushBuffer(): void {
    if (this.#buffer.length === 0 && this.#faults.length === 0) return;
    const bytes = this.#buffer;
    this.#buffer = new Uint8Array(0);
    if (bytes.length > 0 && this.#protocol.read(bytes, 'response', this.#flight?.request.bytes).whole)
      this.#frameArrived(bytes);
    else {
      this.#note('received', bytes, this.#isForThisRequest() ? 'damaged' : 'stray');
      if (this.#flight && this.#isForThisRequest()) this.#flight.heard = 'damaged';
    }
  }

  #afterBuffer(): void {
    if (this.#phase === 'waiting' && this.#overdue) this.#giveUp();
    else if (this.#phase === 'idle') this.#onIdle();
  }

  /** Bytes that began before the request had left belong to an older one. */
  #isForThisRequest(): boolean {
    if (this.#phase !== 'waiting' || !this.#flight) return false;
    return this.#bufferSinceUs - this.#port.pace().firstByteUs > this.#flight.sentUs;
  }

  #frameArrived(frame: Uint8Array): void {
    // A dialect’s frame ends at its closing, whatever stands in it: what cannot be read is damage.
    const isWhole = this.#protocol.read(frame, 'response', this.#flight?.request.bytes).whole;
    if (this.#faults.length > 0 || !isWhole) {
      if (this.#flight && this.#isForThisRequest()) this.#flight.heard = 'damaged';
      this.#note('received', frame, 'damaged');
      return;
    }
    const older = this.#outstanding.find((candidate) => this.#fits(candidate.bytes, frame));
    const flight = this.#flight;
    if (flight?.whole && this.#isForThisRequest()) {
      const pairing = this.#protocol.pair(flight.request.bytes, frame);
      if (pairing.kind !== 'other') return this.#answered(frame, TOLD[pairing.kind], older);
      if (!older) flight.heard = 'foreign';
    }
    this.#note(
      'received',
      frame,
      older ? 'late' : this.#phase === 'waiting' ? 'foreign' : 'stray',
      this.#clock.now(),
      older?.exchange ?? 0,
    );
    if (older) this.#forget(older);
    // What was waited for has come: the line rests as after any answer.
    if (older && this.#phase === 'settling') this.#settle(this.restUs());
  }

  /** A reply that fits this request: certain, unless an older request without an answer is fitted as well. */
  #answered(frame: Uint8Array, outcome: ExchangeOutcome & Outcome, older: Outstanding | undefined): void {
    const told = older ? 'may-be-late' : outcome;
    this.#note('received', frame, told);
    if (older) this.#forget(older);
    this.#conclude(told, frame, older?.exchange);
    this.#settle(this.restUs());
  }

  #forget(older: Outstanding): void {
    this.#outstanding = this.#outstanding.filter((candidate) => candidate !== older);
  }

  #giveUp(): void {
    const flight = this.#flight;
    if (!flight) return;
    const hurried = this.#hurryUs !== null && flight.heard === 'timeout';
    if (flight.heard === 'timeout' && !hurried) this.#note('event', new Uint8Array(0), 'timeout');
    this.#conclude(hurried ? 'abandoned' : flight.heard, null);
    // Over a network a silence that ends a frame is far longer than a hurry has time for.
    this.#settle(this.#hurryUs === null ? flight.timeoutUs : Math.min(this.#hurryUs, this.#silenceUs()));
  }

  /** Tells the result. A request without a certain answer stays outstanding: its answer may still come. */
  #conclude(outcome: ExchangeOutcome, reply: Uint8Array | null, older?: number): void {
    const flight = this.#flight;
    if (!flight) return;
    this.#cancelTimers();
    this.#flight = null;
    const { request, exchange, whole, sentUs, timeoutUs } = flight;
    if (whole && !isHeard({ outcome }) && outcome !== 'sent')
      this.#outstanding.push({
        bytes: request.bytes,
        exchange,
        untilUs: sentUs + HORIZON_TIMEOUTS * timeoutUs,
      });
    this.#phase = 'settling';
    flight.finish({
      request,
      exchange,
      outcome,
      reply,
      asked: whole ? this.#protocol.read(request.bytes, 'request').modbus : null,
      said: reply ? this.#protocol.read(reply, 'response', request.bytes).modbus : null,
      ...(older === undefined ? {} : { older }),
      sentUs,
      endedUs: this.#clock.now(),
    });
  }

  #settle(us: number): void {
    if (this.#deadline !== null) this.#clock.cancel(this.#deadline);
    this.#phase = 'settling';
    this.#deadline = this.#clock.at(this.#clock.now() + us, () => {
      this.#deadline = null;
      this.#phase = 'idle';
      if (this.#buffer.length === 0) this.#onIdle();
    });
  }

  #cancelTimers(): void {
    if (this.#deadline !== null) this.#clock.cancel(this.#deadline);
    if (this.#silence !== null) this.#clock.cancel(this.#silence);
    this.#deadline = this.#silence = null;
  }

  #note(
    direction: TraceEntry['direction'],
    bytes: Uint8Array,
    outcome: Outcome,
    atUs = this.#clock.now(),
    exchange = this.#flight?.exchange ?? 0,
  ): void {
    const flight = this.#flight;
    const lineFaults = direction === 'received' ? this.#faults : [];
    if (direction === 'received') this.#faults = [];
    this.#record({
      station: flight?.request.station ?? bytes[0] ?? 0,
      atUs,
      direction,
      bytes,
      lineFaults,
      exchange,
      outcome,
      cause: flight?.request.cause ?? 'line',
    });
  }
}
