import { concatBytes } from '../../src/core/bytes/concat';

/** Packets and files made here from the standards, apart from the writer that they help to test. */
const be = (value: number, size: number): number[] =>
  Array.from({ length: size }, (_, i) => Math.floor(value / 2 ** (8 * (size - 1 - i))) % 256);

interface Made {
  readonly sequence: number;
  readonly payload: Uint8Array;
  readonly fromClient?: boolean;
  readonly flags?: number;
  readonly port?: number;
}

const tcp = ({ sequence, payload, fromClient = true, flags = 0x18, port = 502 }: Made): number[] => {
  const [from, to] = fromClient ? [40_000, port] : [port, 40_000];
  return [...be(from, 2), ...be(to, 2), ...be(sequence, 4), ...be(0, 4), 0x50, flags, 0x20, 0, 0, 0, 0, 0, ...payload];
};

const MACS = [2, 0, 0, 0, 0, 1, 2, 0, 0, 0, 0, 2];

export function ethernet4(made: Made, vlan = false): Uint8Array {
  const segment = tcp(made);
  const [a, b] = made.fromClient === false ? [2, 1] : [1, 2];
  const ip = [0x45, 0, ...be(20 + segment.length, 2), 0, 1, 0, 0, 64, 6, 0, 0, 192, 0, 2, a, 192, 0, 2, b];
  return Uint8Array.from([...MACS, ...(vlan ? [0x81, 0, 0, 42] : []), 8, 0, ...ip, ...segment]);
}

export function ethernet6(made: Made): Uint8Array {
  const segment = tcp(made);
  const address = (last: number): number[] => [0x20, 1, 0x0d, 0xb8, ...new Array<number>(11).fill(0), last];
  const [a, b] = made.fromClient === false ? [2, 1] : [1, 2];
  return Uint8Array.from([
    ...MACS,
    0x86,
    0xdd,
    0x60,
    0,
    0,
    0,
    ...be(segment.length, 2),
    6,
    64,
    ...address(a),
    ...address(b),
    ...segment,
  ]);
}

/** The older file format, in either byte order, with microseconds or nanoseconds. */
export function pcapFile(
  packets: readonly Uint8Array[],
  { little = true, nano = false, linkType = 1, everyUs = 1000 } = {},
): Uint8Array {
  const u32 = (value: number): number[] => (little ? be(value, 4).reverse() : be(value, 4));
  const u16 = (value: number): number[] => (little ? be(value, 2).reverse() : be(value, 2));
  const head = [
    ...u32(nano ? 0xa1b23c4d : 0xa1b2c3d4),
    ...u16(2),
    ...u16(4),
    ...u32(0),
    ...u32(0),
    ...u32(65535),
    ...u32(linkType),
  ];
  const records = packets.map((packet, i) =>
    Uint8Array.from([
      ...u32(1_000),
      ...u32(i * everyUs * (nano ? 1000 : 1)),
      ...u32(packet.length),
      ...u32(packet.length),
      ...packet,
    ]),
  );
  return concatBytes(Uint8Array.from(head), ...records);
}
