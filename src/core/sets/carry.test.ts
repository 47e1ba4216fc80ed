import { emptySheet } from '../sheet/empty-sheet';
import { indexSheet, type SheetIndex } from '../sheet/index-sheet';
import type { Parameter } from '../sheet/parameter-section';
import { carried, carryPlan, leftText } from './carry';
import { knownOf, wordsOfRaw, type Said } from './said';
import type { Witness } from './witness';

const at = (address: number): Parameter['at'] => [{ kind: 'register', table: 'holding-register', address }];
const RAMP: Parameter = {
  number: '1',
  name: 'ramp up',
  type: 'uint16',
  at: at(10),
  unit: 's',
  scale: { kind: 'resolution', value: '0.1' },
};
const indexOf = (...parameters: readonly Parameter[]): SheetIndex =>
  indexSheet({ ...emptySheet('own', 'Own'), parameters: [...parameters] });

const saying = (index: SheetIndex, raw: number): Witness => ({
  id: 'file',
  kind: 'file',
  name: 'the file',
  index,
  said: new Map(
    index.parameters.map((parameter): readonly [string, Said] => [
      parameter.number,
      { kind: 'value', words: wordsOfRaw(parameter, raw) ?? [raw], atMs: null },
    ]),
  ),
});
const nothing = (): undefined => undefined;
const to = (there: Parameter, raw: number, here: Parameter) => {
  const result = carried(saying(indexOf(there), raw), indexOf(here), here.number, nothing);
  return result.ok ? result.value : result.error;
};

it.each<[string, Parameter, number, Parameter, readonly number[] | RegExp]>([
  ['read alike: the same words', RAMP, 40, { ...RAMP, note: 'another revision' }, [40]],
  ['finer counts: the same value', RAMP, 40, { ...RAMP, scale: { kind: 'resolution', value: '0.01' } }, [400]],
  ['another type: the same value', RAMP, 40, { ...RAMP, type: 'float32', scale: undefined }, [0x4080, 0]],
  [
    'another order of words',
    { ...RAMP, type: 'int32' },
    70_000,
    { ...RAMP, type: 'int32', order: 'CDAB' },
    [0x1170, 1],
  ],
  ['too wide for it', { ...RAMP, type: 'uint32' }, 700_000, RAMP, /./],
  ['another unit', RAMP, 40, { ...RAMP, unit: 'ms' }, /^it is in s there and in ms here$/],
  [
    'another thing under the same number',
    RAMP,
    40,
    { ...RAMP, name: 'fault mask' },
    /^it is ramp up there and fault mask here$/,
  ],
  [
    'the same role under another name',
    { ...RAMP, role: 'ramp-time' },
    40,
    { ...RAMP, role: 'ramp-time', name: 'ramp' },
    [40],
  ],
])('%s', (_, there, raw, here, made) => {
  if (made instanceof RegExp) expect(to(there, raw, here)).toMatch(made);
  else expect(to(there, raw, here)).toEqual(made);
});

const WAYS: Parameter = {
  number: '1',
  name: 'source',
  type: 'uint16',
  at: at(10),
  choices: [
    { value: 0, name: 'keys' },
    { value: 1, name: 'network' },
  ],
};

it('a choice is carried by its name, never by its number', () => {
  const moved: Parameter = {
    ...WAYS,
    choices: [
      { value: 1, name: 'keys' },
      { value: 2, name: 'network' },
    ],
  };
  expect(to(WAYS, 1, moved)).toEqual([2]);
  expect(to(WAYS, 1, { ...WAYS, choices: [{ value: 1, name: 'keys' }] })).toBe('network is no choice here');
  expect(to(WAYS, 7, moved)).toBe('7 is no choice here');
});

it('fields that are laid out otherwise are not carried', () => {
  const word: Parameter = {
    number: '1',
    name: 'wires',
    type: 'uint16',
    at: at(10),
    fields: [{ name: 'one', bit: 0, bits: 4 }],
  };
  expect(to(word, 3, { ...word, fields: [{ name: 'one', bit: 4, bits: 4 }] })).toBe('its fields are others here');
});

it('words of a file that the entry cannot hold are refused', () => {
  const index = indexOf(RAMP);
  const bad = (words: readonly number[]): Witness => ({
    ...saying(index, 0),
    said: new Map([['1', { kind: 'value', words, atMs: null }]]),
  });
  for (const words of [[0x1_0000], [1, 2], []])
    expect(carried(bad(words), index, '1', nothing)).toMatchObject({
      ok: false,
      error: 'what the file has for it does not fit uint16',
    });
});

it('a scale that another entry sets is worked out on both sides', () => {
  const decimals: Parameter = { number: '2', name: 'decimals', type: 'uint16', at: at(11) };
  const by: Parameter = {
    ...RAMP,
    scale: {
      kind: 'by',
      parameter: '2',
      cases: [
        { value: 1, one: '0.1' },
        { value: 2, one: '0.01' },
      ],
    },
  };
  const [there, here] = [indexOf(by, decimals), indexOf({ ...by, note: 'here' }, decimals)];
  const from = saying(there, 0);
  const said = new Map<string, Said>([
    ...from.said,
    ['1', { kind: 'value', words: [40], atMs: null }],
    ['2', { kind: 'value', words: [1], atMs: null }],
  ]);
  const known = knownOf(here, new Map([['2', { kind: 'value', words: [2], atMs: null }]]));
  expect(carried({ ...from, said }, here, '1', known)).toMatchObject({ ok: true, value: [400] });
  expect(carried({ ...from, said }, here, '1', nothing)).toMatchObject({ ok: false });
});

it('a plan takes what can be carried, and says what stays behind and why', () => {
  const parameters: readonly Parameter[] = [
    RAMP,
    { ...RAMP, number: '2', name: 'plate', at: at(11), sizeBound: true },
    { ...RAMP, number: '3', name: 'hours', at: at(12), write: 'never' },
  ];
  const index = indexOf(...parameters);
  const own = carryPlan(saying(index, 40), index, ['1', '2', '3', '9'], nothing);
  expect([...own.plan.keys()]).toEqual(['1', '2']);
  expect(leftText(own.left)).toBe('2 stay behind: 3, hours can only be read; 9, this sheet has no such entry');
  const other = carryPlan(saying(index, 40), index, ['1', '2'], nothing, true);
  expect([...other.plan.keys()]).toEqual(['1']);
  expect(leftText(other.left)).toBe('1 stays behind: 2, it belongs to the drive’s size');
  expect(leftText([])).toBe('');
  expect(leftText(Array.from({ length: 9 }, (_, i) => ({ number: `${i}`, why: 'so' })))).toMatch(/ and 6 more$/);
});
