import fc from 'fast-check';
import { wideText, wideWords, type WideForm } from './wide';

const form = (type: WideForm['type'], words: number, order?: string): WideForm => ({ type, words, order });

// IEEE 754-2019, binary64: 1.5 is 3FF8 0000 0000 0000; 0.1 is 3FB9 9999 9999 999A (the usual worked example). Two's complement by hand.
it.each([
  [form('float64', 4), '1.5', [0x3ff8, 0, 0, 0], '1.5'],
  [form('float64', 4), '0.1', [0x3fb9, 0x9999, 0x9999, 0x999a], '0.1'],
  [form('uint64', 4), '18446744073709551615', [0xffff, 0xffff, 0xffff, 0xffff], '18446744073709551615'],
  [form('int64', 4), '-2', [0xffff, 0xffff, 0xffff, 0xfffe], '-2'],
  [form('int64', 4, 'GHEFCDAB'), '0x0102030405060708', [0x0708, 0x0506, 0x0304, 0x0102], '72623859790382856'],
  [form('text', 3), 'AB', [0x4142, 0, 0], 'AB'],
  [form('text', 2, 'BA'), '“pump”', [0x7570, 0x706d], 'pump'],
  [form('bytes', 2), '01 02 0A FF', [0x0102, 0x0aff], '01 02 0a ff'],
])('%j: %s', (own, typed, words, shown) => {
  expect(wideWords(own, typed)).toEqual({ ok: true, value: words });
  expect(wideText(own, words)).toBe(shown);
});

it.each([
  [form('uint64', 4), '-1', /does not fit/],
  [form('uint64', 4), '18446744073709551616', /does not fit/],
  [form('int64', 4), '1.5', /no whole number/],
  [form('float64', 4), 'fast', /no decimal number/],
  [form('text', 2), 'longer', '6 characters: it holds 4'],
  [form('text', 2), 'Ω', '“Ω” is no character of Latin-1'],
  [form('bytes', 2), '01 02 03', '3 bytes: it takes 4'],
  [form('bytes', 2), 'no hex', /./],
])('%j does not hold %s', (own, typed, why) => {
  const told = wideWords(own, typed);
  expect(told.ok).toBe(false);
  if (!told.ok) expect(told.error).toMatch(why);
});

it('what is typed and held is read back as it was', () => {
  const printable = fc.string({
    unit: fc.integer({ min: 0x21, max: 0x7e }).map((code) => String.fromCharCode(code)),
    maxLength: 8,
  });
  fc.assert(
    fc.property(
      printable.filter((text) => !/^["“].*["”]$/.test(text)),
      fc.constantFrom(undefined, 'BA'),
      (text, order) => {
        const words = wideWords(form('text', 4, order), text);
        expect(words.ok && wideText(form('text', 4, order), words.value)).toBe(text);
      },
    ),
  );
  fc.assert(
    fc.property(
      fc.bigInt({ min: -(2n ** 63n), max: 2n ** 63n - 1n }),
      fc.constantFrom('ABCDEFGH', 'GHEFCDAB', 'BADCFEHG', 'HGFEDCBA'),
      (value, order) => {
        const words = wideWords(form('int64', 4, order), `${value}`);
        expect(words.ok && wideText(form('int64', 4, order), words.value)).toBe(`${value}`);
      },
    ),
  );
});
