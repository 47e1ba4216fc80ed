import { pick, seededRandom } from '../random/random';
import { TELEGRAM_BLOCKS } from './blocks';
import { addressIn, type NamedItem } from './controller';
import { ITEM_TYPES, layoutFaults, type ItemType } from './image';
import { clashesWith, ownBlockOf, placeOfOwn, remarksOn } from './own-block';
import { OwnBlockSchema, type OwnBlock } from './own-block-schema';
import { lengthOf, packed } from './pack';
import * as v from 'valibot';

const TYPES = Object.keys(ITEM_TYPES) as ItemType[];
const item = (name: string, type: ItemType, byte: number, bit?: number): NamedItem => ({
  name,
  what: '',
  type,
  byte,
  ...(bit === undefined ? {} : { bit }),
});
const block = (items: readonly NamedItem[], change: Partial<OwnBlock> = {}): OwnBlock => ({
  ...ownBlockOf(
    { direction: 'from-drive', size: lengthOf(items), items },
    { id: 'a', name: 'A', order: 'big', start: 256, counts: 'bytes' },
  ),
  ...change,
});
const said = (own: OwnBlock, kind: 'wrong' | 'note'): readonly string[] =>
  remarksOn(own).flatMap((remark) => (remark.kind === kind ? [remark.text] : []));

it('every standard telegram becomes a block of one’s own that is right and is kept', () => {
  for (const telegram of TELEGRAM_BLOCKS) {
    const own = ownBlockOf(telegram, { id: 'x', name: telegram.name, order: 'big', start: 0, counts: 'bytes' });
    expect(v.is(OwnBlockSchema, own)).toBe(true);
    expect(said(own, 'wrong')).toEqual([]);
    expect(own.items.map(({ name }) => name)).toEqual(telegram.items.map(({ name }) => name));
  }
});

it('says what makes its values wrong', () => {
  const own = block([item('status', 'uint16', 0), item('speed', 'int32', 1), item('STATUS', 'uint8', 9)], {
    size: 8,
    slot: 6,
  });
  expect(said(own, 'wrong')).toEqual([
    'speed begins in byte 1, where status still lies',
    'STATUS ends in byte 9, the image in byte 7',
    'two items are called STATUS',
    'the slot has 6 bytes, the data 8',
  ]);
});

it('an item may come otherwise than the rest, which a programmer has to know', () => {
  const own = block([item('status', 'uint16', 0), { ...item('place', 'int16', 2), order: 'little' }]);
  expect(said(own, 'note')).toEqual([
    'the bytes of place come otherwise than the rest: low byte first, not high byte first',
  ]);
  expect(v.is(OwnBlockSchema, own)).toBe(true);
  expect(said({ ...own, order: 'little' }, 'note')).toEqual([]);
});

it('says what a programmer has to know: holes, what is left of the slot, widths, what belongs together', () => {
  const own = block([item('status', 'uint16', 0), item('position', 'int32', 6)], { size: 11, slot: 16 });
  expect(said(own, 'wrong')).toEqual([]);
  expect(said(own, 'note')).toEqual([
    'bytes 2 to 5 belong to no item and stay 0',
    'byte 10 belongs to no item and stays 0',
    '5 bytes behind the data are not used and stay 0',
    'position begins in byte 6, no multiple of its 4 bytes: a structure of the controller that is not declared as packed holds it further on',
    'position is longer than a word: a controller that does not copy the block in one go can see half of an old value',
  ]);
  expect(said(block([item('a', 'uint16', 0), item('b', 'uint16', 2)]), 'note')).toEqual([]);
  // Where addresses count values of their own width, the place in the controller decides: as `addressIn` has it.
  const words = block([item('a', 'uint16', 0), item('b', 'uint16', 2)], { start: 101, counts: 'own-width' });
  expect(said(words, 'note')).toEqual([
    'a begins in the controller’s byte 101, no multiple of its 2 bytes: it has no address',
    'b begins in the controller’s byte 103, no multiple of its 2 bytes: it has no address',
  ]);
  for (const own of words.items) expect(addressIn(placeOfOwn(words), own).ok).toBe(false);
});

it('names the bytes that two blocks of the controller share, on the same side only', () => {
  const own = block([item('status', 'uint16', 0)], { start: 100, size: 2, slot: 8 });
  const near = { ...own, id: 'b', name: 'lift', start: 107 };
  const other = { ...near, id: 'c', name: 'fan', direction: 'to-drive' as const };
  const behind = { ...own, id: 'd', name: 'door', start: 108 };
  expect(clashesWith(own, [own, near, other, behind])).toEqual([
    'byte 107 of the controller’s inputs belongs to “lift” too',
  ]);
  expect(clashesWith({ ...own, start: 104 }, [near, behind])).toEqual([
    'bytes 107 to 111 of the controller’s inputs belong to “lift” too',
    'bytes 108 to 111 of the controller’s inputs belong to “door” too',
  ]);
});

it('items that are packed lie in their order without a gap or an overlap', () => {
  const random = seededRandom(20);
  for (let round = 0; round < 300; round++) {
    const items = Array.from({ length: 1 + pick(random, 20) }, (_, i) =>
      item(`i${i}`, TYPES[pick(random, TYPES.length)] ?? 'bool', pick(random, 64), pick(random, 8)),
    );
    const laid = packed(items);
    const size = lengthOf(laid);
    expect(layoutFaults(laid, size)).toEqual([]);
    expect(laid.map(({ name, type }) => [name, type])).toEqual(items.map(({ name, type }) => [name, type]));
    expect(said(block(laid), 'note').filter((text) => text.includes('no item'))).toEqual([]);
    // Bits alone may leave a part of their byte free.
    const bits = items.reduce((sum, { type }) => sum + ITEM_TYPES[type], 0);
    expect(8 * size - bits).toBeLessThan(8 * items.length);
  }
});
