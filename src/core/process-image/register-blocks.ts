import type { SheetIndex } from '../sheet/index-sheet';
import { blocksOfSheet, isItemType, type Block } from './blocks';
import { cycleBlocks, type CycleWord } from './cycle-blocks';
import type { NamedItem } from './controller';
import { itemsOf } from './output-block';

const item = ({ parameter, at }: ReturnType<typeof itemsOf>[number]): readonly NamedItem[] =>
  parameter && isItemType(parameter.type)
    ? [{ name: parameter.number, what: parameter.name, type: parameter.type, byte: 2 * at }]
    : [];

/** What goes round at a drive, by its sheet: its process data, and the registers that a controller reads and writes in one go. */
export const blocksOfDrive = (index: SheetIndex): readonly Block[] => [
  ...blocksOfSheet(index),
  ...registerBlocks(index),
];

/** The registers of a drive that a controller writes and reads in one go as blocks, both ways; of a drive without such registers none. */
function registerBlocks(index: SheetIndex): readonly Block[] {
  const made = cycleBlocks(index);
  return (made.ok ? made.value : []).flatMap((blocks): readonly Block[] => {
    if (blocks.kind !== 'registers') return [];
    const block = (first: number, words: readonly CycleWord[], direction: Block['direction']): Block => ({
      id: `sheet-${blocks.outFirst}-${blocks.inFirst}-${direction === 'to-drive' ? 'out' : 'in'}`,
      name: `registers ${first} to ${first + words.length - 1} of ${index.sheet.name}, ${direction === 'to-drive' ? 'to' : 'from'} the drive`,
      direction,
      size: 2 * words.length,
      order: 'big',
      items: itemsOf(words).flatMap(item),
    });
    return [block(blocks.outFirst, blocks.out, 'to-drive'), block(blocks.inFirst, blocks.in, 'from-drive')];
  });
}
