import type { Direction } from '../direction';
import { BLOCK, FLAG, registersOf, traitsOf } from './frame-block';
import type { CaptureProtocol } from './capture-plan';
import { FrameIndex } from './frame-index';
import { FOUND, type Finds } from './frame-sink';
import { glancesOf, transactionOf, type Glances } from './glance';
import { StatisticsTally, type Statistics } from './statistics';

/** A request that stands open: its place in the index, and what tells it from another. */
interface Open {
  readonly place: number;
  readonly timeUs: number;
  readonly unit: number;
  readonly fc: number;
  /** `registersOf` it. */
  readonly registers: number;
  readonly length: number;
}

/** Where a frame comes from: its connection (0 for a serial line), and whether it speaks Modbus TCP and not the capture's own protocol. */
export interface Origin {
  readonly connection: number;
  readonly tcp: boolean;
}

export const SERIAL_LINE: Origin = { connection: 0, tcp: false };

/** An exchange of a connection: its number, counted from 1, above the 16 bits of the transaction. */
const conversationOf = (connection: number, transaction: number): number => connection * 2 ** 16 + transaction;

/** Makes index and statistics from what a splitter finds. `onBytes` is lent the bytes where they are kept apart from their source. */
export class CaptureBuilder {
  readonly index: FrameIndex;
  readonly #tally = new StatisticsTally();
  readonly #glances: Glances;
  readonly #onBytes: ((bytes: Uint8Array) => void) | null;
  #kept = 0;
  /** The request that stands open on the serial line, and those of connections by `conversationOf`. */
  #lineOpen: Open | null = null;
  readonly #openOver = new Map<number, Open>();

  constructor(protocol: CaptureProtocol, onBytes: ((bytes: Uint8Array) => void) | null) {
    this.#glances = glancesOf(protocol);
    this.index = new FrameIndex(this.#glances);
    this.#onBytes = onBytes;
  }

  /**
   * Takes what was found in `bytes`, which begin at `offset` of their source. `known` is the direction where the source tells it, whatever the
   * frames look like. Block by block, so that its columns are at hand for each frame.
   */
  take(
    offset: number,
    bytes: Uint8Array,
    finds: Finds,
    timeUs: number,
    known: Direction | null,
    origin: Origin = SERIAL_LINE,
  ): void {
    if (finds.count > 0) this.#tally.at(timeUs);
    for (let from = 0; from < finds.count;) {
      const until = Math.min(finds.count, from + BLOCK - (this.index.count % BLOCK));
      this.#fill(offset, bytes, finds, from, until, timeUs, known, origin);
      from = until;
    }
  }

  #fill(
    offset: number,
    bytes: Uint8Array,
    { starts, kinds }: Finds,
    from: number,
    until: number,
    timeUs: number,
    known: Direction | null,
    { tcp, connection }: Origin,
  ): void {
    const { unitOf, fcOf, addressOf, quantityOf, isException } = tcp ? this.#glances.tcp : this.#glances.own;
    const onBytes = this.#onBytes;
    const tally = this.#tally;
    const source = tcp ? FLAG.tcp : 0;
    const damagedTraits = traitsOf(0, 0, source | FLAG.junk | FLAG.fault);
    let place = this.index.count;
    const block = this.index.room(onBytes ? this.#kept : offset + (starts[from] as number));
    const own = offset - block.base;
    const first = place % BLOCK;
    let lineOpen = this.#lineOpen;
    let damaged = 0;
    let damagedBytes = 0;
    if (!Number.isNaN(timeUs)) block.timed.fill(timeUs, first, first + until - from);
    const { offset: offsets, traits, registers: registersOfAll } = block;
    const { junk } = FOUND;
    let start = starts[from] as number;
    let end = start;
    for (let i = from, at = first; i < until; i++, at++, place++, start = end) {
      end = starts[i + 1] as number;
      if (onBytes) {
        offsets[at] = this.#kept - block.base;
        onBytes(bytes.subarray(start, end));
        this.#kept += end - start;
      } else offsets[at] = own + start;
      if (kinds[i] === junk) {
        traits[at] = damagedTraits;
        damaged++;
        damagedBytes += end - start;
        continue;
      }
      const isResponse = known === null ? kinds[i] === FOUND.response : known === 'response';
      const unit = unitOf(bytes, start, end);
      const fc = fcOf(bytes, start, end);
      // Requests over Modbus TCP are told apart by their transaction; serial bytes of a connection are a line of their own.
      const conversation = tcp ? conversationOf(connection, transactionOf(bytes, start)) : -connection;
      const open = conversation !== 0 ? (this.#openOver.get(conversation) ?? null) : lineOpen;
      if (isResponse) {
        const refused = isException(bytes, start);
        traits[at] = traitsOf(unit, fc, source | FLAG.response | (refused ? FLAG.exception : 0));
        if (open === null || open.unit !== unit) {
          tally.response(unit, refused, NaN);
          continue;
        }
        tally.response(unit, refused, timeUs - open.timeUs);
        block.partner[at] = open.place;
        registersOfAll[at] = open.registers;
        this.index.tie(open.place, place);
        if (conversation !== 0) this.#openOver.delete(conversation);
        else lineOpen = null;
        continue;
      }
      const registers = registersOf(addressOf(bytes, start, end), quantityOf(bytes, start, end));
      registersOfAll[at] = registers;
      traits[at] = traitsOf(unit, fc, source);
      tally.request(unit);
      const asked: Open = { place, timeUs, unit, fc, registers, length: end - start };
      if (open) tally.unanswered(open.unit, sameRequest(open, asked));
      if (conversation !== 0) this.#openOver.set(conversation, asked);
      else lineOpen = asked;
    }
    this.#lineOpen = lineOpen;
    this.index.grow(until - from, onBytes ? this.#kept : offset + (starts[until] as number));
    tally.counted(until - from - damaged, damaged, damagedBytes);
  }

  /** What still stands open at the end was not answered either. */
  statistics(): Statistics {
    for (const { unit } of [...(this.#lineOpen ? [this.#lineOpen] : []), ...this.#openOver.values()])
      this.#tally.unanswered(unit, false);
    this.#lineOpen = null;
    this.#openOver.clear();
    return this.#tally.result();
  }
}

const sameRequest = (a: Open, b: Open): boolean =>
  a.unit === b.unit && a.fc === b.fc && a.registers === b.registers && a.length === b.length;
