import { done, failed, type Result } from '../result';
import { wordsOfType, type DateType } from './type';

/** A moment as a drive keeps it: no zone, since drives have none; `hour` and so on are 0 where it is only a day. */
interface Moment {
  readonly year: number;
  readonly month: number;
  readonly day: number;
  readonly hour: number;
  readonly minute: number;
  readonly second: number;
}

interface DateForm {
  /** How it is kept, as the sheet's editor says it. */
  readonly text: string;
  /** Whether a time of day belongs to it. */
  readonly hasTime: boolean;
  /** What the words say, highest first; what is no date comes out as one that no calendar has. */
  readonly read: (words: readonly number[]) => Moment;
  /** The words of a moment; null where the form does not reach it. */
  readonly write: (moment: Moment) => readonly number[] | null;
}

const DAY_MS = 86_400_000;
const MIDNIGHT = { hour: 0, minute: 0, second: 0 } as const;

/** One number of 32 bits as two words, and back. */
const two = (number: number): readonly number[] => [Math.floor(number / 0x1_0000), number % 0x1_0000];
const one = ([high = 0, low = 0]: readonly number[]): number => high * 0x1_0000 + low;

const momentOf = (ms: number): Moment => {
  const at = new Date(ms);
  return {
    year: at.getUTCFullYear(),
    month: at.getUTCMonth() + 1,
    day: at.getUTCDate(),
    hour: at.getUTCHours(),
    minute: at.getUTCMinutes(),
    second: at.getUTCSeconds(),
  };
};
const msOf = ({ year, month, day, hour, minute, second }: Moment): number =>
  Date.UTC(year, month - 1, day, hour, minute, second);

const fromDigits = (digits: number): Moment => ({
  year: Math.floor(digits / 10_000),
  month: Math.floor(digits / 100) % 100,
  day: digits % 100,
  ...MIDNIGHT,
});
const digitsOf = ({ year, month, day }: Moment): number => year * 10_000 + month * 100 + day;
/** Decimal digits four bits each; NaN where one of them is above 9. */
const fromBcd = (pattern: number): number => {
  const text = pattern.toString(16);
  return /^\d+$/.test(text) ? Number(text) : NaN;
};

const EPOCH_1984_MS = Date.UTC(1984, 0, 1);

/**
 * The forms of a date that drives and controllers keep. Sources, from memory: `date-bits` as directories of ECMA-107 have it, `time-of-day` as
 * TIME_OF_DAY of CiA 301 (milliseconds in the low 28 bits, then days since 1 January 1984, here the words in the order of the value), `date-seconds`
 * as POSIX counts; the others are common practice, no source.
 */
export const DATE_FORMS: Readonly<Record<DateType, DateForm>> = {
  'date-bits': {
    text: 'date in bits: 7 of years since 1980, 4 of the month, 5 of the day',
    hasTime: false,
    read: ([word = 0]) => ({ year: 1980 + (word >> 9), month: (word >> 5) & 15, day: word & 31, ...MIDNIGHT }),
    write: ({ year, month, day }) => (year < 1980 || year > 2107 ? null : [((year - 1980) << 9) | (month << 5) | day]),
  },
  'date-digits': {
    text: 'date as a number of 32 bits: 20260103',
    hasTime: false,
    read: (words) => fromDigits(one(words)),
    write: (moment) => two(digitsOf(moment)),
  },
  'date-bcd': {
    text: 'date in decimal digits: 0x20260103',
    hasTime: false,
    read: (words) => fromDigits(fromBcd(one(words))),
    write: (moment) => two(parseInt(`${digitsOf(moment)}`, 16)),
  },
  'date-seconds': {
    text: 'date and time in seconds since 1970',
    hasTime: true,
    read: (words) => momentOf(one(words) * 1000),
    write: (moment) => {
      const seconds = msOf(moment) / 1000;
      return seconds < 0 || seconds >= 2 ** 32 ? null : two(seconds);
    },
  },
  'date-fields': {
    text: 'date in three registers: year, month, day',
    hasTime: false,
    read: ([year = 0, month = 0, day = 0]) => ({ year, month, day, ...MIDNIGHT }),
    write: ({ year, month, day }) => [year, month, day],
  },
  'time-fields': {
    text: 'date and time in six registers: year to second',
    hasTime: true,
    read: ([year = 0, month = 0, day = 0, hour = 0, minute = 0, second = 0]) => ({
      year,
      month,
      day,
      hour,
      minute,
      second,
    }),
    write: ({ year, month, day, hour, minute, second }) => [year, month, day, hour, minute, second],
  },
  'time-of-day': {
    text: 'date and time in days since 1984 and milliseconds',
    hasTime: true,
    read: ([high = 0, low = 0, days = 0]) => {
      const ms = one([high & 0x0fff, low]);
      return ms < DAY_MS ? momentOf(EPOCH_1984_MS + days * DAY_MS + ms) : { ...NO_DAY };
    },
    write: (moment) => {
      const sinceMs = msOf(moment) - EPOCH_1984_MS;
      const days = Math.floor(sinceMs / DAY_MS);
      return days < 0 || days > 0xffff ? null : [...two(sinceMs - days * DAY_MS), days];
    },
  },
};

const NO_DAY: Moment = { year: NaN, month: NaN, day: NaN, ...MIDNIGHT };

/** Whether the calendar has the day and the clock the time. */
function exists(moment: Moment): boolean {
  const back = momentOf(msOf(moment));
  return (Object.keys(back) as (keyof Moment)[]).every((part) => back[part] === moment[part]);
}

const padded = (number: number, digits = 2): string => `${number}`.padStart(digits, '0');

/** A date as ISO 8601 writes it, `2026-01-03` or `2026-01-03 07:40:00`; the words in hex where they are none. */
export function dateText(type: DateType, words: readonly number[]): string {
  const { hasTime, read } = DATE_FORMS[type];
  const moment = read(words);
  if (!exists(moment)) return `no date: ${words.map((word) => padded16(word)).join(' ')}`;
  const { year, month, day, hour, minute, second } = moment;
  const date = [padded(year, 4), padded(month), padded(day)].join('-');
  return hasTime ? `${date} ${[hour, minute, second].map((part) => padded(part)).join(':')}` : date;
}

const padded16 = (word: number): string => word.toString(16).toUpperCase().padStart(4, '0');

const ISO = /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/;

/** Words that are no date, as `dateText` says them: a clock that was never set comes back as it was. */
const NO_DATE = /^no date:((?:\s+[0-9a-f]{4})+)$/i;

/** The words of a date that a person typed, or of what `dateText` says; a sentence where it is none, or the form does not hold it. */
export function dateWords(type: DateType, typed: string): Result<readonly number[], string> {
  const { hasTime, write } = DATE_FORMS[type];
  const unset = NO_DATE.exec(typed.trim())?.[1]?.trim().split(/\s+/);
  if (unset?.length === wordsOfType(type)) return done(unset.map((word) => parseInt(word, 16)));
  const [, year, month, day, hour, minute, second] = ISO.exec(typed.trim()) ?? [];
  const like = hasTime ? '2026-01-03 07:40:00' : '2026-01-03';
  if (year === undefined) return failed(`a date such as ${like}`);
  if (hour !== undefined && !hasTime) return failed(`it keeps a day and no time: ${like}`);
  const moment = {
    year: Number(year),
    month: Number(month),
    day: Number(day),
    hour: Number(hour ?? 0),
    minute: Number(minute ?? 0),
    second: Number(second ?? 0),
  };
  if (!exists(moment)) return failed(`${typed.trim()} is in no calendar`);
  const words = write(moment);
  return words ? done(words) : failed(`${typed.trim()} is beyond what this form of a date reaches`);
}
