import { encodeNumber, ordersOf, sizeOfNumber } from '../bytes/number';
import { pick, seededRandom } from '../random/random';
import { findValues, knownList } from './find-value';

const registers = (at: Readonly<Record<number, readonly number[]>>): ReadonlyMap<number, number> =>
  new Map(Object.entries(at).flatMap(([first, words]) => words.map((word, i) => [Number(first) + i, word] as const)));

// IEEE 754: 49.98 as binary32 is 4247EB85h; 123456 is 1E240h.
const DRIVE = registers({ 100: [0xe240, 0x0001], 110: [0xeb85, 0x4247], 120: [4000, 0, 7] });

it('known values are found with type, order and scale, and together they tell the order of words', () => {
  const { values, orders } = findValues(DRIVE, ['123456', '49.98 Hz', '400.0 V']);
  expect(values.map(({ found: [best] }) => best && [best.address, best.type, best.order, best.places])).toEqual([
    [100, 'uint32', 'CDAB', 0],
    [110, 'float32', 'CDAB', 0],
    [120, 'uint16', undefined, 1],
  ]);
  expect(orders[0]).toEqual({ name: 'low word first', known: ['123456', '49.98 Hz'] });
  expect(values[1]?.found[0]?.text).toBe('2 registers, 110 to 111: float32, low word first, holds 49.98');
  expect(values[2]?.found[0]?.text).toBe('1 register, 120: uint16 in steps of 0.1, holds 4000');
});

it('what a display rounds is found too, below what it shows exactly', () => {
  const { values } = findValues(registers({ 5: [1449], 6: [1453], 7: [14_530] }), ['145.3']);
  expect(values[0]?.found.map(({ address, isExact }) => [address, isExact])).toEqual([
    [6, true],
    [7, true],
  ]);
  const [rounded] = findValues(registers({ 5: [14_528] }), ['145.3']).values;
  expect(rounded?.found.map(({ address, places, isExact }) => [address, places, isExact])).toEqual([[5, 2, false]]);
});

it('one digit that only rounding and swapped bytes would give is chance, and not told', () => {
  // 4046h and 0000h with their bytes and words turned round are a float near 3.1.
  const { values } = findValues(registers({ 7: [0x0000, 0x4640] }), ['3']);
  expect(values[0]?.found).toEqual([]);
  expect(findValues(registers({ 7: [3] }), ['3']).values[0]?.found).toHaveLength(1);
});

it('a negative value is found as the signed number, and one that one register holds tells no order', () => {
  const { values, orders } = findValues(registers({ 9: [0xffff, 0xff38] }), ['\u2212200']);
  expect(values[0]?.found.map(({ address, type }) => [address, type])).toEqual([
    [10, 'int16'],
    [9, 'int32'],
  ]);
  expect(orders).toEqual([]);
});

it('a small value may be one register or the low word of two: the one comes first, both are told, no order is concluded', () => {
  const { values, orders } = findValues(registers({ 20: [7, 0, 4800, 0, 9] }), ['480.0']);
  expect(values[0]?.found.map(({ address, words, order }) => [address, words, order])).toEqual([
    [22, 1, undefined],
    [21, 2, undefined],
    [22, 2, 'CDAB'],
  ]);
  expect(values[0]?.found.slice(1).map(({ text }) => /may be one alone$/.test(text))).toEqual([true, true]);
  expect(orders).toEqual([]);
});

it('what cannot be looked for says why', () => {
  const { values } = findValues(DRIVE, ['0', 'fast', '']);
  expect(values.map(({ trouble, found }) => [trouble, found.length])).toEqual([
    ['0 stands in many registers: take a value that is not 0', 0],
    ['“fast” begins with no number', 0],
    ['“” begins with no number', 0],
  ]);
  expect(knownList('400 V; 1,5 A\n\n 50 Hz;400 V')).toEqual(['400 V', '1,5 A', '50 Hz']);
});

it.each([
  ['1,450 rpm', 'taken as 1.450; if the comma parts thousands, write 1450'],
  ['49.980', 'taken as 49.980; if the point parts thousands, write 49980'],
  ['49.98', ''],
  ['0.125', ''],
  ['1450', ''],
])('%s is doubted: %s', (known, doubt) => {
  expect(findValues(DRIVE, [known]).values[0]?.doubt).toBe(doubt);
});

const TYPES = ['int32', 'uint32', 'float32', 'int64', 'float64'] as const;

it('a value put anywhere among noise, in any type and order, is the surest find', () => {
  const random = seededRandom(17);
  let first = 0;
  for (let round = 0; round < 300; round++) {
    const noise = Array.from({ length: 120 }, () => Math.floor(random() * 0x10000));
    const type = TYPES[pick(random, TYPES.length)]!;
    const order = ordersOf(type)[pick(random, ordersOf(type).length)]!;
    const number = type.startsWith('float')
      ? `${(random() * 900 + 100).toFixed(3)}`
      : `${Math.floor(random() * 9e8 + 1e8)}`;
    const value = type === 'int64' ? `${number}0123` : number;
    const bytes = encodeNumber(type, order, value);
    if (!bytes.ok) throw new Error(bytes.error.text);
    const size = sizeOfNumber(type) / 2;
    for (let i = 0; i < size; i++) noise[40 + i] = (bytes.value[2 * i] ?? 0) * 256 + (bytes.value[2 * i + 1] ?? 0);
    const { values } = findValues(registers({ 0: noise }), [value]);
    const found = values[0]?.found.find(({ address, words }) => address === 40 && words === size);
    expect(found?.order ?? ordersOf(type)[0]).toBe(order);
    if (values[0]?.found[0] === found) first++;
  }
  // Noise agrees now and then with what a display rounds.
  expect(first).toBeGreaterThan(290);
});

it('noise alone proves no order', () => {
  const random = seededRandom(18);
  let claimed = 0;
  for (let round = 0; round < 100; round++) {
    const noise = Array.from({ length: 200 }, () => Math.floor(random() * 0x10000));
    claimed += findValues(registers({ 0: noise }), ['1450', '400', '7.5', '49.98']).orders.length;
  }
  expect(claimed).toBeLessThan(5);
});
