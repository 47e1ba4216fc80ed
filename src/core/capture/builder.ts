import type { Direction } from '../direction';
import { EXCEPTION_BIT } from '../modbus/layout';
import { FrameIndex, type FrameEntry } from './frame-index';
import { StatisticsTally, type Statistics } from './statistics';

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

/** The glance of each protocol; ASCII reads its characters in pairs. */
export const GLANCES: Readonly<Record<'modbus-rtu' | 'modbus-ascii' | 'modbus-tcp' | 'uss' | 'dialect', Glance>> = {
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

/** A request that stands open: its place in the index, and what tells it from another. */
interface Open extends Pick<FrameEntry, 'timeUs' | 'unit' | 'fc' | 'address' | 'quantity' | 'length'> {
  readonly place: number;
}

/** Where a frame comes from: its connection (0 for a serial line), and what it speaks if that is not the capture's own protocol. */
export interface Origin {
  readonly connection: number;
  readonly tcp: boolean;
}

export const SERIAL_LINE: Origin = { connection: 0, tcp: false };

/** Makes index and statistics from what a splitter finds. `onBytes` gets the bytes where they are kept apart from their source. */
export class CaptureBuilder {
  readonly index = new FrameIndex();
  readonly #tally = new StatisticsTally();
  readonly #glance: Glance;
  readonly #onBytes: ((bytes: Uint8Array) => void) | null;
  #kept = 0;
  /** The request that stands open on the serial line, and those of TCP by connection and transaction. */
  #lineOpen: Open | null = null;
  readonly #tcpOpen = new Map<string, Open>();

  constructor(glance: Glance, onBytes: ((bytes: Uint8Array) => void) | null) {
    this.#glance = glance;
    this.#onBytes = onBytes;
  }

  frame(
    offset: number,
    bytes: Uint8Array,
    start: number,
    end: number,
    direction: Direction,
    timeUs: number,
    origin: Origin = SERIAL_LINE,
  ): void {
    const glance = origin.tcp ? GLANCES['modbus-tcp'] : this.#glance;
    const isResponse = direction === 'response';
    const unit = glance.unitOf(bytes, start, end);
    const conversation = origin.tcp ? `${origin.connection} ${word(bytes, start)}` : null;
    const open = conversation === null ? this.#lineOpen : (this.#tcpOpen.get(conversation) ?? null);
    const answered = isResponse && open !== null && open.unit === unit ? open : null;
    const length = end - start;
    const fc = glance.fcOf(bytes, start, end);
    const exception = isResponse && glance.isException(bytes, start);
    const address = isResponse ? 0 : glance.addressOf(bytes, start, end);
    const quantity = isResponse ? 0 : glance.quantityOf(bytes, start, end);
    const place = this.index.add({
      offset: this.#place(offset, bytes, start, end),
      length,
      timeUs,
      unit,
      fc,
      direction,
      fault: false,
      exception,
      tcp: origin.tcp,
      address,
      quantity,
      partner: answered ? answered.place : -1,
    });
    this.#tally.frame(unit, direction, exception, timeUs, answered ? answered.timeUs : NaN);
    if (answered) {
      this.index.tie(answered.place, place);
      if (conversation === null) this.#lineOpen = null;
      else this.#tcpOpen.delete(conversation);
    }
    if (isResponse) return;
    const asked: Open = { place, timeUs, unit, fc, address, quantity, length };
    if (open) this.#tally.unanswered(open.unit, sameRequest(open, asked));
    if (conversation === null) this.#lineOpen = asked;
    else this.#tcpOpen.set(conversation, asked);
  }

  /** Bytes that belong to no frame. */
  junk(offset: number, bytes: Uint8Array, start: number, end: number, timeUs: number, tcp = false): void {
    // A longer stretch is told in pieces that the index can hold.
    for (let at = start; at < end; at += LONGEST_PIECE) {
      const until = Math.min(end, at + LONGEST_PIECE);
      this.index.add({
        offset: this.#place(offset + at - start, bytes, at, until),
        length: until - at,
        timeUs,
        unit: 0,
        fc: 0,
        direction: 'junk',
        fault: true,
        exception: false,
        tcp,
        address: 0,
        quantity: 0,
        partner: -1,
      });
      this.#tally.junk(until - at, timeUs);
    }
  }

  #place(offset: number, bytes: Uint8Array, start: number, end: number): number {
    if (!this.#onBytes) return offset;
    const place = this.#kept;
    this.#onBytes(bytes.slice(start, end));
    this.#kept += end - start;
    return place;
  }

  /** What still stands open at the end was not answered either. */
  statistics(): Statistics {
    for (const { unit } of [...(this.#lineOpen ? [this.#lineOpen] : []), ...this.#tcpOpen.values()])
      this.#tally.unanswered(unit, false);
    this.#lineOpen = null;
    this.#tcpOpen.clear();
    return this.#tally.result();
  }
}

const LONGEST_PIECE = 0xffff;

const sameRequest = (a: Open, b: Open): boolean =>
  a.unit === b.unit && a.fc === b.fc && a.address === b.address && a.quantity === b.quantity && a.length === b.length;
