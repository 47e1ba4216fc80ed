import fc from 'fast-check';
import { bytesToHex, hexToBytes } from '../bytes/hex';
import {
  buildImage,
  bytePlaces,
  IMAGE_ORDERS,
  ITEM_TYPES,
  layoutFaults,
  readImage,
  type ImageItem,
  type ImageOrder,
  type ItemType,
} from './image';

const bytes = (hex: string): Uint8Array => {
  const read = hexToBytes(hex);
  if (!read.ok) throw new Error(read.error.text);
  return read.value;
};

/** PROFIdrive standard telegram 1 (IEC 61800-7-203, from memory): STW1 and the 16-bit setpoint, high byte first; 0x4000 is 100 %. */
const TELEGRAM_1: readonly ImageItem[] = [
  { name: 'STW1', type: 'uint16', byte: 0 },
  { name: 'NSOLL_A', type: 'int16', byte: 2 },
];

it.each<[readonly ImageItem[], ImageOrder, string, Readonly<Record<string, string>>]>([
  [TELEGRAM_1, 'big', '047f4000', { STW1: '1151', NSOLL_A: '16384' }],
  [TELEGRAM_1, 'big', '047e e000', { STW1: '1150', NSOLL_A: '-8192' }],
  [[{ name: 'p', type: 'int32', byte: 0 }], 'big', '12345678', { p: '305419896' }],
  [[{ name: 'p', type: 'int32', byte: 0 }], 'little', '78563412', { p: '305419896' }],
  [[{ name: 'p', type: 'int32', byte: 0 }], 'big-swapped-words', '56781234', { p: '305419896' }],
  [[{ name: 'p', type: 'int32', byte: 0 }], 'little-swapped-words', '34127856', { p: '305419896' }],
  // IEEE 754: 17.5 is 0x418C0000, −0.5 in double precision 0xBFE0000000000000.
  [[{ name: 'f', type: 'float32', byte: 1 }], 'big', 'ff418c0000', { f: '17.5' }],
  [[{ name: 'd', type: 'float64', byte: 0 }], 'little-swapped-words', 'e0bf000000000000', { d: '-0.5' }],
  // One item otherwise than the rest, as behind a gateway that turns the words of one place round.
  [
    [
      { name: 'w', type: 'uint16', byte: 0 },
      { name: 'p', type: 'int32', byte: 2, order: 'big-swapped-words' },
      { name: 'q', type: 'int32', byte: 6 },
    ],
    'big',
    '0001 56781234 12345678',
    { w: '1', p: '305419896', q: '305419896' },
  ],
  [
    [
      { name: 'ready', type: 'bool', byte: 0 },
      { name: 'fault', type: 'bool', byte: 0, bit: 3 },
      { name: 'step', type: 'int8', byte: 1 },
    ],
    'little',
    '08ff',
    { ready: '0', fault: '1', step: '-1' },
  ],
])('%j, %s: %s', (items, order, hex, values) => {
  const block = bytes(hex);
  const told = readImage(items, block.length, order, block);
  expect([Object.fromEntries(told.values), told.faults]).toEqual([values, []]);
  const covered = buildImage(items, block.length, order, told.values);
  expect(covered.faults).toEqual([]);
  expect(readImage(items, block.length, order, covered.bytes).values).toEqual(told.values);
});

it('what no item covers is 0, what has no value too', () => {
  const made = buildImage(
    [...TELEGRAM_1, { name: 'b', type: 'bool', byte: 7, bit: 7 }],
    8,
    'big',
    new Map([['b', '1']]),
  );
  expect(bytesToHex(made.bytes)).toBe('0000000000000080');
});

it.each<[readonly ImageItem[], number, readonly [string, readonly string[]][]]>([
  [
    [
      { name: 'a', type: 'uint32', byte: 0 },
      { name: 'b', type: 'uint16', byte: 3 },
    ],
    8,
    [['overlap', ['a', 'b']]],
  ],
  [
    [
      { name: 'word', type: 'uint16', byte: 0 },
      { name: 'bit', type: 'bool', byte: 1, bit: 7 },
      { name: 'free', type: 'bool', byte: 2 },
    ],
    4,
    [['overlap', ['word', 'bit']]],
  ],
  [[{ name: 'far', type: 'float64', byte: 1 }], 8, [['outside-image', ['far']]]],
  [[{ name: 'end', type: 'float64', byte: 0 }], 8, []],
  [
    [
      { name: 'a', type: 'bool', byte: 0, bit: 1 },
      { name: 'b', type: 'bool', byte: 0, bit: 1 },
    ],
    1,
    [['overlap', ['a', 'b']]],
  ],
])('%j in %i bytes', (items, size, faults) => {
  expect(layoutFaults(items, size).map(({ code, items: names }) => [code, names])).toEqual(faults);
});

it('a block of another size is told, and what it holds is read', () => {
  const { values, faults } = readImage(TELEGRAM_1, 4, 'big', bytes('047f40'));
  expect([Object.fromEntries(values), faults.map(({ code }) => code)]).toEqual([{ STW1: '1151' }, ['wrong-size']]);
});

it.each<[ItemType, string]>([
  ['bool', '2'],
  ['uint8', '256'],
  ['int8', '-129'],
  ['uint16', '-1'],
  ['int32', '2147483648'],
  ['uint8', '1.5'],
  ['int16', 'far'],
  ['float32', 'x'],
])('a %s does not hold %s, and is 0 then', (type, text) => {
  const { bytes: made, faults } = buildImage([{ name: 'v', type, byte: 0 }], 8, 'big', new Map([['v', text]]));
  expect(faults.map(({ code, items }) => [code, items])).toEqual([['value-out-of-range', ['v']]]);
  expect(made.every((byte) => byte === 0)).toBe(true);
});

it('law: items, text and bytes agree over random images without overlap, in every order', () => {
  const types = Object.keys(ITEM_TYPES) as ItemType[];
  const orders = Object.keys(IMAGE_ORDERS) as ImageOrder[];
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...types), fc.nat(2), fc.constantFrom(undefined, ...orders)), {
        maxLength: 20,
      }),
      fc.constantFrom(...orders),
      fc.infiniteStream(fc.nat(255)),
      (plan, order, noise) => {
        let at = 0;
        const items = plan.map(([type, gap, own], i): ImageItem => {
          const byte = at + gap;
          at = byte + Math.ceil(ITEM_TYPES[type] / 8);
          return { name: `i${i}`, type, byte, bit: type === 'bool' ? i % 8 : 0, order: own };
        });
        const block = Uint8Array.from({ length: at }, () => noise.next().value as number);
        const told = readImage(items, at, order, block);
        expect(told.faults).toEqual([]);
        expect(told.values.size).toBe(items.length);
        const again = buildImage(items, at, order, told.values);
        expect(again.faults).toEqual([]);
        expect([...readImage(items, at, order, again.bytes).values]).toEqual([...told.values]);
      },
    ),
    { numRuns: 300, seed: 3 },
  );
});

it('10,000 items are checked in a moment, however they lie', () => {
  const items = Array.from({ length: 10_000 }, (_, i): ImageItem => ({ name: `${i}`, type: 'float64', byte: i % 7 }));
  expect(layoutFaults(items, 16)).toHaveLength(9_999);
});

it('the place of each byte in the value is that of the bytes as they are written', () => {
  for (const type of ['int16', 'uint32', 'float64'] as const)
    for (const order of Object.keys(IMAGE_ORDERS) as ImageOrder[]) {
      const size = ITEM_TYPES[type] / 8;
      const written = bytePlaces({ type }, order);
      // A number of which byte k, from the highest on, is k + 1, read back from bytes that were put where the places say.
      const image = Uint8Array.from(written, (place) => place + 1);
      const high = Uint8Array.from({ length: size }, (_, place) => place + 1);
      const value = (bytes: Uint8Array, own: ImageOrder): string | undefined =>
        readImage([{ name: 'n', type, byte: 0 }], size, own, bytes).values.get('n');
      expect(value(image, order)).toBe(value(high, 'big'));
    }
  expect(bytePlaces({ type: 'bool' }, 'little')).toEqual([0]);
  expect(bytePlaces({ type: 'uint16', order: 'little' }, 'big')).toEqual([1, 0]);
});
