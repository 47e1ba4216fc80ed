import type { Block as CyclicBlock } from '../../process-image/blocks';
import { blocksOfDrive } from '../../process-image/register-blocks';
import { addressIn, type ControllerPlace } from '../../process-image/controller';
import { ORDER_NAMES } from '../../process-image/order-names';
import { clashesWith, placeOfOwn, remarksOn } from '../../process-image/own-block';
import type { OwnBlock } from '../../process-image/own-block-schema';
import type { Block, Row } from '../document';
import { driveKey, driveName, fromSheet, JOB, type HandoverDrive, type HandoverInput } from '../drive';
import { table } from './lines';

/** Cyclic blocks with the controller's addresses: those that sheets list, from byte 0 on, and those that the user laid out, where they are. */
export const cyclicBlocks = ({ drives, job }: HandoverInput): readonly Block[] => [
  ...drives.flatMap(ofDrive),
  ...(job.blocks ?? []).flatMap((block) => ofUser(block, job.blocks ?? [])),
];

function ofDrive(drive: HandoverDrive): readonly Block[] {
  const { index } = drive;
  if (!index) return [];
  return blocksOfDrive(index).flatMap((block) =>
    table(
      `${driveName(drive)}: ${block.name}, ${block.size} bytes`,
      headOf(block, ', from byte 0'),
      itemRows(
        block,
        { area: block.direction === 'to-drive' ? 'Q' : 'I', start: 0, counts: 'bytes' },
        `${driveKey(drive)} ${block.id}`,
        fromSheet(index),
      ),
    ),
  );
}

/** A block of the user's own, and what is wrong with it or to be known of it. */
function ofUser(block: OwnBlock, all: readonly OwnBlock[]): readonly Block[] {
  const { id, name, size, slot, order } = block;
  const held = slot === undefined ? '' : ` in a slot of ${slot}`;
  const remarks = [...remarksOn(block), ...clashesWith(block, all).map((text) => ({ kind: 'wrong', text }) as const)];
  return [
    ...table(
      `${name}: ${size} bytes${held}, ${ORDER_NAMES[order]}`,
      headOf(block, ''),
      itemRows(block, placeOfOwn(block), id, JOB),
    ),
    ...table(
      `${name}: to be known of it`,
      ['what'],
      remarks.map(({ kind, text }, i): Row => ({
        key: `cyclic remark ${id} ${i}`,
        cells: [text],
        from: JOB,
        ...(kind === 'wrong' ? { mark: 'bad' } : {}),
      })),
    ),
  ];
}

const headOf = ({ direction }: Pick<CyclicBlock, 'direction'>, from: string): readonly string[] => [
  'item',
  'what',
  'type',
  'byte',
  `${direction === 'to-drive' ? 'output' : 'input'}${from}`,
];

const itemRows = (
  { items }: Pick<CyclicBlock, 'items'>,
  place: ControllerPlace,
  key: string,
  from: Row['from'],
): readonly Row[] => {
  const seen = new Map<string, number>();
  return items.map((item) => {
    const address = addressIn(place, item);
    const count = (seen.get(item.name) ?? 0) + 1;
    seen.set(item.name, count);
    return {
      // The same at every visit, wherever the item lies then.
      key: `cyclic ${key} ${item.name}${count === 1 ? '' : ` ${count}`}`,
      cells: [
        item.name,
        item.what,
        item.type,
        item.type === 'bool' ? `${item.byte}.${item.bit ?? 0}` : `${item.byte}`,
        address.ok ? address.value : address.error,
      ],
      from,
    };
  });
};
