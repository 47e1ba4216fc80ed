import { CIA402_MODE_NUMBER } from '../profile/cia402';
import { MAPPINGS } from '../profile/cia402-mappings';
import { STANDARD_BLOCKS } from './blocks';
import { buildImage, layoutFaults, readImage } from './image';

/** Objects and bytes of process data objects 1 to 7 (IEC 61800-7-301, from memory). */
it.each([
  [1, '6040', 2, '6041', 2],
  [2, '6040 6060', 3, '6041 6061', 3],
  [3, '6040 607A', 6, '6041 6064', 6],
  [4, '6040 60FF', 6, '6041 606C', 6],
  [5, '6040 6071', 4, '6041 6077', 4],
  [6, '6040 6042', 4, '6041 6044', 4],
  [7, '6040 60FE', 6, '6041 60FD', 6],
])('mapping %i: %s in %i bytes, %s in %i', (number, out, outBytes, back, backBytes) => {
  const mapping = MAPPINGS.find((one) => one.number === number)!;
  expect([mapping.out, mapping.in].map((side) => side.map(({ object }) => object).join(' '))).toEqual([out, back]);
  const blocks = STANDARD_BLOCKS.filter(({ id }) => id.startsWith(`cia402-${number}-`));
  expect(blocks.map(({ size }) => size)).toEqual([outBytes, backBytes]);
  for (const { items, size } of blocks) expect(layoutFaults(items, size)).toEqual([]);
});

it('lies low byte first: enable operation, and 100 000 as target position', () => {
  const { items, size, order } = STANDARD_BLOCKS.find(({ id }) => id === 'cia402-3-out')!;
  const values = new Map([
    ['6040', `${0x0f}`],
    ['607A', '100000'],
  ]);
  const { bytes, faults } = buildImage(items, size, order!, values);
  expect(faults).toEqual([]);
  // 100 000 is 0x000186A0.
  expect([...bytes]).toEqual([0x0f, 0x00, 0xa0, 0x86, 0x01, 0x00]);
  expect(readImage(items, size, order!, bytes).values).toEqual(values);
});

it('mode 3, profile velocity, goes round in mapping 2 as one byte', () => {
  const { items, size, order } = STANDARD_BLOCKS.find(({ id }) => id === 'cia402-2-out')!;
  const values = new Map([['6060', `${CIA402_MODE_NUMBER['profile-velocity']}`]]);
  expect([...buildImage(items, size, order!, values).bytes]).toEqual([0, 0, 3]);
});
