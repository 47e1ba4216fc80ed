import { crc16 } from '../checksum/crc16';
import type { Direction } from '../direction';
import type { CaptureBuilder } from './builder';
import type { CaptureProtocol } from './capture-plan';
import type { Splitter } from './frame-sink';
import type { Segment } from './packet';
import type { RecordFramer } from './record-framer';
import { tcpSplitter } from './split-framed';
import { TcpStream } from './tcp-stream';

/** What is said over a connection: Modbus TCP in both directions, or serial bytes through a device server. */
type Conversation =
  | { readonly kind: 'tcp'; readonly request: Splitter; readonly response: Splitter }
  | { readonly kind: 'serial'; readonly framer: RecordFramer };

/**
 * Both directions of one TCP connection, put together again and cut into frames. Its first bytes tell what it speaks: the head of Modbus TCP
 * (Modbus Messaging on TCP/IP V1.0b, 3.1.3), else the serial protocol of the capture.
 */
export class Connection {
  readonly #request: TcpStream;
  readonly #response: TcpStream;
  readonly #builder: CaptureBuilder;
  readonly #number: number;
  readonly #protocol: CaptureProtocol;
  readonly #serialInto: () => RecordFramer;
  #conversation: Conversation | null = null;
  #nowUs = 0;

  constructor(
    builder: CaptureBuilder,
    number: number,
    protocol: CaptureProtocol,
    serialInto: () => RecordFramer,
    onLoss: (bytes: number) => void,
  ) {
    this.#builder = builder;
    this.#number = number;
    this.#protocol = protocol;
    this.#serialInto = serialInto;
    const way = (direction: Direction): TcpStream =>
      new TcpStream(
        (bytes, timeUs) => this.#heard(direction, bytes, timeUs),
        (bytes) => {
          onLoss(bytes);
          if (this.#conversation?.kind === 'tcp') this.#conversation[direction].end();
          else this.#conversation?.framer.flush();
        },
      );
    this.#request = way('request');
    this.#response = way('response');
  }

  take(segment: Segment, direction: Direction, timeUs: number): void {
    (direction === 'request' ? this.#request : this.#response).take(segment, timeUs);
  }

  end(timeUs: number): void {
    this.#request.flush(timeUs);
    this.#response.flush(timeUs);
    if (this.#conversation?.kind === 'serial') this.#conversation.framer.flush();
    if (this.#conversation?.kind !== 'tcp') return;
    this.#conversation.request.end();
    this.#conversation.response.end();
  }

  #heard(direction: Direction, bytes: Uint8Array, timeUs: number): void {
    this.#nowUs = timeUs;
    this.#conversation ??= isModbusTcp(bytes, this.#protocol)
      ? { kind: 'tcp', request: this.#splitter('request'), response: this.#splitter('response') }
      : { kind: 'serial', framer: this.#serialInto() };
    if (this.#conversation.kind === 'serial') return this.#conversation.framer.take(timeUs, direction, bytes.slice());
    this.#conversation[direction].push(bytes);
    this.#conversation[direction].settle();
  }

  #splitter(direction: Direction): Splitter {
    const origin = { connection: this.#number, tcp: true };
    return tcpSplitter(
      { take: (offset, bytes, finds) => this.#builder.take(offset, bytes, finds, this.#nowUs, direction, origin) },
      direction,
    );
  }
}

const HEAD = 8;
const MOST_LENGTH = 254;

/** A whole serial frame may look like a head of Modbus TCP by chance; its check says that it is none. */
function isModbusTcp(bytes: Uint8Array, protocol: CaptureProtocol): boolean {
  if (protocol === 'modbus-tcp') return true;
  if (protocol === 'modbus-rtu' && bytes.length >= 4 && crc16(bytes) === 0) return false;
  const length = ((bytes[4] ?? 0) << 8) | (bytes[5] ?? 0);
  return bytes.length >= HEAD && bytes[2] === 0 && bytes[3] === 0 && length >= 2 && length <= MOST_LENGTH;
}
