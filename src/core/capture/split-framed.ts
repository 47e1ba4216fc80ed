import type { Direction } from '../direction';
import type { Dialect } from '../dialect/dialect';
import { probeDialect } from '../dialect/probe';
import { readDialect } from '../dialect/read';
import { ASCII_MAX } from '../modbus/ascii';
import { decodeWith } from '../modbus/reading';
import { ASCII, TCP } from '../modbus/framing';
import { probeAscii, probeTcp } from '../modbus/scan';
import { TCP_MAX } from '../modbus/tcp';
import { probeUss, USS_MAX } from '../uss/telegram';
import { Finds, FOUND, type FrameSink, type Splitter } from './frame-sink';
import { Turn } from './turn';

/** What a framed protocol needs to be cut out of a stream. */
interface Cutting {
  readonly longest: number;
  /** Length of a frame at `start`, 0 while it may still become one, -1 when none begins here. */
  readonly probe: (bytes: Uint8Array, start: number, end: number) => number;
  readonly directionOf: (frame: Uint8Array) => Direction;
  /** A weak check finds frames in noise: such a find counts only when another frame, or the end, follows it or one stood before it. */
  readonly weak?: boolean;
}

/** Cuts a stream of a protocol whose frames say themselves where they begin and end. Linear: a frame's bytes are looked at once. */
class FramedSplitter implements Splitter {
  readonly #cutting: Cutting;
  readonly #sink: FrameSink;
  readonly #room: number;
  readonly #buffer: Uint8Array;
  readonly #finds: Finds;
  #filled = 0;
  #offset = 0;
  #afterFrame = false;

  constructor(cutting: Cutting, sink: FrameSink) {
    this.#cutting = cutting;
    this.#sink = sink;
    this.#room = 64 * cutting.longest;
    this.#buffer = new Uint8Array(this.#room);
    this.#finds = new Finds(this.#room);
  }

  push(chunk: Uint8Array): void {
    for (let at = 0; at < chunk.length;) {
      const part = Math.min(chunk.length - at, this.#room - this.#filled);
      this.#buffer.set(chunk.subarray(at, at + part), this.#filled);
      this.#filled += part;
      at += part;
      if (this.#filled === this.#room) this.#look(this.#room - 2 * this.#cutting.longest, false);
    }
  }

  settle(): void {
    this.#look(this.#filled, false);
  }

  end(): void {
    this.#look(this.#filled, true);
  }

  #look(until: number, isLast: boolean): void {
    const { probe, directionOf, weak } = this.#cutting;
    const [buffer, end, finds] = [this.#buffer, this.#filled, this.#finds];
    let at = 0;
    let junkFrom = 0;
    while (at < until) {
      const length = probe(buffer, at, end);
      // What may still become a frame waits for more.
      if (length === 0 && !isLast) break;
      const counts =
        length > 0 && (!weak || this.#afterFrame || at + length === end || probe(buffer, at + length, end) > 0);
      if (!counts) {
        this.#afterFrame = false;
        at++;
        continue;
      }
      if (at > junkFrom) finds.add(junkFrom, at, FOUND.junk);
      finds.add(at, at + length, FOUND[directionOf(buffer.subarray(at, at + length))]);
      this.#afterFrame = true;
      at += length;
      junkFrom = at;
    }
    const told = isLast ? end : Math.min(at, end);
    if (told > junkFrom) finds.add(junkFrom, told, FOUND.junk);
    this.#sink.take(this.#offset, buffer, finds);
    finds.count = 0;
    buffer.copyWithin(0, told, end);
    this.#filled = end - told;
    this.#offset += told;
  }
}

/** Direction by what a frame says of itself, else by whose turn it is. */
function modbusDirection(read: typeof TCP.read, turn: Turn): (frame: Uint8Array) => Direction {
  return (frame) => {
    const decoded = decodeWith(read, frame);
    const { unit = 0, fc = 0 } = decoded.message ?? {};
    const direction = decoded.direction === 'either' ? turn.settle(unit, fc) : decoded.direction;
    turn.took(direction, unit, fc);
    return direction;
  };
}

/** Cuts Modbus ASCII; a frame with a broken character is junk. */
export const asciiSplitter = (sink: FrameSink): Splitter =>
  new FramedSplitter(
    {
      longest: ASCII_MAX,
      probe: probeAscii,
      directionOf: modbusDirection(ASCII.read, new Turn()),
    },
    sink,
  );

/** Cuts one direction or both of a Modbus TCP stream. */
export const tcpSplitter = (sink: FrameSink, known?: Direction): Splitter =>
  new FramedSplitter(
    { longest: TCP_MAX, probe: probeTcp, directionOf: known ? () => known : modbusDirection(TCP.read, new Turn()) },
    sink,
  );

/** Cuts USS: master and drive speak in turn, so a telegram of the station that was asked last is its answer. */
export function ussSplitter(sink: FrameSink): Splitter {
  const turn = new Turn();
  const directionOf = (frame: Uint8Array): Direction => {
    const adr = frame[2] as number;
    const direction = turn.settle(adr, 0);
    turn.took((adr & 0x20) === 0 ? direction : 'response', adr, 0);
    return direction;
  };
  return new FramedSplitter({ longest: USS_MAX, probe: probeUss, directionOf, weak: true }, sink);
}

/** Cuts lines of a dialect by its opening and closing. */
export const dialectSplitter = (dialect: Dialect, sink: FrameSink): Splitter =>
  new FramedSplitter(
    {
      longest: USS_MAX,
      probe: (bytes, start, end) => probeDialect(dialect, bytes, start, end),
      // A line that reads both ways is a request: a bare value is the poorer reading.
      directionOf: (frame) =>
        readDialect(dialect, frame, 'request').faults.length <= readDialect(dialect, frame, 'response').faults.length
          ? 'request'
          : 'response',
    },
    sink,
  );
