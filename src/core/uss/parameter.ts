import { failed, done, type Result } from '../result';
import type { UssDraft } from './encode';
import { taskId, type UssKind } from './task';
import { valueWords } from './value';

/** How a drive family packs numbers of 2000 and more and array indices into PNU and IND; every family has its own way, so the sheet says it. */
export interface UssRule {
  readonly pkwWords: 3 | 4;
  readonly pzdWords: number;
  /** Which half of IND holds the array index; the other one holds the page bits. */
  readonly indexHalf: 'high' | 'low';
  /** Ranges of parameter numbers with the bits that stand for them. A number in a range is sent as number - from. */
  readonly pages: readonly { readonly from: number; readonly bits: number }[];
}

/**
 * How many words of a telegram's net data are its parameter channel, by the sheet: the sheet's width, or, where the telegram is of another size,
 * what its process data leave (the channel of variable length). Undefined where neither fits, so that the length alone tells.
 */
export function channelWords(
  netWords: number,
  rule: Pick<UssRule, 'pkwWords' | 'pzdWords'> | null,
): number | undefined {
  if (!rule) return undefined;
  const rest = netWords - rule.pzdWords;
  return rest === 0 || rest >= 3 ? rest : undefined;
}

/** A parameter by its number in the manual. */
export interface UssParameter extends UssKind {
  readonly number: number;
}

export interface UssPlace {
  readonly pnu: number;
  readonly ind: number;
  readonly working: string;
}

/** PNU and IND of a parameter number and element by the sheet's rule. Null where no page reaches it. */
export function placeOf(rule: UssRule, number: number, element = 0): UssPlace | null {
  const page = [...rule.pages].sort((a, b) => b.from - a.from).find(({ from }) => number >= from) ?? {
    from: 0,
    bits: 0,
  };
  const pnu = number - page.from;
  if (number < 0 || pnu > 2047 || element < 0 || element > 0xff) return null;
  const ind = rule.indexHalf === 'high' ? (element << 8) | page.bits : (page.bits << 8) | element;
  const half = rule.indexHalf === 'high' ? 'low' : 'high';
  const paged = page.from === 0 ? '' : ` − ${page.from}, page bits ${page.bits} in the ${half} half of IND`;
  return {
    pnu,
    ind,
    working: `${number}${paged}${page.from === 0 ? '' : ` = ${pnu}`}${element === 0 ? '' : `; element ${element} in the ${rule.indexHalf} half`}`,
  };
}

/** The number and element that PNU and IND stand for. */
export function numberOf(
  rule: UssRule,
  pnu: number,
  ind: number,
): { readonly number: number; readonly element: number } {
  const [high, low] = [(ind >> 8) & 0xff, ind & 0xff];
  const [element, bits] = rule.indexHalf === 'high' ? [high, low] : [low, high];
  const page = rule.pages.find((candidate) => candidate.bits === bits);
  return { number: pnu + (page?.from ?? 0), element };
}

export interface UssTask {
  readonly draft: UssDraft;
  /** Why this task id. */
  readonly because: string;
}

/** Reads a parameter; an array's element by its own task. */
export function readTask(
  rule: UssRule,
  station: number,
  parameter: UssParameter,
  element = 0,
): Result<UssTask, string> {
  const place = placeOf(rule, parameter.number, element);
  if (!place) return failed(`no page of the sheet’s rule reaches parameter ${parameter.number}`);
  const array = parameter.elements > 1;
  return done({
    draft: {
      address: station,
      pkwWords: rule.pkwWords,
      ak: taskId('read', parameter),
      pnu: place.pnu,
      ind: place.ind,
      pzd: new Array<number>(rule.pzdWords).fill(0),
    },
    because: array ? 'task 6: one element of an array is read' : 'task 1: the parameter is no array',
  });
}

/** Writes a parameter: the sheet says whether it is a word or a double word and an array or not, the user where it goes. */
export function writeTask(
  rule: UssRule,
  station: number,
  parameter: UssParameter,
  value: number,
  memory: 'working' | 'kept',
  element = 0,
): Result<UssTask, string> {
  const place = placeOf(rule, parameter.number, element);
  if (!place) return failed(`no page of the sheet’s rule reaches parameter ${parameter.number}`);
  const words = valueWords(value, parameter.double ? 2 : 1, rule.pkwWords);
  if (!words) return failed('a double word does not fit a parameter channel of 3 words');
  const kind = `${parameter.elements > 1 ? 'array ' : ''}${parameter.double ? 'double word' : 'word'}`;
  const ak = taskId(memory, parameter);
  return done({
    draft: {
      address: station,
      pkwWords: rule.pkwWords,
      ak,
      pnu: place.pnu,
      ind: place.ind,
      pwe: words,
      pzd: new Array<number>(rule.pzdWords).fill(0),
    },
    because: `task ${ak}: ${kind}, ${memory === 'kept' ? 'stored in non-volatile memory' : 'working memory only'}`,
  });
}
