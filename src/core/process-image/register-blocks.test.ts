import { shippedIndex } from '../../../tests/harness/sheets';
import { addressIn } from './controller';
import { layoutFaults } from './image';
import { blocksOfDrive } from './register-blocks';

it('the registers that a controller reaches in one go are blocks of a drive, its lists too', () => {
  const blocks = blocksOfDrive(shippedIndex('curlew'));
  expect(blocks.map(({ name, size }) => `${name}: ${size}`)).toEqual([
    'registers 2098 to 2102 of Curlew, to the drive: 10',
    'registers 2088 to 2094 of Curlew, from the drive: 14',
    'registers 3000 to 3005 of Curlew, to the drive: 12',
    'registers 3020 to 3026 of Curlew, from the drive: 14',
  ]);
  for (const { items, size } of blocks) expect(layoutFaults(items, size)).toEqual([]);
  const list = blocks[3]!;
  const position = list.items.find(({ name }) => name === '42')!;
  // IEC 61131-3: a double word of inputs at byte 100 + 4.
  expect(addressIn({ area: 'I', start: 100, counts: 'bytes' }, position)).toEqual({ ok: true, value: '%ID104' });
});

it('a drive with process data has those; a drive of commands has none', () => {
  expect(blocksOfDrive(shippedIndex('dunlin')).map(({ id }) => id)).toEqual(['sheet-out', 'sheet-in']);
  expect(blocksOfDrive(shippedIndex('pipit'))).toEqual([]);
});
