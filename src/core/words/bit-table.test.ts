import fc from 'fast-check';
import { shippedIndex } from '../../../tests/harness/sheets';
import { bitTableText, readBitTable } from './bit-table';

it.each<[string, string]>([
  ['tabs', '0\trun\truns\tstands'],
  ['semicolons', '0; run; runs; stands'],
  ['bars', '| 0 | run | runs | stands |'],
  ['wide blanks', 'Bit 0   run   runs   stands'],
  ['commas', 'b0, run, runs, stands'],
  ['a heading', 'Bit\tName\tMeaning\tElse\n0\trun\truns\tstands'],
])('a line parted by %s', (_, text) => {
  expect(readBitTable(text, 16)).toEqual({
    bits: [{ bit: 0, name: 'run', one: 'runs', zero: 'stands' }],
    fields: [],
    faults: [],
  });
});

it('understands both meanings in one cell, edges, active-low bits and fields', () => {
  const table = readBitTable(
    [
      '0\ton\t1 = on, 0 = off',
      '2\tquick stop\tactive low',
      '7\treset\tacts on the rising edge',
      '4-6\tpreset\t0: none, 1: slow, 7: fast',
      '9\treserved',
      '',
    ].join('\n'),
    16,
  );
  expect(table.bits).toEqual([
    { bit: 0, name: 'on', one: 'on', zero: 'off' },
    { bit: 2, name: 'quick stop', one: 'active low', zero: 'not quick stop', active: 'low' },
    { bit: 7, name: 'reset', one: 'acts on the rising edge', zero: 'not reset', acts: 'rise' },
  ]);
  expect(table.fields).toEqual([
    {
      from: 4,
      width: 3,
      name: 'preset',
      values: [
        { value: 0, name: 'none' },
        { value: 1, name: 'slow' },
        { value: 7, name: 'fast' },
      ],
    },
  ]);
  expect(table.faults).toEqual([]);
});

it.each<[string, string, number, number, RegExp]>([
  ['no number', '0\trun\nrun\tit runs', 6, 17, /“run” is no bit number/],
  ['no name', '3', 0, 1, /bit 3 has no name/],
  ['a bit beyond the word', '16\tx\ty', 0, 6, /bit 16 does not exist in a word of 16 bits/],
  ['a bit twice', '1\ta\tb\n1\tc\td', 6, 11, /bit 1 of c is also a/],
  ['a field over a bit', '5\ta\tb\n4-6\tc\td', 6, 13, /bit 5 of c is also a/],
])('%s is named at its characters', (_, text, start, end, why) => {
  const { faults } = readBitTable(text, 16);
  expect(faults).toHaveLength(1);
  expect(faults[0]).toMatchObject({ start, end });
  expect(faults[0]?.text).toMatch(why);
});

it('reads back what it writes, for every bit of the shipped sheets', () => {
  for (const id of ['tern', 'wren', 'dunlin', 'curlew']) {
    const { control, status } = shippedIndex(id).words!;
    for (const { bits, fields } of [control, status]) {
      const again = readBitTable(bitTableText(bits, fields), 16);
      expect(again.faults).toEqual([]);
      expect(again.bits.map(({ bit, name }) => [bit, name])).toEqual(bits.map(({ bit, name }) => [bit, name]));
    }
  }
});

it('never throws, and every fault lies within the text', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 80 }), (text) => {
      for (const { start, end } of readBitTable(text, 16).faults) {
        expect(start).toBeLessThanOrEqual(end);
        expect(end).toBeLessThanOrEqual(text.length);
      }
    }),
    { seed: 8, numRuns: 1000 },
  );
});

it('a row of blanks without end is a fault and no wait', () => {
  for (const filler of [' ', '\t', ' ,', ' |', ';']) {
    const text = `3 run${filler.repeat(60_000)}x`;
    const { bits, faults } = readBitTable(text, 16);
    expect([bits.length, faults.length]).toEqual([0, 1]);
    expect(faults[0]?.text).toMatch(/2000 at most are read/);
  }
}, 2_000);

it('a whole book is not read for a word of bits, and that is said', () => {
  const { bits, faults } = readBitTable(`0\trun\n${'no row\n'.repeat(50_000)}1 enable\n`, 16);
  expect(bits.map(({ bit }) => bit)).toEqual([0]);
  expect(faults).toHaveLength(300);
  expect(faults.at(-1)).toMatchObject({ code: 'too-long', text: expect.stringContaining('nothing is read') as string });
});
