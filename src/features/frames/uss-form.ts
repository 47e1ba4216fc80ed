import { hexNumber } from '../../core/bytes/hex';
import { failed, done, type Result } from '../../core/result';
import { encodeUss } from '../../core/uss/encode';
import type { UssMessage } from '../../core/uss/message';
import { numberOf, placeOf, type UssRule } from '../../core/uss/parameter';
import { actOfTask, kindOfTask, taskId, type UssAct } from '../../core/uss/task';
import { TASKS } from '../../core/uss/tables';
import { textIn, textWords, valueOf, valueWords } from '../../core/uss/value';

/** What a telegram is for: an act on a parameter, or none. */
export type UssPurpose = UssAct | 'mirror' | 'none';

export const PURPOSES: readonly (readonly [UssPurpose, string])[] = [
  ['mirror', 'Mirror: the same back'],
  ['none', 'Process data only'],
  ['read', 'Read parameter'],
  ['working', 'Write, working memory'],
  ['kept', 'Write and store'],
  ['count', 'Read number of elements'],
  ['describe', 'Read description element'],
  ['redescribe', 'Write description element'],
  ['text', 'Read or change text'],
];

/** Acts that carry a number. */
export const CARRIES_NUMBER: ReadonlySet<UssPurpose> = new Set(['working', 'kept', 'redescribe']);

/** A telegram by its fields, as the form shows them. */
export interface UssForm {
  readonly purpose: UssPurpose;
  /** The parameter's number in the manual; without a sheet the one in PNU. */
  readonly number: number;
  /** Element of an array or a description; without a sheet the whole index word, for no rule says which half is which. */
  readonly element: number;
  readonly double: boolean;
  readonly array: boolean;
  /** The value's bits, 0 to 2^32 - 1. */
  readonly raw: number;
  readonly text: string;
  /** Words of the parameter channel: 0, 3, 4, or more where it is variable. */
  readonly pkwWords: number;
  readonly pzd: readonly number[];
}

/** The form of a telegram. */
export function ussFormOf(message: UssMessage | null, rule: UssRule | null): UssForm {
  const {
    ak = 0,
    pnu = 0,
    ind = 0,
    pwe = [],
    pzd = [],
    pkwWords = rule?.pkwWords ?? 4,
    mirror = false,
  } = message ?? {};
  const purpose: UssPurpose = mirror ? 'mirror' : (actOfTask(ak) ?? 'none');
  return {
    purpose,
    ...(rule ? numberOf(rule, pnu, ind) : { number: pnu, element: ind }),
    ...kindOfTask(ak),
    raw: (message && valueOf(message, 'request')) ?? 0,
    text: purpose === 'text' ? textIn(pwe) : '',
    pkwWords,
    pzd,
  };
}

interface Built {
  readonly bytes: Uint8Array;
  /** Why this task id; empty where there is no task. */
  readonly because: string;
}

/** The telegram of a form; the error is a sentence. */
export function ussBytes(form: UssForm, address: number, rule: UssRule | null): Result<Built, string> {
  const { purpose, pzd } = form;
  if (purpose === 'mirror' || purpose === 'none') {
    const channel = form.pkwWords > 0 ? { ak: 0, pnu: 0 } : {};
    return built(encodeUss({ address, mirror: purpose === 'mirror', pkwWords: form.pkwWords, ...channel, pzd }), '');
  }
  const place = rule ? placeOf(rule, form.number, form.element) : { pnu: form.number, ind: form.element };
  if (!place) return failed(`no page of the sheet’s rule reaches parameter ${form.number}`);
  const words = valueOfForm(form, purpose);
  if (!words.ok) return words;
  const pkwWords = Math.max(form.pkwWords, words.value.length + 2, 3);
  const ak = taskId(purpose, { double: form.double, elements: form.array ? 2 : 1 });
  const because = `task ${ak}: ${TASKS[ak]?.name ?? ''}, PNU ${place.pnu}, IND ${hexNumber(place.ind)}`;
  return built(encodeUss({ address, pkwWords, ak, pnu: place.pnu, ind: place.ind, pwe: words.value, pzd }), because);
}

/** The value words of an act. A text makes the channel as long as it needs. */
function valueOfForm(form: UssForm, purpose: UssAct): Result<readonly number[], string> {
  if (purpose === 'text') {
    const words = textWords(form.text);
    return words ? done(words) : failed('a text of the channel has one byte to a character');
  }
  if (!CARRIES_NUMBER.has(purpose)) return done([]);
  const words = valueWords(form.raw, form.double ? 2 : 1, form.pkwWords);
  return words ? done(words) : failed('a double word does not fit a parameter channel of 3 words');
}

const built = (made: ReturnType<typeof encodeUss>, because: string): Result<Built, string> =>
  made.ok ? done({ bytes: made.value, because }) : failed(made.error[0]?.text ?? 'no telegram');
