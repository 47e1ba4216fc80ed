import { pick, seededRandom } from '../random/random';
import { declarationsOf, type NamedItem } from './controller';
import { ITEM_TYPES, type ItemType } from './image';
import { itemsOfText } from './items-of-text';
import { MOST_ITEMS } from './own-block-schema';
import { packed } from './pack';

const TYPES = Object.keys(ITEM_TYPES) as ItemType[];

it('reads the declarations that the bench writes, for random blocks and both ways to count addresses', () => {
  const random = seededRandom(61131);
  for (let round = 0; round < 200; round++) {
    const items = packed(
      Array.from({ length: 1 + pick(random, 12) }, (_, i): NamedItem => ({
        name: `item_${i}`,
        what: `what ${i}`,
        type: TYPES[pick(random, TYPES.length)] ?? 'bool',
        byte: 0,
      })),
    );
    const counts = pick(random, 2) === 0 ? 'bytes' : 'own-width';
    const place = { area: pick(random, 2) === 0 ? 'I' : 'Q', start: 8 * pick(random, 100), counts } as const;
    const declared = declarationsOf(items, place);
    // Where addresses count values of their own width, not every place has one.
    if (!declared.ok) continue;
    expect(itemsOfText(declared.value, counts)).toEqual({ items, start: place.start, area: place.area, unread: [] });
  }
});

/** Forms of directly represented variables as IEC 61131-3 (2003), table 15, shows them, from memory: `%QX75`, `%Q75`, `%IW215`, `%QB7`. */
it.each([
  ['lamp AT %QX75.0 : BOOL;', 'bool', 75],
  ['lamp AT %Q75.0 : BOOL;', 'bool', 75],
  ['speed AT %IW215 : INT;', 'int16', 215],
  ['mode AT %QB7 : SINT := 6; // a mode', 'int8', 7],
  ['place at %id48 : dint; (* turns *)', 'int32', 48],
] as const)('%s', (text, type, byte) => {
  const { items, start, unread } = itemsOfText(text, 'bytes');
  expect(unread).toEqual([]);
  expect(items).toMatchObject([{ type, byte: 0 }]);
  expect(start).toBe(byte);
});

it('reads rows of a table: places in the block, in the controller’s memory, or one behind the other', () => {
  const table =
    'name;type;byte;meaning;100 %\nready;BOOL;0.3;ready to run\nspeed;INT;2;of full;4000h\nnow;DINT;;mm\nlast;WORD';
  expect(itemsOfText(table, 'bytes')).toEqual({
    items: [
      { name: 'ready', what: 'ready to run', type: 'bool', byte: 0, bit: 3 },
      { name: 'speed', what: 'of full', type: 'int16', byte: 2, full: 0x4000 },
      { name: 'now', what: 'mm', type: 'int32', byte: 4 },
      { name: 'last', what: '', type: 'uint16', byte: 8 },
    ],
    start: null,
    area: null,
    unread: [],
  });
  expect(itemsOfText('status\tWORD\t%IW50\nspeed\tINT\tIW51', 'own-width')).toMatchObject({
    items: [{ byte: 0 }, { byte: 2 }],
    start: 100,
    area: 'I',
  });
});

it('says of every line that is none why, and loses none', () => {
  const { items, unread } = itemsOfText(
    [
      'VAR_GLOBAL',
      'a AT %IW4 : INT;',
      'b AT %QW6 : INT;',
      'c AT %IW8 : STRING;',
      '; WORD; 3',
      'd; INTEGER; 3',
      'e; INT; third',
      'f; INT; 2; ; none',
      'some words',
      'g; LREAL; 1439',
      'END_VAR',
    ].join('\n'),
    'bytes',
  );
  expect(items.map(({ name }) => name)).toEqual(['a']);
  expect(unread).toEqual([
    { line: 3, text: 'b', why: 'it is on the other side: %Q among %I' },
    { line: 4, text: 'c AT %IW8 : STRING;', why: 'STRING is no elementary type of IEC 61131-3 with a width' },
    { line: 5, text: '; WORD; 3', why: 'its first cell, the name, is empty' },
    { line: 6, text: 'd; INTEGER; 3', why: '“INTEGER”, its second cell, is no type' },
    {
      line: 7,
      text: 'e; INT; third',
      why: '“third”, its third cell, is no byte such as 4 or 4.3, and no address such as %QW256',
    },
    { line: 8, text: 'f; INT; 2; ; none', why: '“none”, its fifth cell, is no count of 100 %' },
    { line: 9, text: 'some words', why: 'no declaration, and no cells between tabs, semicolons or commas' },
    { line: 10, text: 'g', why: 'it ends behind byte 1439, where every block ends' },
  ]);
});

it('takes no more items than a block has, and any text without throwing', () => {
  const many = itemsOfText('x;INT\n'.repeat(MOST_ITEMS + 3), 'bytes');
  expect(many.items).toHaveLength(MOST_ITEMS);
  expect(many.unread).toHaveLength(4 - 1);
  // 100,000 blanks, which an expression that may begin or end in them goes through 5,000,000,000 times.
  expect(itemsOfText(`${' '.repeat(100_000)}x`, 'bytes').unread).toHaveLength(1);
  expect(itemsOfText(`x${' '.repeat(100_000)}y`, 'bytes').unread).toEqual([
    { line: 1, text: `x${' '.repeat(199)}`, why: 'a row has 2000 characters at most' },
  ]);
  expect(itemsOfText('\tWORD\t3', 'bytes').unread).toMatchObject([{ why: 'its first cell, the name, is empty' }]);
  const random = seededRandom(3);
  const LETTERS = 'aAT %IQWXD:;0123.\t,(*)/\n';
  for (let round = 0; round < 500; round++) {
    const text = Array.from({ length: pick(random, 80) }, () => LETTERS[pick(random, LETTERS.length)]).join('');
    const { items, unread } = itemsOfText(text, 'bytes');
    expect(items.length + unread.length).toBeLessThanOrEqual(text.split('\n').length);
  }
});
