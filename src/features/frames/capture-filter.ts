import type { FrameFilter } from '../../core/capture/frame-filter';

/** A filter as it is typed. */
export type TypedFilter = Readonly<Record<'unit' | 'fc' | 'register' | 'only' | 'from' | 'to' | 'text', string>>;
export const NO_FILTER: TypedFilter = { unit: '', fc: '', register: '', only: '', from: '', to: '', text: '' };

/** A station, function or register, decimal or hex. */
export const numberIn = (text: string): number | undefined =>
  /^\s*(?:0x[0-9a-f]{1,4}|\d{1,5})\s*$/i.test(text) ? Number(text) : undefined;
/** Seconds as microseconds. */
export const secondsIn = (text: string): number | undefined =>
  /^\s*\d+(?:\.\d+)?\s*$/.test(text) ? Number(text) * 1e6 : undefined;

/** What the typed fields ask; one that is no number asks nothing. */
export function filterOf({ unit, fc, register, only, from, to }: TypedFilter): FrameFilter {
  const fields = {
    unit: numberIn(unit),
    fc: numberIn(fc),
    register: numberIn(register),
    fromUs: secondsIn(from),
    toUs: secondsIn(to),
  };
  const given = Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined));
  return { ...given, ...(only === '' ? {} : { only: only as NonNullable<FrameFilter['only']> }) };
}
