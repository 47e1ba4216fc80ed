import fc from 'fast-check';
import { ITEM_TYPES, type ImageItem, type ItemType } from './image';
import { endOf } from './pack';
import { lanesOf, shifted } from './shift';

const item = (type: ItemType, byte: number, bit?: number): ImageItem => ({
  name: type,
  type,
  byte,
  ...(bit === undefined ? {} : { bit }),
});

it('moves by bytes, a bit by bits over the edge of its byte, and no item out of the block', () => {
  expect(shifted(item('int16', 4), 3, 16)).toMatchObject({ byte: 7 });
  expect(shifted(item('bool', 1, 7), 1, 16)).toMatchObject({ byte: 2, bit: 0 });
  expect(shifted(item('bool', 1, 0), -1, 16)).toMatchObject({ byte: 0, bit: 7 });
  expect(shifted(item('float32', 2), -9, 16)).toMatchObject({ byte: 0 });
  expect(shifted(item('float32', 2), 90, 16)).toMatchObject({ byte: 12 });
  expect(shifted(item('bool', 0, 0), 1000, 2)).toMatchObject({ byte: 1, bit: 7 });
});

it('items in one lane never lie over each other, whatever the block; there and back is the same item', () => {
  const one = fc
    .record({ type: fc.constantFrom(...(Object.keys(ITEM_TYPES) as ItemType[])), byte: fc.nat(20), bit: fc.nat(7) })
    .map(({ type, byte, bit }) => item(type, byte, type === 'bool' ? bit : undefined));
  const begins = ({ byte, bit = 0 }: ImageItem): number => 8 * byte + bit;
  const ends = (own: ImageItem): number => (own.type === 'bool' ? begins(own) + 1 : 8 * endOf(own));
  fc.assert(
    fc.property(fc.array(one, { maxLength: 12 }), fc.nat(5), (items, by) => {
      const lanes = lanesOf(items);
      items.forEach((a, i) =>
        items.forEach((b, k) => {
          if (i < k && lanes.get(a) === lanes.get(b)) expect(ends(a) <= begins(b) || ends(b) <= begins(a)).toBe(true);
        }),
      );
      for (const own of items) expect(shifted(shifted(own, by, 100), -by, 100)).toEqual(own);
    }),
    { seed: 5 },
  );
});
