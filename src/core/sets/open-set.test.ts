import { emptySheet } from '../sheet/empty-sheet';
import { indexSheet } from '../sheet/index-sheet';
import { openSet } from './open-set';
import { wordsOfRaw, type Said } from './said';
import { setFileOf } from './set-file';

const INDEX = indexSheet({
  ...emptySheet('own', 'Own'),
  parameters: [
    {
      number: '1',
      name: 'ramp up',
      type: 'uint16',
      unit: 's',
      scale: { kind: 'resolution', value: '0.1' },
      at: [{ kind: 'register', table: 'holding-register', address: 1 }],
    },
    {
      number: '2',
      name: 'type',
      type: 'uint16',
      role: 'type-code',
      at: [{ kind: 'register', table: 'holding-register', address: 2 }],
    },
  ],
});
const value = (number: string, raw: number): [string, Said] => [
  number,
  { kind: 'value', words: wordsOfRaw(INDEX.byNumber.get(number)!, raw)!, atMs: null },
];
const opened = (text: string) => {
  const read = openSet(INDEX, text);
  if (!read.ok) throw new Error(read.error);
  return read.value;
};

it('a set that was exported comes back whole, with who it was and when', () => {
  const said = new Map([value('1', 45), value('2', 7)]);
  const file = setFileOf(INDEX, said, { name: 'spring', at: '2026-03-02T08:00:00Z' });
  const { name, atMs, sheet, identity, said: again, missing, unread } = opened(JSON.stringify(file));
  expect([name, atMs, sheet?.slug, missing, unread]).toEqual(['spring', Date.UTC(2026, 2, 2, 8), 'own', [], []]);
  expect(identity).toEqual({ 'type-code': '7' });
  expect(again).toEqual(new Map([...said].map(([number, one]) => [number, { ...one, atMs }])));
});

it('what this sheet does not have is named, and kept', () => {
  const file = setFileOf(INDEX, new Map([value('1', 45)]), { name: 'other', at: '2026-03-02T08:00:00Z' });
  const more = { ...file, values: [...file.values, { number: '77', name: 'brake delay', words: [3] }] };
  const { missing, said } = opened(JSON.stringify(more));
  expect(missing).toEqual([{ number: '77', name: 'brake delay' }]);
  expect(said.get('77')).toMatchObject({ kind: 'value', words: [3] });
});

it('a spreadsheet has no name and no time; a line that gave nothing is named by its place in the file, blank ones counted', () => {
  const { name, atMs, said, unread } = opened('\n\nnumber;value\n1;4,5 s\n\n;;\n9;1\n');
  expect([name, atMs]).toEqual([null, null]);
  expect(said.get('1')).toMatchObject({ words: [45] });
  expect(unread).toEqual([{ line: 7, text: '9;1', why: 'the sheet has no entry 9' }]);
});

it.each([
  ['{"format": 1, "kind": "job"}', /kind/],
  ['{ not json', /./],
  ['', /first line must name the columns/],
  ['a,b\n1,2', /first line must name the columns/],
])('%j is no set, and says why', (text, why) => {
  const read = openSet(INDEX, text);
  expect(read.ok ? '' : read.error).toMatch(why);
});
