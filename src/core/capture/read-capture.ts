import type { Dialect } from '../dialect/dialect';
import type { Direction } from '../direction';
import { CaptureBuilder, GLANCES } from './builder';
import type { FrameIndex } from './frame-index';
import type { Finds, FrameSink, Splitter } from './frame-sink';
import { isUserLink, segmentOf, type Segment } from './packet';
import { PacketFileReader } from './pcap-read';
import { asciiSplitter, dialectSplitter, tcpSplitter, ussSplitter } from './split-framed';
import { RtuSplitter } from './split-rtu';
import type { Statistics } from './statistics';
import { TcpStream } from './tcp-stream';
import { dumpLine, logRecord, type LogMapping } from './text-log';

export type CaptureProtocol = 'modbus-rtu' | 'modbus-ascii' | 'modbus-tcp' | 'uss' | 'dialect';

/** What a file holds, and how it is to be read. */
export interface CapturePlan {
  readonly form: 'binary' | 'packets' | 'hex-dump' | 'text-log';
  readonly protocol: CaptureProtocol;
  readonly dialect?: Dialect;
  /** For packets: the TCP ports that Modbus is spoken on. */
  readonly ports: readonly number[];
  /** For records with times: a silence of this length ends a frame, in microseconds. */
  readonly gapUs: number;
  readonly mapping?: LogMapping;
}

export interface Capture {
  readonly index: FrameIndex;
  readonly statistics: Statistics;
  /** What could not be read, in sentences. */
  readonly notes: readonly string[];
}

/** More connections than this are not followed. */
const MOST_CONNECTIONS = 1000;

/** Reads a file in any chunks. `onBytes` gets the frames' bytes where they are kept apart from the file (all but binary files). */
export interface CaptureReader {
  push(chunk: Uint8Array): void;
  end(): Capture;
}

export function captureReader(plan: CapturePlan, onBytes: (bytes: Uint8Array) => void): CaptureReader {
  switch (plan.form) {
    case 'binary':
      return binaryReader(plan);
    case 'packets':
      return packetReader(plan, onBytes);
    case 'hex-dump':
    case 'text-log':
      return lineReader(plan, onBytes);
  }
}

function splitterInto(plan: CapturePlan, sink: FrameSink): Splitter {
  switch (plan.protocol) {
    case 'modbus-rtu':
      return new RtuSplitter(sink);
    case 'modbus-ascii':
      return asciiSplitter(sink);
    case 'modbus-tcp':
      return tcpSplitter(sink);
    case 'uss':
      return ussSplitter(sink);
    case 'dialect':
      return plan.dialect ? dialectSplitter(plan.dialect, sink) : new RtuSplitter(sink);
  }
}

function binaryReader(plan: CapturePlan): CaptureReader {
  const builder = new CaptureBuilder(GLANCES[plan.protocol], null);
  const splitter = splitterInto(plan, {
    take: (offset, bytes, finds) => builder.take(offset, bytes, finds, NaN, null),
  });
  return {
    push: (chunk) => splitter.push(chunk),
    end: () => {
      splitter.end();
      return { index: builder.index, statistics: builder.statistics(), notes: [] };
    },
  };
}

/** Joins records that follow each other without a silence, and cuts each burst for itself: timing ends what structure cannot. */
class RecordFramer {
  readonly #splitter: Splitter;
  readonly #builder: CaptureBuilder;
  readonly #gapUs: number;
  #direction: Direction | null = null;
  #lastUs = NaN;
  /** Records of the present burst: where each begins in the stream, and its time. */
  #records: { readonly at: number; readonly timeUs: number }[] = [];
  #pushed = 0;

  constructor(plan: CapturePlan, builder: CaptureBuilder) {
    this.#builder = builder;
    this.#splitter = splitterInto(plan, { take: (offset, bytes, finds) => this.#found(offset, bytes, finds) });
    this.#gapUs = plan.gapUs;
  }

  take(timeUs: number, direction: Direction | null, bytes: Uint8Array): void {
    const turned = direction !== this.#direction;
    const silent = timeUs - this.#lastUs > this.#gapUs;
    if (turned || silent) this.flush();
    this.#direction = direction;
    this.#records.push({ at: this.#pushed, timeUs });
    this.#pushed += bytes.length;
    this.#splitter.push(bytes);
    this.#lastUs = timeUs;
  }

  flush(): void {
    if (this.#records.length > 0) this.#splitter.end();
    this.#records = [];
  }

  /** Each frame gets the time of the record in which it begins: a reply within the gap is not as old as its request. */
  #found(offset: number, bytes: Uint8Array, finds: Finds): void {
    const records = this.#records;
    let at = records.length - 1;
    while (at > 0 && (records[at]?.at ?? 0) > offset) at--;
    for (let from = 0; from < finds.count;) {
      const nextAt = (records[at + 1]?.at ?? Infinity) - offset;
      let until = from;
      while (until < finds.count && (finds.starts[until] as number) < nextAt) until++;
      const timeUs = records[at]?.timeUs ?? NaN;
      if (until > from) this.#builder.take(offset, bytes, finds.part(from, until), timeUs, this.#direction);
      from = until;
      at++;
    }
  }
}

/** A line longer than this is no line of a log. */
const LONGEST_LINE = 1 << 16;

function lineReader(plan: CapturePlan, onBytes: (bytes: Uint8Array) => void): CaptureReader {
  const builder = new CaptureBuilder(GLANCES[plan.protocol], onBytes);
  const framer = new RecordFramer(plan, builder);
  const decoder = new TextDecoder();
  let rest = '';
  let lines = 0;
  let unread = 0;
  let firstUnread = 0;
  let beganUs = NaN;
  const line = (text: string): void => {
    lines++;
    if (text.trim() === '') return;
    const record = plan.form === 'text-log' && plan.mapping ? logRecord(text, plan.mapping) : null;
    const bytes = record?.bytes ?? (plan.form === 'hex-dump' ? dumpLine(text) : null);
    if (!bytes) {
      if (unread++ === 0) firstUnread = lines;
      return;
    }
    const timeUs = record?.timeUs ?? NaN;
    if (Number.isNaN(beganUs)) beganUs = timeUs;
    framer.take(timeUs - beganUs, record?.direction ?? null, bytes);
  };
  return {
    push: (chunk) => {
      rest += decoder.decode(chunk, { stream: true });
      const whole = rest.split(/\r?\n/);
      rest = whole.pop() ?? '';
      for (const text of whole) line(text);
      if (rest.length > LONGEST_LINE) {
        line(rest);
        rest = '';
      }
    },
    end: () => {
      if (rest !== '') line(rest);
      framer.flush();
      const notes =
        unread > 0
          ? [`${unread} of ${lines} lines hold no bytes that could be read; the first is line ${firstUnread}`]
          : [];
      return { index: builder.index, statistics: builder.statistics(), notes };
    },
  };
}

/** Both directions of one TCP connection. */
interface Connection {
  readonly request: TcpStream;
  readonly response: TcpStream;
  readonly end: () => void;
}

function packetReader(plan: CapturePlan, onBytes: (bytes: Uint8Array) => void): CaptureReader {
  const serial = new CaptureBuilder(GLANCES[plan.protocol], onBytes);
  const framer = new RecordFramer(plan, serial);
  const connections = new Map<string, Connection>();
  const ports = new Set(plan.ports);
  const skipped = { packets: 0, connections: 0, lost: 0 };
  let beganUs = NaN;
  let lastUs = 0;

  const connect = (connection: number): Connection => {
    const origin = { connection, tcp: true };
    const way = (direction: Direction): TcpStream => {
      const now = { timeUs: 0 };
      const splitter = tcpSplitter(
        { take: (offset, bytes, finds) => serial.take(offset, bytes, finds, now.timeUs, direction, origin) },
        direction,
      );
      ends.push(() => splitter.end());
      return new TcpStream(
        (bytes, timeUs) => {
          now.timeUs = timeUs;
          splitter.push(bytes);
          splitter.settle();
        },
        (bytes) => {
          skipped.lost += bytes;
          splitter.end();
        },
      );
    };
    const ends: (() => void)[] = [];
    const [request, response] = [way('request'), way('response')];
    return {
      request,
      response,
      end: () => {
        request.flush(lastUs);
        response.flush(lastUs);
        for (const end of ends) end();
      },
    };
  };

  const segment = (found: Segment, timeUs: number): void => {
    const isRequest = ports.has(found.toPort);
    if (!isRequest && !ports.has(found.fromPort)) {
      skipped.packets++;
      return;
    }
    const ends = isRequest
      ? `${found.from}:${found.fromPort} ${found.to}:${found.toPort}`
      : `${found.to}:${found.toPort} ${found.from}:${found.fromPort}`;
    let connection = connections.get(ends);
    if (!connection) {
      if (connections.size >= MOST_CONNECTIONS) {
        skipped.connections++;
        return;
      }
      connection = connect(connections.size);
      connections.set(ends, connection);
    }
    (isRequest ? connection.request : connection.response).take(found, timeUs);
  };

  const reader = new PacketFileReader(({ timeUs, linkType, data }) => {
    if (Number.isNaN(beganUs)) beganUs = timeUs;
    lastUs = timeUs - beganUs;
    if (isUserLink(linkType)) return framer.take(lastUs, null, data.slice());
    const found = segmentOf(data, linkType);
    if (found) segment(found, lastUs);
    else skipped.packets++;
  });

  return {
    push: (chunk) => reader.push(chunk),
    end: () => {
      reader.end();
      framer.flush();
      for (const connection of connections.values()) connection.end();
      const notes = [
        reader.trouble,
        skipped.packets > 0 ? `${skipped.packets} packets carry nothing on the ports ${[...ports].join(', ')}` : '',
        skipped.connections > 0
          ? `${skipped.connections} packets belong to connections beyond the first ${MOST_CONNECTIONS}`
          : '',
        skipped.lost > 0 ? `${skipped.lost} bytes of connections are missing in the capture` : '',
      ].filter((note) => note !== '');
      return { index: serial.index, statistics: serial.statistics(), notes };
    },
  };
}
