import { dumpLine } from '../bytes/dump';
import { counted } from '../counted';
import { CaptureBuilder } from './builder';
import type { CapturePlan } from './capture-plan';
import { Connection } from './connection';
import type { FrameIndex } from './frame-index';
import { isUserLink, segmentOf, type Host, type Hosts6, type Segment } from './packet';
import { PacketFileReader } from './pcap-read';
import { PortTally } from './port-tally';
import { RecordFramer, splitterInto } from './record-framer';
import type { Statistics } from './statistics';
import { logRecord } from './text-log';

export interface Capture {
  readonly index: FrameIndex;
  readonly statistics: Statistics;
  /** What could not be read, in sentences. */
  readonly notes: readonly string[];
}

/** More connections than this are not followed. */
const MOST_CONNECTIONS = 1000;

/**
 * Reads a file in any chunks. `onBytes` gets the frames' bytes where they are kept apart from the file (all but binary files); they are lent, and change
 * afterwards.
 */
export interface CaptureReader {
  push(chunk: Uint8Array): void;
  end(): Capture;
}

/** Says of a file what else nobody would: that it is empty, or that nothing in it is a frame. */
export function captureReader(plan: CapturePlan, onBytes: (bytes: Uint8Array) => void): CaptureReader {
  const reader = readerFor(plan, onBytes);
  let bytes = 0;
  return {
    push: (chunk) => {
      bytes += chunk.length;
      reader.push(chunk);
    },
    end: () => {
      const capture = reader.end();
      if (bytes === 0) return { ...capture, notes: ['the file is empty'] };
      if (capture.statistics.frames > 0) return capture;
      return {
        ...capture,
        notes: [...capture.notes, `none of ${bytes} bytes belong to a frame: are protocol and kind of file right?`],
      };
    },
  };
}

function readerFor(plan: CapturePlan, onBytes: (bytes: Uint8Array) => void): CaptureReader {
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

function binaryReader(plan: CapturePlan): CaptureReader {
  const builder = new CaptureBuilder(plan.protocol, null);
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

/** A line longer than this is no line of a log. */
const LONGEST_LINE = 1 << 16;

function lineReader(plan: CapturePlan, onBytes: (bytes: Uint8Array) => void): CaptureReader {
  const builder = new CaptureBuilder(plan.protocol, onBytes);
  const framer = new RecordFramer(plan, builder);
  const decoder = new TextDecoder();
  let rest = '';
  let lines = 0;
  let unread = 0;
  /** Where the next line of a dump should begin; null before the first. */
  let nextOffset: number | null = null;
  let firstUnread = 0;
  let beganUs = NaN;
  const line = (text: string): void => {
    lines++;
    if (text.trim() === '') return;
    const record = plan.form === 'text-log' && plan.mapping ? logRecord(text, plan.mapping) : null;
    const dumped = plan.form === 'hex-dump' ? dumpLine(text, nextOffset) : null;
    if (dumped) nextOffset = (dumped.offset ?? nextOffset ?? 0) + dumped.bytes.length;
    const bytes = record?.bytes ?? dumped?.bytes;
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

/** One end of a connection as a number: ports have 16 bits. */
const endOf = (host: Host, port: number): number => host * 2 ** 16 + port;

function packetReader(plan: CapturePlan, onBytes: (bytes: Uint8Array) => void): CaptureReader {
  const builder = new CaptureBuilder(plan.protocol, onBytes);
  const serial = new RecordFramer(plan, builder);
  /** By the end that asks, then by the end that is asked. */
  const connections = new Map<number, Map<number, Connection>>();
  let followed = 0;
  const hosts6: Hosts6 = new Map();
  const ports = new Set(plan.ports);
  const others = new PortTally();
  const skipped = { packets: 0, connections: 0, lost: 0, cut: 0 };
  let beganUs = NaN;
  let lastUs = 0;

  const segment = (found: Segment, timeUs: number): void => {
    const isRequest = ports.has(found.toPort);
    if (!isRequest && !ports.has(found.fromPort)) {
      skipped.packets++;
      if (found.payload.length > 0) others.count(found);
      return;
    }
    const asking = isRequest ? endOf(found.from, found.fromPort) : endOf(found.to, found.toPort);
    const asked = isRequest ? endOf(found.to, found.toPort) : endOf(found.from, found.fromPort);
    let connection = connections.get(asking)?.get(asked);
    if (!connection) {
      if (followed >= MOST_CONNECTIONS) {
        skipped.connections++;
        return;
      }
      const number = ++followed;
      const serialInto = (): RecordFramer =>
        new RecordFramer(plan, builder, Math.max(plan.gapUs, SERVER_GAP_US), { connection: number, tcp: false });
      connection = new Connection(builder, number, plan.protocol, serialInto, (bytes) => (skipped.lost += bytes));
      connections.set(asking, (connections.get(asking) ?? new Map<number, Connection>()).set(asked, connection));
    }
    connection.take(found, isRequest ? 'request' : 'response', timeUs);
  };

  const reader = new PacketFileReader(({ timeUs, linkType, data, isCut }) => {
    if (Number.isNaN(beganUs)) beganUs = timeUs;
    lastUs = timeUs - beganUs;
    if (isCut) skipped.cut++;
    if (isUserLink(linkType)) return serial.take(lastUs, null, data.slice());
    const found = segmentOf(data, linkType, hosts6);
    if (found) segment(found, lastUs);
    else skipped.packets++;
  });

  return {
    push: (chunk) => reader.push(chunk),
    end: () => {
      reader.end();
      serial.flush();
      for (const ofOne of connections.values()) for (const connection of ofOne.values()) connection.end(lastUs);
      const notes = [
        reader.trouble,
        skipped.cut > 0
          ? `of ${counted(skipped.cut, 'packet')} the capture kept only the beginning: their last bytes are missing`
          : '',
        skipped.packets > 0
          ? `${skipped.packets} packets carry nothing on the ports ${[...ports].join(', ')}${others.text()}`
          : '',
        skipped.connections > 0
          ? `${skipped.connections} packets belong to connections beyond the first ${MOST_CONNECTIONS}`
          : '',
        skipped.lost > 0 ? `${skipped.lost} bytes of connections are missing in the capture` : '',
      ].filter((note) => note !== '');
      return { index: builder.index, statistics: builder.statistics(), notes };
    },
  };
}

/** A device server cuts a reply anywhere and sends the rest when it likes; so long a silence ends a frame behind one (common practice, no source). */
const SERVER_GAP_US = 50_000;
