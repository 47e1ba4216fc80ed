import { emptySheet } from '../sheet/empty-sheet';
import { indexSheet, type SheetIndex } from '../sheet/index-sheet';
import type { Parameter } from '../sheet/parameter-section';
import { ternIndex } from '../../../tests/harness/sheets';
import { planFaults, turningFaults, withPlanned, withoutPlanned, whyNotPlanned, type Plan } from './plan';
import { knownOf, wordsOfRaw, type Said, type SaidOf } from './said';
import { csvOfSet, readSetCsv } from './set-csv';
import { readTyped } from './typed-value';
import { resetBy, writeOrder } from './write-order';

const at = (address: number): Parameter['at'] => [{ kind: 'register', table: 'holding-register', address }];
const plain = (number: string, address: number, more: Partial<Parameter> = {}): Parameter => ({
  number,
  name: `value ${number}`,
  type: 'uint16',
  at: at(address),
  min: 0,
  max: 1000,
  ...more,
});
const INDEX: SheetIndex = indexSheet({
  ...emptySheet('own', 'Own'),
  parameters: [
    plain('low', 1, { role: 'minimum-speed', unit: 'Hz' }),
    plain('high', 2, { role: 'maximum-speed', unit: 'Hz' }),
    plain('key', 3, { secret: true, max: 0xffff }),
    plain('locked', 4, { lockedBy: { parameter: 'key', value: 77 } }),
    plain('kind', 5, { resets: ['low', 'high'] }),
    plain('source', 6, {
      role: 'command-source',
      choices: [
        { value: 0, name: 'keys' },
        { value: 2, name: 'network' },
      ],
    }),
    plain('ends', 17, {
      choices: [
        { value: 0, name: 'not looked at', disables: 'no end switch stops the axis' },
        { value: 1, name: 'stop the axis' },
      ],
    }),
    plain('wires', 18, {
      max: 0xff,
      fields: [
        { name: 'wire one', bit: 4, bits: 4, choices: [{ value: 1, name: 'run' }] },
        {
          name: 'wire two',
          bit: 0,
          bits: 4,
          choices: [
            { value: 0, name: 'free', disables: 'the gate does not stop it any more' },
            { value: 6, name: 'gate closed' },
          ],
        },
      ],
    }),
    plain('rate', 7, { role: 'bit-rate' }),
    plain('soft', 8, { outside: 'limited', step: 5 }),
    plain('word', 9, { role: 'control-word' }),
    plain('seen', 10, { write: 'never' }),
    plain('wide', 11, {
      type: 'int32',
      min: -100_000,
      max: 100_000,
      unit: 'mm',
      scale: { kind: 'resolution', value: '0.01' },
    }),
    plain('float', 13, { type: 'float32', min: -1e9, max: 1e9, unit: 'Hz' }),
    plain('digits', 15, { type: 'bcd16', min: 0, max: 9999 }),
    plain('tenths', 16, { unit: 'A', scale: { kind: 'by', parameter: 'low', cases: [{ value: 1, one: '0.1' }] } }),
  ],
});

const words = (number: string, raw: number): readonly number[] => {
  const parameter = INDEX.byNumber.get(number);
  return (parameter && wordsOfRaw(parameter, raw)) ?? [];
};
const planned = (raw: Readonly<Record<string, number>>): Plan =>
  new Map(Object.entries(raw).map(([number, value]) => [number, { words: words(number, value), reason: 'typed' }]));
const saying = (raw: Readonly<Record<string, number>>): SaidOf =>
  new Map(
    Object.entries(raw).map(([number, value]): readonly [string, Said] => [
      number,
      { kind: 'value', words: words(number, value), atMs: null },
    ]),
  );

it('keeps the order of planning, and a value once', () => {
  const plan = withPlanned(withPlanned(planned({ low: 1 }), 'high', { words: [2], reason: 'typed' }), 'low', {
    words: [3],
    reason: 'file',
  });
  expect([...plan].map(([number, { words: own }]) => [number, own])).toEqual([
    ['high', [2]],
    ['low', [3]],
  ]);
  expect([...withoutPlanned(plan, 'high').keys()]).toEqual(['low']);
});

it.each<[Record<string, number>, Record<string, number>, readonly string[]]>([
  [{ low: 2000 }, {}, ['low bad value low takes 0 to 1000 Hz, not 2000 Hz']],
  [{ soft: 2000 }, {}, ['soft ok value soft takes 0 to 1000, not 2000: the drive takes the nearest limit instead']],
  [{ soft: 12 }, {}, ['soft ok the drive rounds value soft to multiples of 5 counts']],
  [{ source: 1 }, {}, ['source bad value source is one of 0 keys, 2 network, not 1']],
  [{ word: 1 }, {}, ['word bad value word is an order to the drive, no setting: give it in Words']],
  [{ seen: 1 }, {}, ['seen bad value seen can only be read']],
  [{ locked: 1 }, { key: 5 }, ['locked bad value locked is locked: key value key must be opened first']],
  [
    { locked: 1 },
    {},
    ['locked ok value locked is locked: key value key must be opened first; what it holds is not known'],
  ],
  [{ locked: 1, key: 77 }, { key: 5 }, []],
  [{ low: 50 }, { high: 40 }, ['low ok low value low would lie above high value high']],
  [{ low: 50, high: 60 }, { high: 40 }, []],
  [{ ends: 0 }, {}, ['ends ok value ends not looked at: no end switch stops the axis']],
  [{ ends: 1 }, {}, []],
  // One selector is changed, the other stays: what is taken away thereby is said.
  [{ wires: 0x10 }, {}, ['wires ok wire two free: the gate does not stop it any more']],
  [{ wires: 0x16 }, {}, []],
])('a plan of %j beside %j: %j', (plan, beside, faults) => {
  expect(
    planFaults(INDEX, planned(plan), saying(beside)).map(
      ({ number, isBad, text }) => `${number} ${isBad ? 'bad' : 'ok'} ${text}`,
    ),
  ).toEqual(faults);
});

it('whether a lock is open is known of the drive only, not of the factory', () => {
  const faults = planFaults(INDEX, planned({ locked: 1 }), saying({}), saying({ key: 5 }));
  expect(faults.map(({ text, isBad }) => [isBad, text])).toEqual([
    [false, 'value locked is locked: key value key must be opened first; what it holds is not known'],
  ]);
  // A limit of the factory counts where the drive's own was not read.
  expect(planFaults(INDEX, planned({ low: 50 }), saying({}), saying({ high: 40 }))).toHaveLength(1);
  expect(planFaults(INDEX, planned({ low: 50 }), saying({ high: 60 }), saying({ high: 40 }))).toEqual([]);
});

it('writes locks first, what resets before what it resets, limits on the side that has room, sources and the link last', () => {
  const plan = planned({ rate: 1, source: 2, wide: 5, low: 10, high: 90, kind: 3, key: 77 });
  // The drive runs from 20 to 50: both limits widen.
  expect(
    writeOrder(INDEX, plan, saying({ low: 20, high: 50 })).map(({ number, phase }) => `${number} ${phase}`),
  ).toEqual(['key locks', 'kind resets', 'low widen', 'high widen', 'wide values', 'source sources', 'rate link']);
  // It runs from 0 to 100: both narrow, and go after the values.
  expect(writeOrder(INDEX, plan, saying({ low: 0, high: 100 })).map(({ number }) => number)).toEqual([
    'key',
    'kind',
    'wide',
    'low',
    'high',
    'source',
    'rate',
  ]);
  expect(resetBy(INDEX, INDEX.byNumber.get('kind')!)).toEqual(['low', 'high']);
  expect(resetBy(INDEX, { ...INDEX.byNumber.get('kind')!, resets: 'all' })).toHaveLength(INDEX.parameters.length - 1);
});

it.each<[string, string, readonly number[] | RegExp]>([
  ['low', '15 Hz', [15]],
  ['low', '0.015 kHz', [15]],
  ['low', '0x0F', [15]],
  ['low', '15 V', /not the unit of this field/],
  ['low', '', /no value/],
  ['source', 'Network', [2]],
  ['source', '2', [2]],
  ['source', 'wires', /one of keys, network/],
  ['wide', '-18.5', [0xffff, 0xf8c6]],
  ['float', '12.5 Hz', [0x4148, 0x0000]],
  ['digits', '1234', [0x1234]],
  ['digits', '12345', /0 to 9999/],
  ['digits', '1.5', /whole number/],
  ['tenths', '4.2', /what one count is, is set by low/],
])('%s typed as “%s”', (number, text, made) => {
  const read = readTyped(INDEX, INDEX.byNumber.get(number)!, text, knownOf(INDEX, new Map()));
  if (made instanceof RegExp) expect(read).toMatchObject({ ok: false, error: expect.stringMatching(made) as string });
  else expect(read).toMatchObject({ ok: true, value: made });
});

it('a scale that another value sets is worked out with what is known of it', () => {
  const known = knownOf(INDEX, saying({ low: 1 }));
  expect(readTyped(INDEX, INDEX.byNumber.get('tenths')!, '4.2 A', known)).toMatchObject({ ok: true, value: [42] });
});

it('orders and values that only read are never planned', () => {
  expect(['word', 'seen', 'low'].map((number) => whyNotPlanned(INDEX.byNumber.get(number)!) === '')).toEqual([
    false,
    false,
    true,
  ]);
});

// 0x000D is the fan's word that makes it run, 0x0004 one that stops it.
it.each<[string, number, number | undefined, RegExp | null]>([
  ['2.01', 2, 0x000d, /^bad the control word that it holds, 0x000D, asks it to run/],
  ['2.02', 2, 0x000d, /^bad /],
  ['2.01', 2, 0x0004, null],
  // It is read before the write then.
  ['2.01', 2, undefined, null],
  ['11.02', 50, 0x000d, null],
])('%s ← %i while the control word is %s', (number, raw, control, said) => {
  const index = ternIndex();
  const plan: Plan = new Map([[number, { words: [raw], reason: 'typed' }]]);
  const told = turningFaults(index, plan, control).map(({ isBad, text }) => `${isBad ? 'bad' : 'ok'} ${text}`);
  if (said) expect(told).toEqual([expect.stringMatching(said)]);
  else expect(told).toEqual([]);
});

describe('values of 64 bits', () => {
  const place = (address: number) => [{ kind: 'register' as const, table: 'holding-register' as const, address }];
  const index = indexSheet({
    ...emptySheet('wide', 'Wide'),
    parameters: [
      { number: 'count', name: 'count', type: 'int64', at: place(1), min: 0, max: 1e12, unit: 'm', write: 'always' },
      { number: 'note', name: 'note', type: 'text', size: 4, at: place(20), write: 'always' },
      {
        number: 'kind',
        name: 'kind',
        type: 'uint64',
        at: place(9),
        write: 'always',
        choices: [{ value: 5e9, name: 'large' }],
      },
    ],
  });
  const planned = (number: string, text: string): Plan => {
    const read = readTyped(index, index.byNumber.get(number)!, text, () => undefined);
    if (!read.ok) throw new Error(read.error);
    return new Map([[number, { words: read.value, reason: 'typed' }]]);
  };
  const faults = (number: string, text: string) =>
    planFaults(index, planned(number, text), new Map()).map(({ text: why }) => why);

  it('have limits and names like others', () => {
    expect(faults('count', '1000000000000 m')).toEqual([]);
    expect(faults('count', '1000000000001')).toEqual(['count takes 0 to 1000000000000 m, not 1000000000001 m']);
    expect(faults('count', '-1')).toEqual(['count takes 0 to 1000000000000 m, not −1 m']);
    expect(planned('kind', 'large').get('kind')?.words).toEqual([0, 1, 0x2a05, 0xf200]);
    expect(faults('kind', 'large')).toEqual([]);
    expect(faults('kind', '6')).toEqual(['kind is one of 5000000000 large, not 6']);
  });

  it('come back from a file as they were', () => {
    const said: SaidOf = new Map([
      ['count', { kind: 'value', words: planned('count', '900719925474').get('count')!.words, atMs: null }],
      ['note', { kind: 'value', words: planned('note', '=A 1, b').get('note')!.words, atMs: null }],
      ['kind', { kind: 'value', words: planned('kind', 'large').get('kind')!.words, atMs: null }],
    ]);
    for (const mark of ['point', 'comma'] as const) {
      const read = readSetCsv(index, csvOfSet(index, said, mark));
      expect(read).toMatchObject({ ok: true, value: { unread: [] } });
      expect(read.ok && read.value.said).toEqual(said);
    }
  });
});
