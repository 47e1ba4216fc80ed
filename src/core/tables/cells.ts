import type { BitName, Choice } from '../values/described';
import type { ValueType } from '../values/type';
import { divide, ratio, type Rational } from '../scaling/rational';
import { NUMBER, plain, printedNumber, type DecimalMark } from './numbers';
import { knownUnit } from './units';

/** Cells of a manual's table, each read by what it holds. Nothing is assumed: what a cell does not say stays out. */

export interface RangeReading {
  readonly min: Rational | null;
  readonly max: Rational | null;
  readonly unit: string | null;
  /** How many decimals were printed at most: a limit with decimals is in the unit and no count. */
  readonly decimals: number;
}

const JOIN = String.raw`(?:\s*(?:\.{2,3}|…|–|—|~|÷|-|/|;)\s*|\s+(?:to|bis|à|a|up to|up|and|und|et)\s+)`;
const UNIT = String.raw`(?!(?:to|bis|à|a|up|and|und|et)\s|[…–—~÷])[^\d\s+\-.,;:()[\]][^\s,;()[\]]*`;
const BOTH = new RegExp(
  String.raw`^\[?\(?\s*(${NUMBER})\s*(${UNIT})??${JOIN}(${NUMBER})\s*[\])]?\s*(${UNIT}(?:\s\S{1,3})?)?\s*[\])]?\s*(?:\(.*\))?$`,
  'i',
);
const WITH_SIGN = new RegExp(String.raw`^(?:±|\+/-|\+-)\s*(${NUMBER})\s*(${UNIT})?$`, 'i');
const AT_MOST = new RegExp(
  String.raw`^(?:≤|<=|max\.?|maximum|up to|bis zu|höchstens)\s*(${NUMBER})\s*(${UNIT})?$`,
  'i',
);
const AT_LEAST = new RegExp(String.raw`^(?:≥|>=|min\.?|minimum|from|ab|mindestens)\s*(${NUMBER})\s*(${UNIT})?$`, 'i');
const MIN_MAX = new RegExp(
  String.raw`^min\.?:?\s*(${NUMBER})\s*(${UNIT})?[\s,;/]*max\.?:?\s*(${NUMBER})\s*(${UNIT})?$`,
  'i',
);
/** A name may stand for a limit that only the drive knows. */
const FROM_NUMBER = new RegExp(String.raw`^(${NUMBER})\s*(${UNIT})??${JOIN}[A-Za-z].*$`, 'i');
const TO_NUMBER = new RegExp(
  String.raw`^[A-Za-z][\w.-]*(?:\s*(?:\.{2,3}|…|–)\s*|\s+(?:to|bis|à)\s+)(${NUMBER})\s*(${UNIT})?$`,
  'i',
);

const decimalsOf = (text: string | undefined, mark: DecimalMark): number => {
  const at = text?.lastIndexOf(mark) ?? -1;
  return at < 0 ? 0 : (text?.length ?? 0) - at - 1;
};

/** `0.1 to 600.0 s`, `−100…+100 %`, `±50`, `≤ 8`; null where the cell is no range. */
export function rangeIn(cell: string, mark: DecimalMark): RangeReading | null {
  const text = plain(cell).replace(/\s+/g, ' ').trim();
  const number = (part: string | undefined): Rational | null => (part === undefined ? null : printedNumber(part, mark));
  const reading = (min: string | undefined, max: string | undefined, unit: string | undefined): RangeReading => ({
    min: number(min),
    max: number(max),
    unit: unit === undefined ? null : knownUnit(unit),
    decimals: Math.max(decimalsOf(min, mark), decimalsOf(max, mark)),
  });
  const both = BOTH.exec(text) ?? MIN_MAX.exec(text);
  if (both) return reading(both[1], both[3], both[4] ?? both[2]);
  const sign = WITH_SIGN.exec(text);
  if (sign) return reading(`-${sign[1] ?? ''}`, sign[1], sign[2]);
  const most = AT_MOST.exec(text) ?? TO_NUMBER.exec(text);
  if (most) return reading(undefined, most[1], most[2]);
  const least = AT_LEAST.exec(text) ?? FROM_NUMBER.exec(text);
  return least ? reading(least[1], undefined, least[2]) : null;
}

const SINGLE = new RegExp(String.raw`^(${NUMBER})\s*(\S.*)?$`, 'i');

/** `5.0 s`, `0x10`, `1 (on)`; null where the cell does not begin with a number. */
export function numberIn(
  cell: string,
  mark: DecimalMark,
): { readonly value: Rational; readonly unit: string | null; readonly decimals: number } | null {
  const [, digits, rest = ''] = SINGLE.exec(plain(cell).trim()) ?? [];
  const value = digits === undefined ? null : printedNumber(digits, mark);
  if (!value) return null;
  const unit = rest === '' ? null : knownUnit(rest);
  // A word that is no unit makes a text of it, such as `4 poles`; a remark in brackets or behind a colon does not.
  if (rest !== '' && unit === null && !/^[(:=–-]/.test(rest)) return null;
  return { value, unit, decimals: decimalsOf(digits, mark) };
}

const ACCESS: readonly (readonly ['read' | 'read-write' | 'write', RegExp])[] = [
  [
    'read-write',
    /^(?:r\s*[/+,&]?\s*w|read\s*[/,&-]?\s*(?:and )?write|rd\s*\/?\s*wr|w\s*\/\s*r|lesen\s*(?:[/,&]|und)\s*schreiben|l\s*\/\s*[se]|lecture\s*(?:[/,&-]|et)?\s*[ée]criture|read\/wr\.?|rww|rwr|schreib-?\s*(?:\/|und )\s*lesbar)$/i,
  ],
  [
    'read',
    /^(?:r|ro|r\/o|r\/-|read|read[ -]?only|rd|nur lesen|lesen|lesbar|nur lesbar|l|lecture(?: seule)?|const|-\/r|display|anzeige)$/i,
  ],
  ['write', /^(?:w|wo|w\/o|-\/w|write|write[ -]?only|wr|nur schreiben|schreiben|s|[ée]criture(?: seule)?|e)$/i],
];

/** What a cell says of reading and writing, in the usual words of English, German and French; null where it says nothing of it. */
export const accessIn = (cell: string): 'read' | 'read-write' | 'write' | null => {
  const bare = plain(cell)
    .replace(/\([^)]*\)|[*†‡§¹²³⁴⁵°]+$/g, '')
    .trim();
  return ACCESS.find(([, form]) => form.test(bare))?.[0] ?? null;
};

const STANDSTILL =
  /stop(?:ped)?[ -]only|only (?:at|in|when|while|with|if)?\s*(?:the )?(?:drive |motor |shaft )?(?:is )?(?:stop|stand)|\bstand[ -]?still\b|when (?:the )?(?:drive |motor )?(?:is )?(?:stop|stand)|while (?:the )?(?:drive |motor )?(?:is )?stop|not (?:while|when|during) (?:run|motion|operat)|^stop(?:ped|p)?$|stillstand|im stopp|bei stopp|nicht im betrieb|[àa] l['’]arr[êe]t|arr[êe]t seulement|^arr[êe]t$|drive stopped|motor stopped/i;
const ALWAYS =
  /^(?:always|any ?time|at any time|all|run|running|run\/stop|stop\/run|run and stop|while running|also (?:while|when) running|during operation|immer|jederzeit|im betrieb|auch im betrieb|toujours|en marche|[àa] tout moment|any|online|run ?\+ ?stop|run or stop|run, ?stop)$/i;

/** When a write is taken, as a cell says it. */
export function whenIn(cell: string): 'always' | 'standstill' | null {
  const text = plain(cell).trim();
  if (STANDSTILL.test(text)) return 'standstill';
  return ALWAYS.test(text) ? 'always' : null;
}

export const YES = /^(?:yes|y|ja|j|oui|o|x|•|●|✓|✔|true|1|\+)$/i;
export const NO = /^(?:no|n|nein|non|-|–|—|○|✗|✘|false|0)$/i;

const NAMED_TYPES: readonly (readonly [ValueType, RegExp])[] = [
  ['bool', /^(?:bool(?:ean)?|bit|flag|coil|binary|1[ -]?bit)$/],
  ['int8', /^(?:sint|char|signed (?:char|byte))$/],
  ['uint8', /^(?:usint|byte|uchar|unsigned (?:char|byte))$/],
  ['int16', /^(?:int|short|sword|signed (?:int|word|short)|s_?word)$/],
  ['uint16', /^(?:uint|word|ushort|unsigned (?:int|word|short)|unsigned|u_?word)$/],
  ['int32', /^(?:dint|long|longint|signed (?:long|dword|double ?word)|sdword)$/],
  ['uint32', /^(?:udint|dword|ulong|unsigned (?:long|dword|double ?word)|double ?word|udword)$/],
  ['int64', /^(?:lint|long ?long)$/],
  ['uint64', /^(?:ulint|lword|unsigned long ?long)$/],
  [
    'float64',
    /^(?:lreal|double|float ?64|real ?64|f64|double precision(?: float)?|64[ -]?bit (?:float|real)|float 64[ -]?bit)$/,
  ],
  [
    'float32',
    /^(?:real|float|single|float ?32|real ?32|f32|ieee[ -]?754|ieee float|float(?:ing point)?|single precision(?: float)?|32[ -]?bit (?:float|real)|float 32[ -]?bit)$/,
  ],
  ['text', /^(?:string|ascii|text|char(?:acter)?s|visible[ _]?string|str|utf-?8|zeichenkette|cha[iî]ne)$/],
  ['bytes', /^(?:bytes|octet[ _]?string|raw|octets|binary data|byte array)$/],
];
const SIZED =
  /^(unsigned|signed|u|s|i)?[\s_-]*(?:integer|int|i)?[\s_-]*(8|16|32|64)(?:[\s_-]*bits?)?[\s_-]*(unsigned|signed|int(?:eger)?|uint)?(?:[\s_-]*(?:integer|int))?(?:_t)?$/;

/** A data type; null where the cell says none, or only a size. */
export function typeIn(cell: string): ValueType | null {
  const bare = plain(cell)
    .toLowerCase()
    .replace(/[([].*?[)\]]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  const sized = SIZED.exec(bare);
  if (sized) {
    const sign = sized[1] ?? sized[3];
    const isNamed = /int|^i|^s/.test(bare);
    if (sign === undefined && !isNamed) return null;
    return `${sign === 'u' || sign === 'unsigned' || sign === 'uint' ? 'u' : ''}int${sized[2] as '8' | '16' | '32' | '64'}`;
  }
  return NAMED_TYPES.find(([, form]) => form.test(bare))?.[0] ?? null;
}

/** A size in bits: `16 bit`, `2 words`, `4 bytes`, or a number whose heading says of what. */
export function sizeIn(cell: string, heading: string): number | null {
  const [, digits, noun = ''] = /^(\d{1,3})\s*[- ]?\s*([a-zà-ü]*)/i.exec(plain(cell).trim()) ?? [];
  if (digits === undefined) return null;
  const count = parseInt(digits, 10);
  const said = `${noun} ${heading}`.toLowerCase();
  if (/^bit/.test(noun.toLowerCase())) return count;
  if (/byte|octet/.test(said)) return 8 * count;
  if (/word|reg|wort|mots?\b|anzahl/.test(said)) return 16 * count;
  return /bit/.test(said) ? count : null;
}

const ONE_IS = new RegExp(
  String.raw`^(${NUMBER})\s*(?:counts?|digits?|bits?|inc|lsb)?\s*(?:=|≙|≘|corresponds to|entspricht)\s*(${NUMBER})\s*(.*)$`,
  'i',
);
const REVERSED = new RegExp(
  String.raw`^(${NUMBER})\s*(${UNIT})\s*(?:=|≙|≘)\s*(${NUMBER})\s*(?:counts?|digits?|bits?|inc|lsb)?$`,
  'i',
);
const TENTHS = /^(?:[/÷:]\s*(\d+)|1\s*[/:]\s*(\d+)|(?:raw|value|wert|valeur)\s*[/÷]\s*(\d+))(?:\s*(.*))?$/i;
const TIMES = new RegExp(String.raw`^(?:(?:raw|value|wert|valeur)\s*)?[x×*·]\s*(${NUMBER})\s*(.*)$`, 'i');
const POWER = /^10\s*(?:\^\s*|\*\*\s*)?([-⁻]?)([0-9]|[⁰¹²³⁴⁵⁶])$/;
const SUPERSCRIPT = '⁰¹²³⁴⁵⁶';
/** Headings whose number is what one count is worth, however large it is. */
const IS_WORTH = /resol|step|increment|lsb|count|weight|auflos|schritt|pas\b|wertigkeit|quantum|unit|per bit|point/;

/** The value of one count, and its unit where one stands behind. */
export function scaleIn(
  cell: string,
  heading: string,
  mark: DecimalMark,
): { readonly scale: Rational; readonly unit: string | null } | null {
  const text = plain(cell).replace(/\s+/g, ' ').trim();
  const number = (part: string | undefined): Rational | null => {
    const value = part === undefined ? null : printedNumber(part, mark);
    return value && value.num > 0n ? value : null;
  };
  const found = (scale: Rational | null, rest?: string) =>
    scale && { scale, unit: rest ? knownUnit(rest.replace(/\s*\/\s*(?:bit|count|digit|lsb|inc)s?$/i, '')) : null };
  const power = POWER.exec(text);
  if (power && (power[1] !== '' || SUPERSCRIPT.includes(power[2] ?? ' '))) {
    const digit = power[2] ?? '0';
    const tens = 10n ** BigInt(SUPERSCRIPT.includes(digit) ? SUPERSCRIPT.indexOf(digit) : parseInt(digit, 10));
    return found(power[1] === '' ? ratio(tens) : ratio(1n, tens));
  }
  const tenths = TENTHS.exec(text);
  if (tenths) {
    const below = number(tenths[1] ?? tenths[2] ?? tenths[3]);
    return found(below && divide(ratio(1n), below), tenths[4]);
  }
  const reversed = REVERSED.exec(text);
  if (reversed) {
    const [value, counts] = [number(reversed[1]), number(reversed[3])];
    return found(value && counts && divide(value, counts), reversed[2]);
  }
  const equals = ONE_IS.exec(text);
  if (equals) {
    const [counts, value] = [number(equals[1]), number(equals[2])];
    return found(value && counts && divide(value, counts), equals[3]);
  }
  const times = TIMES.exec(text);
  if (times) {
    const factor = number(times[1]);
    // What is sent ten times as large counts tenths; a factor below 1 is applied to the count.
    return found(factor && (factor.num >= factor.den ? divide(ratio(1n), factor) : factor), times[2]);
  }
  const single = new RegExp(String.raw`^(${NUMBER})\s*(.*)$`, 'i').exec(text);
  const value = number(single?.[1]);
  const rest = single?.[2] ?? '';
  if (
    !value ||
    (rest !== '' && knownUnit(rest.replace(/\s*(?:\/|per)\s*(?:bit|count|digit|lsb|inc)s?$/i, '')) === null)
  )
    return null;
  const isFactor = rest === '' && !IS_WORTH.test(heading) && value.den === 1n && /^10+$/.test(`${value.num}`);
  return found(isFactor ? divide(ratio(1n), value) : value, rest);
}

const PAIR_START = String.raw`(?:^|[\s,;/|(])(-?\d{1,5}|0x[0-9A-Fa-f]{1,4}|[0-9A-Fa-f]{1,4}h)\s*`;
const COLON_PAIR = new RegExp(String.raw`${PAIR_START}[:=≙]\s*`, 'g');
const DASH_PAIR = new RegExp(String.raw`${PAIR_START}[–—-]\s*(?=[A-Za-zÀ-ü])`, 'g');
const BRACKET_PAIR = new RegExp(String.raw`${PAIR_START}\)\s*(?=[A-Za-zÀ-ü])`, 'g');

const tidy = (text: string): string =>
  text
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/[\s,;/|(]+$/, '')
    .trim();

const codeOf = (digits: string): number =>
  /^0x/i.test(digits)
    ? parseInt(digits.slice(2), 16)
    : /h$/i.test(digits)
      ? parseInt(digits, 16)
      : parseInt(digits, 10);

/** `0: off, 1: on`, `0 = off / 1 = on`, `0 – off; 1 – on`: raw numbers with names; empty where the cell names none. */
export function choicesIn(cell: string, least = 2): readonly Choice[] {
  const text = plain(cell);
  for (const form of [COLON_PAIR, DASH_PAIR, BRACKET_PAIR]) {
    const starts = [...text.matchAll(form)];
    if (starts.length < least) continue;
    const choices = starts.map((match, i) => ({
      value: codeOf(match[1] ?? ''),
      text: tidy(text.slice(match.index + match[0].length, starts[i + 1]?.index ?? text.length)),
    }));
    if (
      choices.every(({ text: name }) => name !== '') &&
      new Set(choices.map(({ value }) => value)).size === choices.length
    )
      return choices;
  }
  return [];
}

const BIT_START = /(?:^|[\s,;/|(])(?:bit\s*|b)(\d{1,2})\b\s*[:=–—-]?\s*/gi;

/** `Bit 0: ready, bit 1: running`; empty where the cell names no bits. */
export function bitNamesIn(cell: string): readonly BitName[] {
  const text = plain(cell);
  const starts = [...text.matchAll(BIT_START)];
  return starts.flatMap((match, i) => {
    const name = tidy(text.slice(match.index + match[0].length, starts[i + 1]?.index ?? text.length));
    const bit = parseInt(match[1] ?? '', 10);
    return name === '' || bit > 63 ? [] : [{ bit, text: name }];
  });
}

/** A name without the marks of footnotes: `Ramp time ¹)`, `Ramp time *`, `Ramp time 2)`. */
export const withoutFootnote = (text: string): string =>
  text.replace(/\s*(?:[¹²³⁴⁵⁶⁷⁸⁹]+\)?|\*+\)?|[†‡§]+|(?<=\S)\s+\d\)|\(\d\)|\[\d\])+$/u, '').trim();
