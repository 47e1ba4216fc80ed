import { pick, seededRandom } from '../random/random';
import { IMAGE_ORDERS, ITEM_TYPES, readImage, type ImageOrder, type ItemType } from './image';
import { numberReader } from './numbers';

const TYPES = Object.keys(ITEM_TYPES) as ItemType[];
const ORDERS = Object.keys(IMAGE_ORDERS) as ImageOrder[];

it('tells what the exact reader tells, of any type in any order', () => {
  const random = seededRandom(31);
  for (let i = 0; i < 2000; i++) {
    const type = TYPES[pick(random, TYPES.length)]!;
    const order = ORDERS[pick(random, ORDERS.length)]!;
    const bytes = Uint8Array.from({ length: 12 }, () => pick(random, 256));
    const own = pick(random, 2) === 0 ? {} : { order: ORDERS[pick(random, ORDERS.length)]! };
    const bit = type === 'bool' ? { bit: pick(random, 8) } : {};
    const item = { name: 'x', type, byte: pick(random, 5), ...bit, ...own };
    const exact = Number(readImage([item], 12, order, bytes).values.get('x'));
    expect(numberReader(item, order)(bytes)).toBe(exact);
  }
});

it('what lies beyond the end is no number', () => {
  for (const type of TYPES) expect(numberReader({ name: 'x', type, byte: 4 }, 'big')(new Uint8Array(4))).toBeNaN();
});
