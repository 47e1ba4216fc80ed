import { wordsToBytes } from '../bytes/words';
import { hexNumber } from '../bytes/hex';
import { bytesToText } from '../bytes/text';
import type { Direction } from '../direction';
import type { UssMessage } from './message';
import { refusalText, RESPONSES, TASKS, type IdSpec } from './tables';

/** What a task or response identifier asks or carries; undefined for one that is reserved. */
const idSpec = (ak: number, direction: Direction): IdSpec | undefined =>
  (direction === 'request' ? TASKS : RESPONSES)[ak];

/**
 * The value in the parameter channel: a 16-bit one stands in the second of two value words (or in the only one), a 32-bit one in both, high
 * word first. Null where the id carries none.
 */
export function valueOf({ ak, pwe = [] }: UssMessage, direction: Direction): number | null {
  const spec = ak === undefined ? undefined : idSpec(ak, direction);
  const [first, second] = pwe;
  switch (spec?.carries) {
    case 'double':
      return first === undefined || second === undefined ? null : first * 65536 + second;
    case 'word':
    case 'count':
    case 'refusal':
    case 'description':
      return second ?? first ?? null;
    default:
      return null;
  }
}

/** Value words for a 16 or 32-bit value in a channel of so many words. Null where a double word does not fit. */
export function valueWords(value: number, width: 1 | 2, pkwWords: number): readonly number[] | null {
  if (width === 2) return pkwWords < 4 ? null : [Math.floor(value / 65536), value & 0xffff];
  return pkwWords < 4 ? [value & 0xffff] : [0, value & 0xffff];
}

/**
 * What the parameter channel says, in words. A sheet may know what the parameter is called, in the manual's number, and what its value means.
 */
export function channelText(
  message: UssMessage,
  direction: Direction,
  known: { readonly called?: string; readonly meaning?: string } = {},
): string {
  const { ak, pnu, ind = 0, pwe = [], spm } = message;
  if (ak === undefined || pnu === undefined) return 'no parameter channel';
  const spec = idSpec(ak, direction);
  if (!spec) return `id ${ak} is not used in this direction`;
  if (ak === 0) return spec.name;
  const place = `${known.called ?? `parameter ${pnu}`}${ind === 0 ? '' : `, index word ${hexNumber(ind)}`}`;
  const value = valueOf(message, direction);
  const report = spm ? ', a change report waits' : '';
  if (spec.carries === 'refusal') return `${place} refused: ${refusalText(value ?? 0)}${report}`;
  if (spec.carries === 'text') return `${place}, text “${textIn(pwe)}”${report}`;
  return `${spec.name}${spec.carries === 'nothing' ? ' ' : ', '}${place}${value === null ? '' : `: ${known.meaning || value}`}${report}`;
}

/** Words that hold a text, two characters to a word, the last one filled with 0; null where a character is more than a byte. */
export function textWords(text: string): readonly number[] | null {
  const codes = [...text].map((letter) => letter.codePointAt(0) ?? 0);
  if (codes.some((code) => code > 0xff)) return null;
  return Array.from(
    { length: Math.ceil(codes.length / 2) },
    (_, i) => ((codes[2 * i] ?? 0) << 8) | (codes[2 * i + 1] ?? 0),
  );
}

/** Text of a parameter, two characters to a word. */
export const textIn = (pwe: readonly number[]): string =>
  bytesToText(wordsToBytes(pwe))
    .replace(/\0+$/, '')
    .replace(/[^\x20-\x7e]/g, '·');
