import type { ModbusTable } from './tables';
import { notationsOf, readAddress, type NotationForm } from './notation';

// References of 5 and 6 digits count from 1; 0 coils, 1 discrete inputs, 3 input registers, 4 holding registers: common practice, no source.
it.each<[ModbusTable, number, string | null, string, string, string]>([
  ['holding-register', 707, '40708', '400708', '708', '0x02C3'],
  ['holding-register', 0, '40001', '400001', '1', '0x0000'],
  ['holding-register', 9998, '49999', '409999', '9999', '0x270E'],
  ['holding-register', 9999, null, '410000', '10000', '0x270F'],
  ['holding-register', 65535, null, '465536', '65536', '0xFFFF'],
  ['input-register', 4, '30005', '300005', '5', '0x0004'],
  ['discrete-input', 196, '10197', '100197', '197', '0x00C4'],
  ['coil', 19, '00020', '000020', '20', '0x0013'],
])('%s %i in every notation', (table, address, reference5, reference6, fromOne, hex) => {
  expect(notationsOf(table, address)).toEqual({ reference5, reference6, decimal: `${address}`, fromOne, hex });
});

const H = 'holding-register';
it.each<[string, readonly [ModbusTable | null, number, NotationForm][]]>([
  [
    '40108',
    [
      [H, 107, 'reference-5'],
      [null, 40108, 'from-0'],
      [null, 40107, 'from-1'],
    ],
  ],
  ['400001', [[H, 0, 'reference-6']]],
  ['465536', [[H, 65535, 'reference-6']]],
  ['465537', []],
  [
    '000020',
    [
      ['coil', 19, 'reference-6'],
      [null, 20, 'from-0'],
      [null, 19, 'from-1'],
    ],
  ],
  [
    '30005',
    [
      ['input-register', 4, 'reference-5'],
      [null, 30005, 'from-0'],
      [null, 30004, 'from-1'],
    ],
  ],
  ['4x0108', [[H, 107, 'prefixed']]],
  ['4:108', [[H, 107, 'prefixed']]],
  ['1x0197', [['discrete-input', 196, 'prefixed']]],
  ['0:20', [['coil', 19, 'prefixed']]],
  ['0x006B', [[null, 107, 'hex']]],
  ['0x0108', [[null, 0x108, 'hex']]],
  ['00 6B h', [[null, 107, 'hex']]],
  ['16#6B', [[null, 107, 'hex']]],
  ['$6B', [[null, 107, 'hex']]],
  ['&H6B', [[null, 107, 'hex']]],
  ['WORD#16#006B', [[null, 107, 'hex']]],
  ['006B', [[null, 107, 'hex']]],
  ['%MW107', [[H, 107, 'word']]],
  [
    '107',
    [
      [null, 107, 'from-0'],
      [null, 106, 'from-1'],
    ],
  ],
  ['0', [[null, 0, 'from-0']]],
  ['70000', []],
  ['0x10000', []],
  ['run', []],
  ['', []],
])('%j may mean', (text, readings) => {
  expect(readAddress(text).map(({ table, address, form }) => [table, address, form])).toEqual(readings);
});

it('a table that is known leaves the references of others out', () => {
  expect(readAddress('40108', 'coil')).toEqual([
    { table: 'coil', address: 40108, form: 'from-0' },
    { table: 'coil', address: 40107, form: 'from-1' },
  ]);
});

it('every notation of every place is read back as that place', () => {
  for (const table of ['coil', 'discrete-input', 'input-register', 'holding-register'] as const)
    for (let address = 0; address < 65536; address += 97) {
      const { reference5, reference6, hex, decimal } = notationsOf(table, address);
      for (const text of [reference5, reference6, hex, decimal])
        if (text !== null) expect(readAddress(text, table).map((reading) => reading.address)).toContain(address);
    }
});
