import { daySpan, isInSpan } from './time-term';

const at = (text: string): number => {
  const [h = 0, m = 0, s = 0] = text.split(':').map(Number);
  return 3600 * h + 60 * m + s;
};

it.each([
  ['10:15', '10:15:00', '10:15:59', '10:16:00'],
  ['10:15:30', '10:15:30', '10:15:30', '10:15:31'],
  ['10:15-10:20', '10:15:00', '10:20:59', '10:21:00'],
  ['9:05 – 9:05:10', '9:05:00', '9:05:10', '9:05:11'],
  ['23:50-0:10', '23:50:00', '0:10:59', '0:11:00'],
  ['0:00-23:59', '0:00:00', '23:59:59', null],
])('“%s” begins at %s, still has %s, no longer %s', (text, first, last, after) => {
  const span = daySpan(text)!;
  expect(isInSpan(span, at(first))).toBe(true);
  expect(isInSpan(span, at(last) + 0.999)).toBe(true);
  if (first !== '0:00:00') expect(isInSpan(span, at(first) - 0.001)).toBe(false);
  if (after !== null) expect(isInSpan(span, at(after))).toBe(false);
  // A session that runs on over midnight counts its seconds on.
  expect(isInSpan(span, at(first) + 86_400)).toBe(true);
});

it.each(['24:00', '10:60', '10:15:60', '10', '10:5', '10:15-', '-10:15', '10:15-10:20-10:30', '1015', 'late'])(
  '“%s” is no time of day',
  (text) => {
    expect(daySpan(text)).toBeNull();
  },
);
