import { BLOCK, FLAG, NOBODY, registersOf, traitsOf } from '../../src/core/capture/frame-block';
import { FrameIndex, type FrameEntry } from '../../src/core/capture/frame-index';

/** An index of these frames, which have to follow each other without holes. */
export function frameIndexOf(entries: Iterable<FrameEntry>): FrameIndex {
  const index = new FrameIndex();
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
