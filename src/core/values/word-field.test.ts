import fc from 'fast-check';
import {
  fieldIn,
  fieldsText,
  leastOfField,
  mostOfField,
  withField,
  wordFieldFaults,
  type WordField,
} from './word-field';

const digit = (name: string, place: number, ...names: readonly string[]): WordField => ({
  name,
  bit: 4 * place,
  bits: 4,
  choices: names.map((choice, value) => ({ value, name: choice })),
});
const WIRES = [digit('one', 3, 'free', 'run'), digit('two', 2), digit('three', 1), digit('four', 0, 'free')];

it('reads four hex digits of a word as four selectors', () => {
  expect(WIRES.map((field) => fieldIn(0x3105, field))).toEqual([3, 1, 0, 5]);
  expect(fieldsText(0x1200, WIRES)).toBe('one run, two 2, three 0, four free');
});

it('changes one field and leaves the others, in words of 16 and of 32 bits', () => {
  expect(withField(0x3105, WIRES[1]!, 0xf)).toBe(0x3f05);
  const field = fc
    .integer({ min: 1, max: 32 })
    .chain((bits) => fc.record({ bits: fc.constant(bits), bit: fc.integer({ min: 0, max: 32 - bits }) }));
  fc.assert(
    fc.property(fc.nat({ max: 0xffffffff }), field, fc.nat({ max: 0xffffffff }), (word, at, other) => {
      const value = other % (mostOfField(at) + 1);
      const changed = withField(word, at, value);
      expect(fieldIn(changed, at)).toBe(value);
      expect(withField(changed, at, fieldIn(word, at))).toBe(word);
      expect(changed).toBeLessThanOrEqual(0xffffffff);
    }),
  );
});

it('names fields that lie over each other, run out of the word, or cannot hold a choice', () => {
  const wide: WordField = { name: 'wide', bit: 2, bits: 4, choices: [{ value: 16, name: 'no' }] };
  expect(wordFieldFaults([...WIRES, wide, digit('five', 4)], 16).map(({ at, text }) => `${at} ${text}`)).toEqual([
    '4 wide lies over four',
    '4 wide holds 0 to 15, not 16',
    '5 five runs to bit 19 of a word with 16',
  ]);
  expect(wordFieldFaults(WIRES, 16)).toEqual([]);
});

it('a field with a sign holds numbers below zero, and its neighbours stay', () => {
  const trim: WordField = { name: 'trim', bit: 8, bits: 8, signed: true };
  expect([0x7f34, 0x8034, 0xff34].map((word) => fieldIn(word, trim))).toEqual([127, -128, -1]);
  for (const value of [-128, -1, 0, 127]) {
    const word = withField(0x1234, trim, value);
    expect([fieldIn(word, trim), word & 0xff]).toEqual([value, 0x34]);
  }
  expect([leastOfField(trim), mostOfField(trim)]).toEqual([-128, 127]);
  const named = { ...trim, choices: [{ value: -1, name: 'down' }] };
  expect(fieldsText(0xff00, [named])).toBe('trim down');
  expect(wordFieldFaults([{ ...trim, choices: [{ value: -129, name: 'no' }] }], 16)).toEqual([
    { at: 0, text: 'trim holds -128 to 127, not -129' },
  ]);
});
