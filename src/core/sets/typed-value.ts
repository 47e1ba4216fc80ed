import { HEX_MARK } from '../bytes/hex';
import { encodeNumber } from '../bytes/number';
import { wholeIn } from '../bytes/whole';
import { done, failed, type Result } from '../result';
import { parseQuantity } from '../scaling/quantity';
import { decimalText, ratio, type Rational } from '../scaling/rational';
import { patternOnWire, toRaw } from '../scaling/scale';
import { chainOf, type KnownNumber } from '../drive/describe';
import { registerWay, type PlacedParameter, type SheetIndex } from '../sheet/index-sheet';
import { dateWords } from '../values/date';
import { patternOfNumber, patternOfWords } from '../values/pattern';
import { bitsOfParameter, isDateType, isNumberType, isSignedType, wordsOfType } from '../values/type';
import { isWide, wideWords, type WideForm, type WideType } from '../values/wide';
import { wordsOfRaw, wordsOfSaid } from './said';

/** Why a wide value is not written over a link that carries one number at a time. */
export const onlyRegisters = (type: WideType): string => `a value of ${type} is written to registers only`;

/** A number with a mark of its base is the word itself, whatever the unit. */
const IN_HEX = new RegExp(String.raw`^\s*(?:${HEX_MARK}|0b|2#)|^\s*[0-9a-f]+h\s*$`, 'i');

/**
 * What a person typed for a parameter, as its words: a name of a choice, a number in its unit, a marked pattern. Says in a sentence what cannot be
 * meant; the limits are judged elsewhere, since a plan may hold what a drive refuses.
 */
export function readTyped(
  index: SheetIndex,
  parameter: PlacedParameter,
  text: string,
  known: KnownNumber,
): Result<readonly number[], string> {
  const { type, choices, unit = '' } = parameter;
  const typed = text.trim();
  if (typed === '') return failed('no value is given');
  const named = choices?.find(({ name }) => name.toLowerCase() === typed.toLowerCase());
  const namedWords = named && wordsOfRaw(parameter, named.value);
  if (namedWords) return done(namedWords);
  if (isWide(type)) {
    if (!registerWay(parameter)) return failed(onlyRegisters(type));
    if (!isNumberType(type) || IN_HEX.test(typed)) return wideWords(wideForm(parameter, type), typed);
  }
  const bits = 16 * wordsOfType(type);
  if (IN_HEX.test(typed)) {
    const pattern = wholeIn(typed);
    return pattern !== null && pattern >= 0 && pattern < 2 ** bits
      ? done(wordsOfSaid(parameter, pattern))
      : failed(`${typed} does not fit ${bits} bits`);
  }
  if (isDateType(type)) {
    const date = dateWords(type, typed);
    return date.ok ? done(wordsOfSaid(parameter, patternOfWords(date.value, undefined) ?? 0)) : date;
  }
  const value = parseQuantity(typed, unit);
  if (!value.ok)
    return failed(
      choices ? `${value.error.text}; it is one of ${choices.map(({ name }) => name).join(', ')}` : value.error.text,
    );
  return wordsOfValue(index, parameter, value.value, known);
}

/** More decimal places than any that tells two floats apart that a person types. */
const PLACES = 60;

const wideForm = ({ order, cells }: PlacedParameter, type: WideType): WideForm => ({
  type,
  order,
  words: cells.length,
});

const floatText = (value: Rational): string => decimalText(value, PLACES, false).replace('−', '-');

/** The words of a value in the parameter's unit; a sentence where its type, its scale or its width do not hold it. */
export function wordsOfValue(
  index: SheetIndex,
  parameter: PlacedParameter,
  value: Rational,
  known: KnownNumber,
): Result<readonly number[], string> {
  const { type } = parameter;
  if (type === 'float32') return floatWords(parameter, value);
  if (type === 'float64') return wideWords(wideForm(parameter, type), floatText(value));
  const chain = chainOf(index.sheet, parameter, known);
  if (!chain && parameter.scale?.kind === 'by')
    return failed(`what one count is, is set by ${parameter.scale.parameter}: read that first`);
  const isPlain = type === 'bcd16' || type === 'bcd32' || type === 'bool' || type === 'int8' || type === 'uint8';
  if (isPlain && !chain) return plainWords(parameter, value);
  const scaled = toRaw(
    chain ?? {
      unit: '',
      steps: [],
      rounding: 'nearestHalfUp',
      word: { bits: bitsOfParameter(type), signed: isSignedType(type) },
    },
    value,
  );
  if (!scaled.ok) return failed(scaled.error.text);
  const [fault] = scaled.value.faults;
  if (fault) return failed(fault.text);
  if (isPlain) return plainWords(parameter, ratio(scaled.value.raw));
  return isWide(type)
    ? wideWords(wideForm(parameter, type), `${scaled.value.raw}`)
    : done(wordsOfSaid(parameter, patternOnWire(scaled.value)));
}

function floatWords(parameter: PlacedParameter, value: Rational): Result<readonly number[], string> {
  const built = encodeNumber('float32', 'ABCD', floatText(value));
  if (!built.ok) return failed(built.error.text);
  return done(
    wordsOfSaid(
      parameter,
      built.value.reduce((sum, byte) => sum * 256 + byte, 0),
    ),
  );
}

/** Types without a chain of their own: a whole number within their range. */
function plainWords(parameter: PlacedParameter, { num, den }: Rational): Result<readonly number[], string> {
  const number = Number(num);
  if (den !== 1n) return failed('a whole number');
  const [low, high] = { bool: [0, 1], int8: [-128, 127], uint8: [0, 255], bcd16: [0, 9999], bcd32: [0, 99_999_999] }[
    parameter.type as 'bool'
  ] as [number, number];
  return number < low || number > high
    ? failed(`${low} to ${high}`)
    : done(wordsOfSaid(parameter, patternOfNumber(parameter.type, number)));
}

/** Whether a field is a number of its own kind, so that limits and rounding mean something. */
export const isNumeric = ({ type, choices, fields }: PlacedParameter): boolean =>
  !choices && !fields && isNumberType(type) && type !== 'bool';
