import { emptySheet } from '../sheet/empty-sheet';
import { indexSheet, type SheetIndex } from '../sheet/index-sheet';
import type { Parameter } from '../sheet/parameter-section';
import { compareSets } from './compare-sets';
import { findRows, type Only } from './find-rows';
import { saidText, wordsOfRaw, type Said } from './said';
import { readTyped } from './typed-value';
import { csvOfDifferences, csvOfSet, harmless, readSetCsv, textOfDifferences } from './set-csv';
import { readSetFile, setFileOf } from './set-file';
import { defaultWitness, type Witness } from './witness';

const at = (address: number): Parameter['at'] => [{ kind: 'register', table: 'holding-register', address }];
const RAMP: Parameter = {
  number: '1.01',
  name: 'ramp up',
  type: 'uint16',
  at: at(10),
  unit: 's',
  role: 'ramp-time',
  scale: { kind: 'resolution', value: '0.1' },
  default: 50,
};
const SOURCE: Parameter = {
  number: '1.02',
  name: 'who starts it',
  type: 'uint16',
  at: at(11),
  role: 'command-source',
  choices: [
    { value: 0, name: 'keys' },
    { value: 1, name: 'network' },
  ],
  default: 0,
  path: 'Menu, control',
};
const HOURS: Parameter = { number: '1.03', name: 'hours', type: 'uint32', at: at(12), write: 'never' };
const PLATE: Parameter = {
  number: '1.04',
  name: 'rated current',
  type: 'uint16',
  at: at(14),
  sizeBound: true,
  default: 80,
};
const LOCK: Parameter = { number: '1.05', name: 'key', type: 'uint16', at: at(15), secret: true, default: 1234 };
const FACTOR: Parameter = { number: '1.06', name: '=gain', type: 'float32', at: at(16), default: 1.5 };

const indexOf = (...parameters: readonly Parameter[]): SheetIndex =>
  indexSheet({ ...emptySheet('own', 'Own'), parameters: [...parameters] });
const ALL = indexOf(RAMP, SOURCE, HOURS, PLATE, LOCK, FACTOR);

const witness = (name: string, raw: Readonly<Record<string, number>>, index = ALL): Witness => ({
  id: name,
  kind: 'visit',
  name,
  index,
  said: new Map(
    Object.entries(raw).map(([number, value]): readonly [string, Said] => {
      const parameter = index.byNumber.get(number);
      return [number, { kind: 'value', words: (parameter && wordsOfRaw(parameter, value)) ?? [], atMs: null }];
    }),
  ),
});
const row = (number: string, ...witnesses: readonly Witness[]) =>
  compareSets(witnesses).find((one) => one.number === number);

it('says where witnesses differ, by how much, and what follows', () => {
  expect(row('1.01', witness('then', { '1.01': 40 }), witness('now', { '1.01': 80 }))).toMatchObject({
    verdict: 'differs',
    aside: null,
    texts: ['40 = 4 s', '80 = 8 s'],
    sentence: 'then 40 = 4 s, now 80 = 8 s',
    follows: '0.5 times now; it takes another time to reach its speed, and to stop by the ramp',
  });
  expect(row('1.02', witness('then', { '1.02': 1 }), defaultWitness(ALL))?.follows).toMatch(/^who starts and stops it/);
});

it('sets aside what changes by itself and what belongs to the size, and says nothing where all agree', () => {
  const [a, b] = [
    witness('a', { '1.03': 7, '1.04': 80, '1.02': 1 }),
    witness('b', { '1.03': 9, '1.04': 120, '1.02': 1 }),
  ];
  expect(row('1.03', a, b)).toMatchObject({ verdict: 'differs', aside: 'live', sentence: '' });
  expect(row('1.04', a, b)).toMatchObject({ verdict: 'differs', aside: 'size' });
  expect(row('1.02', a, b)).toMatchObject({ verdict: 'same', sentence: '' });
  expect(row('1.01', a, b)).toMatchObject({ verdict: 'unknown' });
  expect(row('1.01', a, witness('c', { '1.01': 3 }))).toMatchObject({ verdict: 'one-only' });
});

it('a set of another revision is read with its own: the same value in other counts is the same', () => {
  const finer = indexOf({ ...RAMP, scale: { kind: 'resolution', value: '0.01' } });
  const old = witness('old', { '1.01': 40 });
  // 4.04 s cannot be told from 4 s by the drive that counts tenths; 4.06 s can.
  expect(row('1.01', old, witness('new', { '1.01': 404 }, finer))?.verdict).toBe('same');
  expect(row('1.01', old, witness('new', { '1.01': 406 }, finer))?.verdict).toBe('differs');
  expect(row('1.01', old, witness('new', { '1.01': 40 }, finer))?.verdict).toBe('differs');
});

it('floats that differ in what single precision cannot keep are the same', () => {
  const [a, b, c] = [
    witness('a', { '1.06': 0.1 }),
    witness('b', { '1.06': 0.1000000089 }),
    witness('c', { '1.06': 0.1001 }),
  ];
  expect(row('1.06', a, b)?.verdict).toBe('same');
  expect(row('1.06', a, c)?.verdict).toBe('differs');
});

it('a secret is shown to nobody and in no file without being asked for', () => {
  const said = defaultWitness(ALL);
  expect(row('1.05', said)?.texts).toEqual(['••••']);
  const about = { name: 'n', at: '2026-11-20T09:00:00.000Z' };
  const numbers = (withSecrets: boolean) =>
    setFileOf(ALL, said.said, about, withSecrets).values.map(({ number }) => number);
  expect(numbers(false)).not.toContain('1.05');
  expect(numbers(true)).toContain('1.05');
  expect(csvOfDifferences([said], compareSets([said]), 'point')).not.toContain('1234');
});

it.each<[string, Only, readonly string[]]>([
  ['ramp', 'all', ['1.01']],
  ['does not start', 'all', ['1.02']],
  ['menu', 'all', ['1.02']],
  ['0x000B', 'all', ['1.02']],
  ['40012', 'all', ['1.02']],
  ['NETWORK', 'all', ['1.02']],
  ['', 'settings', ['1.01']],
  ['', 'differs', ['1.01', '1.03', '1.04']],
  ['', 'size', ['1.04']],
  ['', 'planned', ['1.06']],
  ['', 'refused', ['1.05']],
  ['nothing of this', 'all', []],
])('“%s” in %s finds %j', (text, only, numbers) => {
  const a = witness('a', { '1.01': 1, '1.02': 1, '1.03': 7, '1.04': 80 });
  const b = { ...witness('b', { '1.01': 2, '1.02': 1, '1.03': 9, '1.04': 120 }), id: 'b' };
  const refused: Witness = { ...b, said: new Map([...b.said, ['1.05', { kind: 'refused', why: 'locked' }]]) };
  const witnesses = [a, refused];
  const plan = new Map([['1.06', { words: [0, 0], reason: 'typed' }]]);
  expect(findRows(compareSets(witnesses), text, only, witnesses, plan).map(({ number }) => number)).toEqual(numbers);
});

it.each([
  ['=1+1', "'=1+1"],
  ['@sum', "'@sum"],
  ['+cmd', "'+cmd"],
  ['-5', '-5'],
  ['-5,25', '-5,25'],
  ['4 s', '4 s'],
])('a cell %s goes out as %s', (cell, out) => {
  expect(harmless(cell)).toBe(out);
});

it('differences go out for a spreadsheet with point or comma, and as lines for a message', () => {
  const witnesses = [witness('then', { '1.01': 45 }), witness('now', { '1.01': 80 })];
  const rows = findRows(compareSets(witnesses), '', 'differs', witnesses, new Map());
  expect(csvOfDifferences(witnesses, rows, 'comma')).toMatch(
    /^\uFEFFnumber;name;then;now;what follows\r\n"1\.01 ";ramp up;4,5 s;8 s;/,
  );
  expect(csvOfDifferences(witnesses, rows, 'point')).toMatch(/"1\.01 ",ramp up,4\.5 s,8 s,/);
  expect(textOfDifferences(rows)).toMatch(/^1\.01 ramp up: then 45 = 4\.5 s, now 80 = 8 s; 0\.56 times now/);
});

it('a value that was changed in a spreadsheet goes before the raw number beside it; lines that give nothing are named', () => {
  const read = readSetCsv(
    ALL,
    '\uFEFFnumber;name;raw;value\r\n1.01 ;ramp up;40;6,5 s\r\n1.02;x;1;network\r\n9.99;x;1;1\r\n1.01;x;;fast\r\n',
  );
  if (!read.ok) throw new Error(read.error);
  expect([...read.value.said].map(([number, said]) => [number, said.kind === 'value' ? said.words : null])).toEqual([
    ['1.01', [65]],
    ['1.02', [1]],
  ]);
  expect(read.value.unread.map(({ line, why }) => `${line} ${why}`)).toEqual([
    '4 the sheet has no entry 9.99',
    expect.stringMatching(/^5 /),
  ]);
  expect(readSetCsv(ALL, 'a;b\n1;2')).toMatchObject({ ok: false });
});

it.each(['{', '[]', '{"format":2}', 'null', '"x"'])('%s is no set, and says so', (text) => {
  expect(readSetFile(text)).toMatchObject({ ok: false, error: expect.any(String) as string });
});

it('values of 64 bits are compared exactly, and by how much they differ; dates only by being the same', () => {
  const energy: Parameter = {
    number: '2.01',
    name: 'limit of energy',
    type: 'int64',
    at: at(30),
    unit: 'kWh',
    scale: { kind: 'resolution', value: '0.1' },
  };
  const since: Parameter = { number: '2.02', name: 'in use since', type: 'date-digits', at: at(40) };
  const index = indexOf(energy, since);
  const says = (name: string, last: number, day: number): Witness => ({
    ...witness(name, {}, index),
    said: new Map<string, Said>([
      ['2.01', { kind: 'value', words: [0x20, 0, 0, last], atMs: null }],
      ['2.02', { kind: 'value', words: [20260103 >> 16, (20260103 & 0xffff) + day], atMs: null }],
    ]),
  });
  // 2^53 and 2^53 + 1: no double tells them apart.
  const [limit, day] = compareSets([says('then', 0, 0), says('now', 1, 1)]);
  expect([limit?.verdict, limit?.texts]).toEqual([
    'differs',
    ['9007199254740992 = 900719925474099.2 kWh', '9007199254740993 = 900719925474099.3 kWh'],
  ]);
  expect([day?.verdict, day?.texts, day?.follows]).toEqual(['differs', ['2026-01-03', '2026-01-04'], '']);
  expect(compareSets([says('then', 1, 0), says('now', 1, 0)]).map(({ verdict }) => verdict)).toEqual(['same', 'same']);
});

it.each(['point', 'comma'] as const)('all digits of 64 bits come back from a spreadsheet with a decimal %s', (mark) => {
  const fine: Parameter = {
    number: '3.01',
    name: 'energy',
    type: 'int64',
    at: at(50),
    unit: 'kWh',
    scale: { kind: 'resolution', value: '0.00001' },
  };
  const index = indexOf(fine);
  const words = [0xffdf, 0xffff, 0xffff, 0xfffd];
  const csv = csvOfSet(index, new Map([['3.01', { kind: 'value', words, atMs: null }]]), mark);
  const read = readSetCsv(index, csv);
  expect(read.ok && read.value.said.get('3.01')).toEqual({ kind: 'value', words, atMs: null });
  expect(read.ok && read.value.unread).toEqual([]);
});

// Common practice, no source: decimal digits four bits each are read before their scale; a byte’s sign is its own highest bit.
it.each([
  ['bcd16', '0.1', [0x1234], '123.4 A'],
  ['bcd32', '0.01', [0x0012, 0x3456], '1234.56 A'],
  ['int8', '0.5', [0xffff], '−0.5 A'],
  ['uint8', '0.5', [0x0003], '1.5 A'],
] as const)('%s with a scale of %s is shown in its unit, and typed back as it was', (type, one, words, shown) => {
  const index = indexOf({
    number: '4.01',
    name: 'of digits',
    type,
    at: at(60),
    unit: 'A',
    scale: { kind: 'resolution', value: one },
  });
  const own = index.byNumber.get('4.01')!;
  const text = saidText(index, own, { kind: 'value', words, atMs: null }, new Map());
  expect(text.replace(/^.* = /, '')).toBe(shown);
  expect(readTyped(index, own, shown, () => undefined)).toEqual({ ok: true, value: words });
});
