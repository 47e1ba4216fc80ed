import { parseWord, signedText } from './parse-word';

it.each<[string, number, number | null]>([
  ['0x000D', 16, 13],
  ['000Dh', 16, 13],
  ['16#0D', 16, 13],
  ['0b1101', 16, 13],
  ['0b 0000_1101', 16, 13],
  ['2#1101', 16, 13],
  ['8#15', 16, 13],
  ['13', 16, 13],
  ['-1', 16, 0xffff],
  ['\u22121', 32, 0xffffffff],
  ['-32768', 16, 0x8000],
  ['0D', 16, 13],
  ['4294967295', 32, 0xffffffff],
  ['65536', 16, null],
  ['-32769', 16, null],
  ['0x100', 8, null],
  ['0b12', 16, null],
  ['run', 16, null],
  ['$01', 16, 1],
  ['0637', 16, 0x0637],
  ['06 37', 16, 0x0637],
  ['0006 3700', 32, 0x63700],
  ['1000', 16, 1000],
  ['0000011000110111', 16, 0x0637],
  ['0000 0110 0011 0111', 16, 0x0637],
  ['00000110', 8, 6],
  ['99999999999999999999', 32, null],
  ['', 16, null],
])('%j in %i bits is %j', (text, width, value) => {
  const parsed = parseWord(text, width);
  expect(parsed.value).toBe(value);
  expect(parsed.text).not.toBe('');
});

it.each([
  [0xffff, 16, '−1'],
  [0x8000, 16, '−32768'],
  [0x7fff, 16, '32767'],
  [0x80, 8, '−128'],
])('%i in %i bits is %s when signed', (word, width, text) => {
  expect(signedText(word, width)).toBe(text);
});

it.each<[string, number, string, readonly [number, string][]]>([
  ['0637', 16, 'read as hex', [[637, '637']]],
  ['06 37', 16, 'read as hex', [[637, '637']]],
  ['1000', 16, 'read as decimal', [[0x1000, '0x1000']]],
  ['00000110', 32, 'read as hex', [[110, '110']]],
  ['13', 16, 'read as decimal', []],
  ['0x0637', 16, 'read as hex', []],
  ['0000', 16, 'read as hex', []],
  ['0000011000110111', 16, 'read as binary', []],
])('of %j in %i bits it says “%s” and what else it may be', (text, width, said, others) => {
  const parsed = parseWord(text, width);
  expect(parsed.text).toBe(said);
  expect(parsed.others.map((other) => [other.value, other.text])).toEqual(others);
  for (const other of parsed.others)
    expect(parseWord(other.text, width)).toMatchObject({ value: other.value, others: [] });
});
