import { DATE_FORMS, dateText, dateWords } from './date';
import { wordsOfType, type DateType } from './type';

const FORMS = Object.keys(DATE_FORMS) as DateType[];

/** Every 97th day and an odd second of each, from 1984 on: all forms reach them. */
const MOMENTS = Array.from(
  { length: 400 },
  (_, i) => new Date(Date.UTC(1984, 0, 1 + 97 * i, i % 24, i % 60, (7 * i) % 60)),
);

const iso = (at: Date, hasTime: boolean): string =>
  at
    .toISOString()
    .slice(0, hasTime ? 19 : 10)
    .replace('T', ' ');

it.each(FORMS)('%s: what is typed comes back as it was, in as many words as the type takes', (type) => {
  for (const at of MOMENTS) {
    const typed = iso(at, DATE_FORMS[type].hasTime);
    const words = dateWords(type, typed);
    expect(words.ok && words.value).toHaveLength(wordsOfType(type));
    expect(words.ok && dateText(type, words.value)).toBe(typed);
  }
});

it.each([
  // Unix time of a well-known second: POSIX, 4.16, seconds since the Epoch; 1,000,000,000 is 2001-09-09 01:46:40 UTC.
  ['date-seconds', '2001-09-09 01:46:40', [0x3b9a, 0xca00]],
  // The highest second of 32 bits without a sign.
  ['date-seconds', '2106-02-07 06:28:15', [0xffff, 0xffff]],
  // ECMA-107, date field of a directory entry: bits 9 to 15 the years since 1980, 5 to 8 the month, 0 to 4 the day (from memory).
  ['date-bits', '1980-01-01', [0x0021]],
  ['date-bits', '2026-01-03', [(46 << 9) | (1 << 5) | 3]],
  // CiA 301, TIME_OF_DAY: days since 1 January 1984 (from memory); 366 days later it is 1985, since 1984 was a leap year.
  ['time-of-day', '1985-01-01 00:00:01', [0, 1000, 366]],
  // Common practice, no source.
  ['date-bcd', '2026-01-03', [0x2026, 0x0103]],
  ['date-digits', '2026-01-03', [20260103 >> 16, 20260103 & 0xffff]],
  ['date-fields', '2024-02-29', [2024, 2, 29]],
  ['time-fields', '2024-02-29 23:59:58', [2024, 2, 29, 23, 59, 58]],
] as const)('%s %s', (type, text, words) => {
  expect(dateWords(type, text)).toEqual({ ok: true, value: words });
  expect(dateText(type, words)).toBe(text);
});

it.each([
  ['date-bcd', [0x2026, 0x1a03]],
  ['date-fields', [2023, 2, 29]],
  ['date-fields', [0, 0, 0]],
  ['time-fields', [2026, 1, 3, 24, 0, 0]],
  ['time-of-day', [0x0fff, 0xffff, 1]],
  ['date-bits', [0]],
] as const)('%s: words that no calendar has are said as they stand, and come back so, %j', (type, words) => {
  const text = `no date: ${words.map((word) => word.toString(16).toUpperCase().padStart(4, '0')).join(' ')}`;
  expect(dateText(type, words)).toBe(text);
  expect(dateWords(type, text)).toEqual({ ok: true, value: words });
});

it.each([
  ['date-bcd', '', 'a date such as 2026-01-03'],
  ['date-bcd', '3 January', 'a date such as 2026-01-03'],
  ['date-bcd', 'no date: 2026 1A03 0000', 'a date such as 2026-01-03'],
  ['date-seconds', 'now', 'a date such as 2026-01-03 07:40:00'],
  ['date-bcd', '2026-01-03 07:40', 'it keeps a day and no time: 2026-01-03'],
  ['date-fields', '2023-02-29', '2023-02-29 is in no calendar'],
  ['time-fields', '2023-02-28 24:00', '2023-02-28 24:00 is in no calendar'],
  ['date-bits', '1979-12-31', '1979-12-31 is beyond what this form of a date reaches'],
  ['date-seconds', '1969-12-31 23:59:59', '1969-12-31 23:59:59 is beyond what this form of a date reaches'],
] as const)('%s: “%s” is refused in a sentence', (type, typed, error) => {
  expect(dateWords(type, typed)).toEqual({ ok: false, error });
});
