import { readingsOfWord, wholeIn } from './whole';

it.each([
  ['17', 17],
  [' -3 ', -3],
  ['\u22123', -3],
  ['017', 17],
  ['1 200', 1200],
  ['0x1F', 31],
  ['1Fh', 31],
  ['$1F', 31],
  ['16#1F', 31],
  ['WORD#16#1F', 31],
  ['&H1F', 31],
  ['0b101', 5],
  ['2#101', 5],
  ['0o17', 15],
  ['8#17', 15],
  ['1.5', null],
  ['15 Hz', null],
  ['1F', null],
  ['0x', null],
  ['9007199254740993', null],
  ['', null],
])('%j as a whole number is %j', (text, value) => {
  expect(wholeIn(text)).toBe(value);
});

it('a text that says its base has one reading, and one that does not has no two alike', () => {
  for (const text of ['0x10', '10h', '$10', '0b10', '-10', '10', '010', '0010', '1010', '00001010', '0000000000001010'])
    for (const width of [8, 16, 32]) {
      const readings = readingsOfWord(text, width);
      expect(new Set(readings.map(({ base }) => base)).size).toBe(readings.length);
      if (/[^0-9]/.test(text)) expect(readings).toHaveLength(1);
    }
});
