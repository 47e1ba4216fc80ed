import type { CaptureProtocol } from './capture-plan';
import { EXCEPTION_BIT } from '../modbus/layout';

/** How a protocol's frame tells its station, function and registers in a glance; `head` bytes stand before the station. */
export interface Glance {
  readonly unitOf: (bytes: Uint8Array, start: number, end: number) => number;
  readonly fcOf: (bytes: Uint8Array, start: number, end: number) => number;
  readonly addressOf: (bytes: Uint8Array, start: number, end: number) => number;
  readonly quantityOf: (bytes: Uint8Array, start: number, end: number) => number;
  readonly isException: (bytes: Uint8Array, start: number) => boolean;
}

const word = (bytes: Uint8Array, at: number): number => ((bytes[at] as number) << 8) | (bytes[at + 1] as number);

/** Functions whose requests begin with an address, and where their quantity stands (0: one register). */
const QUANTITIES: Readonly<Partial<Record<number, number>>> = {
  1: 4,
  2: 4,
  3: 4,
  4: 4,
  5: 0,
  6: 0,
  15: 4,
  16: 4,
  22: 0,
  23: 4,
  24: 0,
};

const NO_QUANTITY = -1;
/** The same as a flat table over all codes. */
const QUANTITY_AT = Int8Array.from({ length: 256 }, (_, code) => QUANTITIES[code] ?? NO_QUANTITY);

const modbusGlance = (head: number): Glance => ({
  unitOf: (bytes, start) => bytes[start + head] as number,
  fcOf: (bytes, start) => (bytes[start + head + 1] as number) & ~EXCEPTION_BIT,
  addressOf: (bytes, start) => word(bytes, start + head + 2),
  quantityOf: (bytes, start, end) => {
    const at = QUANTITY_AT[bytes[start + head + 1] as number] as number;
    if (at === NO_QUANTITY || start + head + 4 > end) return 0;
    return at === 0 ? 1 : word(bytes, start + head + at);
  },
  isException: (bytes, start) => ((bytes[start + head + 1] as number) & EXCEPTION_BIT) !== 0,
});

const hexDigit = (char: number): number => (char <= 57 ? char - 48 : (char | 32) - 87);
const pair = (bytes: Uint8Array, at: number): number =>
  ((hexDigit(bytes[at] as number) << 4) | hexDigit(bytes[at + 1] as number)) & 0xff;

/** ASCII reads its characters in pairs. */
const GLANCES: Readonly<Record<CaptureProtocol, Glance>> = {
  'modbus-rtu': modbusGlance(0),
  'modbus-tcp': modbusGlance(6),
  'modbus-ascii': {
    unitOf: (bytes, start) => pair(bytes, start + 1),
    fcOf: (bytes, start) => pair(bytes, start + 3) & ~EXCEPTION_BIT,
    addressOf: (bytes, start) => (pair(bytes, start + 5) << 8) | pair(bytes, start + 7),
    quantityOf: (bytes, start, end) => {
      const at = QUANTITY_AT[pair(bytes, start + 3)] as number;
      if (at === NO_QUANTITY || start + 13 > end) return 0;
      return at === 0 ? 1 : (pair(bytes, start + 9) << 8) | pair(bytes, start + 11);
    },
    isException: (bytes, start) => (pair(bytes, start + 3) & EXCEPTION_BIT) !== 0,
  },
  uss: {
    unitOf: (bytes, start) => (bytes[start + 2] as number) & 31,
    fcOf: (bytes, start, end) => (end - start >= 10 ? (bytes[start + 3] as number) >> 4 : 0),
    addressOf: (bytes, start, end) => (end - start >= 10 ? word(bytes, start + 3) & 0x7ff : 0),
    quantityOf: (_bytes, start, end) => (end - start >= 10 ? 1 : 0),
    isException: (bytes, start) => (bytes[start + 3] as number) >> 4 === 7,
  },
  dialect: { unitOf: () => 0, fcOf: () => 0, addressOf: () => 0, quantityOf: () => 0, isException: () => false },
};

/** How frames of a capture are looked at. */
export interface Glances {
  /** Those of its own protocol. */
  readonly own: Glance;
  /** Those that came over a TCP connection. */
  readonly tcp: Glance;
}

/** The glances for a capture of a protocol. */
export const glancesOf = (protocol: CaptureProtocol): Glances => ({
  own: GLANCES[protocol],
  tcp: GLANCES['modbus-tcp'],
});

/** By what requests over Modbus TCP are told apart. */
export const transactionOf = (bytes: Uint8Array, start: number): number => word(bytes, start);
