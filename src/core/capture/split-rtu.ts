import { Crc16Window } from '../checksum/crc16-window';
import type { Direction } from '../direction';
import { EXCEPTIONS } from '../modbus/exceptions';
import { frameLengthAt, OPEN_LENGTH, openLengths } from '../modbus/frame-length';
import { FUNCTIONS } from '../modbus/functions';
import { EXCEPTION_BIT } from '../modbus/layout';
import { RTU_MAX, RTU_MIN } from '../modbus/rtu';
import type { FrameSink, Splitter } from './frame-sink';
import { Turn } from './turn';

/** An exception is so short that noise often ends well as one: only those of the standard are looked for. */
const EXCEPTION_LENGTH = 5;

/** Bytes looked at in one go; what a frame could still need is carried over. */
const ROOM = 1 << 16;

/**
 * Cuts a raw RTU stream without times into frames, by structure and check alone, both directions mixed. After noise it begins anew at every
 * byte; each place costs the same, whatever stands there, so the whole is linear. A stretch between two frames whose check is good as a whole
 * is a frame of a function without a length rule.
 */
export class RtuSplitter implements Splitter {
  readonly #sink: FrameSink;
  readonly #buffer = new Uint8Array(ROOM);
  readonly #window = new Crc16Window(ROOM);
  readonly #turn = new Turn();
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
      if (this.#filled === ROOM) this.#look(ROOM - 2 * RTU_MAX);
    }
  }

  settle(): void {}

  end(): void {
    this.#look(this.#filled);
  }

  /** Cuts all that begins before `until`; what comes after stays for the next look. */
  #look(until: number): void {
    const end = this.#filled;
    const buffer = this.#buffer;
    this.#window.load(buffer, end);
    let at = 0;
    let junkFrom = 0;
    while (at < until) {
      const length = this.#frameAt(at, end);
      if (length === 0) {
        at++;
        continue;
      }
      this.#junk(junkFrom, at);
      this.#tell(at, at + length, length);
      at += length;
      junkFrom = at;
    }
    // A stretch of junk is told as soon as it cannot be a frame without a length rule any more.
    const isLast = until === end;
    const tellFrom = isLast || at - junkFrom > RTU_MAX ? at : junkFrom;
    this.#junk(junkFrom, Math.min(tellFrom, end));
    this.#keepFrom(Math.min(tellFrom, end));
  }

  #keepFrom(at: number): void {
    this.#buffer.copyWithin(0, at, this.#filled);
    this.#filled -= at;
    this.#offset += at;
  }

  /** Length of the frame at `at`, or 0. Where both readings end well, the one whose turn it is counts. */
  #frameAt(at: number, end: number): number {
    const request = this.#reading(at, end, 'request');
    const response = this.#reading(at, end, 'response');
    if (request === 0 || response === 0 || request === response) return request || response;
    const fc = (this.#buffer[at + 1] as number) & ~EXCEPTION_BIT;
    return this.#turn.settle(this.#buffer[at] as number, fc) === 'request' ? request : response;
  }

  #reading(at: number, end: number, direction: Direction): number {
    const length = frameLengthAt(this.#buffer, at, end, direction);
    if (length === EXCEPTION_LENGTH && ((this.#buffer[at + 1] as number) & EXCEPTION_BIT) !== 0)
      if (!EXCEPTIONS[this.#buffer[at + 2] as number]) return 0;
    if (length > 0) return at + length <= end && length >= RTU_MIN && this.#window.isGood(at, at + length) ? length : 0;
    return length === OPEN_LENGTH ? this.#openFrame(at, end, direction) : 0;
  }

  #openFrame(at: number, end: number, direction: Direction): number {
    const { from, step } = openLengths(this.#buffer, at, direction);
    const most = Math.min(RTU_MAX, end - at);
    for (let length = from; length <= most; length += step) if (this.#window.isGood(at, at + length)) return length;
    return 0;
  }

  #tell(start: number, end: number, length: number): void {
    const unit = this.#buffer[start] as number;
    const code = this.#buffer[start + 1] as number;
    const fc = code & ~EXCEPTION_BIT;
    const [request, response] = [
      this.#reading(start, end, 'request') === length,
      this.#reading(start, end, 'response') === length,
    ];
    const direction = request && response ? this.#turn.settle(unit, fc) : request ? 'request' : 'response';
    this.#turn.took(direction, unit, fc);
    this.#sink.frame(this.#offset + start, this.#buffer, start, end, direction);
  }

  #junk(start: number, end: number): void {
    if (end <= start) return;
    const size = end - start;
    const unit = this.#buffer[start] as number;
    const fc = this.#buffer[start + 1] as number;
    const isOpaque =
      size >= RTU_MIN &&
      size <= RTU_MAX &&
      !FUNCTIONS[fc & ~EXCEPTION_BIT] &&
      fc > 0 &&
      fc < EXCEPTION_BIT &&
      unit <= 247;
    if (!isOpaque || !this.#window.isGood(start, end))
      return this.#sink.junk(this.#offset + start, this.#buffer, start, end);
    const direction = this.#turn.settle(unit, fc);
    this.#turn.took(direction, unit, fc);
    this.#sink.frame(this.#offset + start, this.#buffer, start, end, direction);
  }
}
