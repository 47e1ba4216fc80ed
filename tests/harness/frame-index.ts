import { BLOCK, FLAG, NOBODY, registersOf, traitsOf } from '../../src/core/capture/frame-block';
import { FrameIndex, type FrameEntry, type ReadAgain } from '../../src/core/capture/frame-index';
import type { Glance } from '../../src/core/capture/glance';
import type { FrameTraits } from '../../src/core/capture/kinds';

/** A frame with all that is known of it. */
export type WholeEntry = FrameEntry & FrameTraits;

/** A protocol whose frames say nothing but what an index keeps of them. */
const PLAIN: Glance = {
  unitOf: (bytes, start) => bytes[start] ?? NaN,
  fcOf: (bytes, start) => bytes[start + 1] ?? NaN,
  addressOf: (bytes, start) => (bytes[start + 2] ?? NaN) + 256 * (bytes[start + 3] ?? NaN),
  quantityOf: (bytes, start) => (bytes[start + 4] ?? NaN) + 256 * (bytes[start + 5] ?? NaN),
  isException: () => false,
};
/** The same frames behind a head, as over TCP. */
const behind = (head: number): Glance => ({
  unitOf: (bytes, start, end) => PLAIN.unitOf(bytes, start + head, end),
  fcOf: (bytes, start, end) => PLAIN.fcOf(bytes, start + head, end),
  addressOf: (bytes, start, end) => PLAIN.addressOf(bytes, start + head, end),
  quantityOf: (bytes, start, end) => PLAIN.quantityOf(bytes, start + head, end),
  isException: () => false,
});
const HEAD = 2;

/** The bytes of frames of that protocol, which follow each other without holes; an answer does not name its registers. */
export function bytesOfEntries(entries: readonly WholeEntry[]): ReadAgain {
  const began = entries[0]?.offset ?? 0;
  const bytes = new Uint8Array(entries.reduce((sum, { length }) => sum + length, 0));
  for (const { offset, direction, tcp, unit, fc, address, quantity } of entries) {
    if (direction === 'junk') continue;
    const registers = direction === 'request' ? [address & 255, address >> 8, quantity & 255, quantity >> 8] : [];
    bytes.set([unit, fc, ...registers], offset - began + (tcp ? HEAD : 0));
  }
  return (from, until) => Promise.resolve(bytes.slice(from - began, until - began));
}

/** An index of these frames, which have to follow each other without holes; `kindsAtLeast` as it has it. */
export function frameIndexOf(entries: Iterable<WholeEntry>, kindsAtLeast?: number): FrameIndex {
  const index = new FrameIndex({ own: PLAIN, tcp: behind(HEAD) }, kindsAtLeast);
  for (const entry of entries) {
    const block = index.room(entry.offset);
    const at = index.count % BLOCK;
    block.offset[at] = entry.offset - block.base;
    if (!Number.isNaN(entry.timeUs)) block.timed[at] = entry.timeUs;
    block.partner[at] = entry.partner < 0 ? NOBODY : entry.partner;
    block.registers[at] = registersOf(entry.address, entry.quantity);
    const flags =
      (entry.direction === 'response' ? FLAG.response : 0) |
      (entry.direction === 'junk' ? FLAG.junk : 0) |
      (entry.fault ? FLAG.fault : 0) |
      (entry.exception ? FLAG.exception : 0) |
      (entry.tcp ? FLAG.tcp : 0);
    block.traits[at] = traitsOf(entry.unit, entry.fc, flags);
    index.grow(1, entry.offset + entry.length);
  }
  return index;
}

/** Every frame of an index, whole. */
export async function wholeEntries(index: FrameIndex, readAgain: ReadAgain): Promise<readonly WholeEntry[]> {
  const entries: WholeEntry[] = [];
  for await (const {
    block: { size, kinds, ids },
    first,
  } of index.blocks(readAgain))
    for (let i = 0; i < size; i++) {
      const entry = index.at(first + i);
      const id = ids[i] ?? NaN;
      const words = {
        unit: kinds.unit(id),
        fc: kinds.fc(id),
        address: kinds.address(id),
        quantity: kinds.quantity(id),
      };
      if (entry) entries.push({ ...words, ...entry });
    }
  return entries;
}

/** For an index that has to keep all: nothing may be read again. */
export const nothingAgain: ReadAgain = (from, until) =>
  Promise.reject(new Error(`bytes ${from} to ${until} were asked for again`));
