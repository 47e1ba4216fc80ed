import { parseQuantity } from './quantity';
import { fractionText, parseRational } from './rational';

it.each([
  ['15', 'Hz', '15'],
  ['15 Hz', 'Hz', '15'],
  ['15hz', 'Hz', '15'],
  ['−17,5 Hz', 'Hz', '-35/2'],
  ['0.015 kHz', 'Hz', '15'],
  ['250 ms', 's', '1/4'],
  ['1450 min⁻¹', 'rpm', '1450'],
  ['1450 r/min', '1/min', '1450'],
  ['2.8A', 'A', '14/5'],
  ['2800 mA', 'A', '14/5'],
  ['100 %', '%', '100'],
  ['1/3 Hz', 'Hz', '1/3'],
  ['1e3 Hz', 'Hz', '1000'],
  ['5 mm', 'mm', '5'],
  ['3 m/min', 'm/min', '3'],
])('%s in a field of %s is %s', (text, unit, value) => {
  const read = parseQuantity(text, unit);
  expect(read.ok && fractionText(read.value)).toBe(value);
});

it.each([
  ['15 rpm', 'Hz', 3, 6, '“rpm” is not the unit of this field, Hz'],
  // A milli- and a mega- are not one thing.
  ['5 MM', 'm', 2, 4, '“MM” is not the unit of this field, m'],
  ['15 Hz', '', 3, 5, '“Hz” stands behind a plain number'],
  ['12.5x', 'Hz', 4, 5, '“x” is not the unit of this field, Hz'],
])('%s in a field of %j is refused at its place', (text, unit, start, end, sentence) => {
  expect(parseQuantity(text, unit)).toEqual({
    ok: false,
    error: { code: 'not-allowed', start, end, text: sentence },
  });
});

it('what is no number at all has the fault of a number', () => {
  for (const text of ['', 'Hz', '--', '1/0 Hz'])
    expect(parseQuantity(text, 'Hz')).toEqual(expect.objectContaining({ ok: false }));
  expect(parseQuantity('fast', 'Hz')).toEqual(parseRational('fast'));
});

it('a page that is pasted into a field is refused as quickly as a word', () => {
  for (const text of [`1${' '.repeat(200_000)}x`, `${'1 '.repeat(100_000)}Hz`, '1'.repeat(200_000)])
    expect(parseQuantity(text, 'Hz')).toEqual(expect.objectContaining({ ok: false }));
});
