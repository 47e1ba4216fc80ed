const CLOCK = /^(\d{1,2}):(\d{2})(?::(\d{2}))?$/;
const DAY = 86_400;

/** A time of day as the second in which it begins, and the one in which it is over; null where it is none. */
function moment(text: string): { readonly from: number; readonly to: number } | null {
  const [, hours, minutes, seconds] = CLOCK.exec(text.trim()) ?? [];
  if (hours === undefined || minutes === undefined) return null;
  const [h, m, s] = [hours, minutes, seconds ?? '0'].map((part) => parseInt(part, 10)) as [number, number, number];
  if (h > 23 || m > 59 || s > 59) return null;
  const from = 3600 * h + 60 * m + s;
  return { from, to: from + (seconds === undefined ? 60 : 1) };
}

/** Seconds of the day, from one on and up to another; over midnight where that is the smaller one. */
export interface DaySpan {
  readonly from: number;
  readonly to: number;
}

/**
 * `10:15`, that minute; `10:15:30`, that second; `10:15-10:20`, from the one to the end of the other, over midnight too. Null for anything else.
 */
export function daySpan(text: string): DaySpan | null {
  const [first = '', last = first, ...more] = text.split(/[-–]/);
  const [from, to] = [moment(first), moment(last)];
  return from && to && more.length === 0 ? { from: from.from, to: to.to } : null;
}

/** Whether a second of the day lies in a span; seconds beyond midnight count on. */
export function isInSpan({ from, to }: DaySpan, second: number): boolean {
  const own = second % DAY;
  return from < to ? own >= from && own < to : own >= from || own < to;
}

/** The second of the day at a time, by this computer's clock; milliseconds of it after the point. */
export function secondOfDay(ms: number): number {
  const at = new Date(ms);
  return 3600 * at.getHours() + 60 * at.getMinutes() + at.getSeconds() + at.getMilliseconds() / 1000;
}
