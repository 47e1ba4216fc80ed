import { concatBytes } from '../bytes/concat';
import { textToBytes } from '../bytes/text';
import type { Direction } from '../direction';
import { USER_LINK } from './packet';

/** Writes pcapng (draft-ietf-opsawg-pcapng): one interface for Ethernet, one for raw bytes of a serial line. */
const ETHERNET = 1;
const MODBUS_PORT = 502;

const le = (values: readonly (readonly [number, 2 | 4])[]): Uint8Array => {
  const bytes = new Uint8Array(values.reduce((sum, [, size]) => sum + size, 0));
  const view = new DataView(bytes.buffer);
  let at = 0;
  for (const [value, size] of values) {
    if (size === 2) view.setUint16(at, value, true);
    else view.setUint32(at, value, true);
    at += size;
  }
  return bytes;
};

const padded = (bytes: Uint8Array): Uint8Array => concatBytes(bytes, new Uint8Array((4 - (bytes.length % 4)) % 4));

function block(type: number, body: Uint8Array): Uint8Array {
  const size = 12 + body.length;
  return concatBytes(
    le([
      [type, 4],
      [size, 4],
    ]),
    body,
    le([[size, 4]]),
  );
}

const option = (code: number, text: string): Uint8Array => {
  const bytes = textToBytes(text);
  return concatBytes(
    le([
      [code, 2],
      [bytes.length, 2],
    ]),
    padded(bytes),
  );
};
const END_OF_OPTIONS = le([
  [0, 2],
  [0, 2],
]);

/** The file's beginning: section, an Ethernet interface (0) and one for serial bytes (1). */
export function pcapngHead(application: string): Uint8Array {
  const section = concatBytes(
    le([
      [0x1a2b3c4d, 4],
      [1, 2],
      [0, 2],
      [0xffffffff, 4],
      [0xffffffff, 4],
    ]),
    option(4, application),
    END_OF_OPTIONS,
  );
  const face = (linkType: number, name: string): Uint8Array =>
    block(
      1,
      concatBytes(
        le([
          [linkType, 2],
          [0, 2],
          [0, 4],
        ]),
        option(2, name),
        END_OF_OPTIONS,
      ),
    );
  return concatBytes(block(0x0a0d0d0a, section), face(ETHERNET, 'Modbus TCP'), face(USER_LINK, 'serial line'));
}

/** One packet; `timeUs` since 1970. */
function packet(face: 0 | 1, timeUs: number, data: Uint8Array, comment: string): Uint8Array {
  const time = Math.max(0, Math.round(timeUs));
  const head = le([
    [face, 4],
    [Math.floor(time / 2 ** 32), 4],
    [time % 2 ** 32, 4],
    [data.length, 4],
    [data.length, 4],
  ]);
  return block(6, concatBytes(head, padded(data), ...(comment ? [option(1, comment), END_OF_OPTIONS] : [])));
}

/** Raw bytes of a serial line under a user link type. */
export const serialPacket = (timeUs: number, bytes: Uint8Array, comment = ''): Uint8Array =>
  packet(1, timeUs, bytes, comment);

/** The Internet checksum (RFC 1071). */
function onesSum(bytes: Uint8Array): number {
  let sum = 0;
  for (let at = 0; at < bytes.length; at += 2) sum += ((bytes[at] as number) << 8) | (bytes[at + 1] ?? 0);
  while (sum > 0xffff) sum = (sum & 0xffff) + (sum >> 16);
  return ~sum & 0xffff;
}

const be16 = (value: number): readonly number[] => [(value >> 8) & 0xff, value & 0xff];
const be32 = (value: number): readonly number[] => [
  (value >>> 24) & 0xff,
  (value >>> 16) & 0xff,
  (value >>> 8) & 0xff,
  value & 0xff,
];

/** One made-up connection from 192.0.2.1 to 192.0.2.2, addresses that RFC 5737 keeps for documents, with sequence numbers that go on. */
export class ModbusTcpPackets {
  readonly #clientPort: number;
  #sent = { request: 1, response: 1 };
  #identification = 0;

  constructor(clientPort: number) {
    this.#clientPort = clientPort;
  }

  /** A Modbus TCP frame as an Ethernet packet. */
  packet(timeUs: number, frame: Uint8Array, direction: Direction, comment = ''): Uint8Array {
    const isRequest = direction === 'request';
    const client = [192, 0, 2, 1];
    const server = [192, 0, 2, 2];
    const [from, to] = isRequest ? [client, server] : [server, client];
    const [fromPort, toPort] = isRequest ? [this.#clientPort, MODBUS_PORT] : [MODBUS_PORT, this.#clientPort];
    const [own, other] = isRequest ? (['request', 'response'] as const) : (['response', 'request'] as const);
    const tcp = Uint8Array.from([
      ...be16(fromPort), ...be16(toPort), ...be32(this.#sent[own]), ...be32(this.#sent[other]),
      0x50, 0x18, ...be16(8192), 0, 0, 0, 0, ...frame,
    ]); // prettier-ignore
    this.#sent[own] += frame.length;
    const pseudo = Uint8Array.from([...from, ...to, 0, 6, ...be16(tcp.length)]);
    tcp.set(be16(onesSum(concatBytes(pseudo, tcp))), 16);
    const ip = Uint8Array.from([
      0x45, 0, ...be16(20 + tcp.length), ...be16(this.#identification++ & 0xffff), 0x40, 0, 64, 6, 0, 0, ...from, ...to,
    ]); // prettier-ignore
    ip.set(be16(onesSum(ip)), 10);
    // Locally administered addresses, so that no maker's number is used.
    const ethernet = Uint8Array.from([2, 0, 0, 0, 0, isRequest ? 2 : 1, 2, 0, 0, 0, 0, isRequest ? 1 : 2, 0x08, 0]);
    return packet(0, timeUs, concatBytes(ethernet, ip, tcp), comment);
  }
}
