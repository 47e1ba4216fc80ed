import { axisOf, withoutTurns } from '../motion/axis';
import { done, failed, type Result } from '../result';
import { parseQuantity } from '../scaling/quantity';
import { divide, multiply, ratio, type Rational } from '../scaling/rational';
import { wordsOfValue } from '../sets/typed-value';
import { patternOfCells } from '../drive/seen';
import { chainOf, type KnownNumber } from '../drive/describe';
import { referenceScale } from '../drive/reference-scale';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { numberOfPattern } from '../values/pattern';
import type { What } from './trial';

/** The entry that a step means by role or number. */
export const parameterOf = (index: SheetIndex, what: What): PlacedParameter | undefined =>
  'role' in what ? index.byRole.get(what.role) : index.byNumber.get(what.number);

/** What a step means, in words; also where the sheet does not have it. */
export const whatText = (index: SheetIndex, what: What): string => {
  const place = parameterOf(index, what);
  if (place) return `${place.number} ${place.name}`;
  return 'role' in what ? what.role.replaceAll('-', ' ') : what.number;
};

/** The unit in which a parameter's values are said. */
export const unitOfPlace = (index: SheetIndex, parameter: PlacedParameter): string =>
  chainOf(index.sheet, parameter)?.unit ?? parameter.unit ?? '';

const PERCENT = /^(.*)%\s*$/;

/** What is said of a parameter, in its unit: a value, or a share of the reference's full scale where it is a speed. */
export function valueOf(index: SheetIndex, parameter: PlacedParameter, text: string): Result<Rational, string> {
  const unit = unitOfPlace(index, parameter);
  const plain = withoutTurnsAt(index, parameter, text);
  if (plain === null) return failed('the sheet does not say how far one turn of the motor moves the load');
  const share = unit === '%' ? null : PERCENT.exec(plain)?.[1];
  const typed = parseQuantity(share ?? plain, share === undefined || share === null ? unit : '');
  if (!typed.ok) return failed(typed.error.text);
  if (share === undefined || share === null) return done(typed.value);
  const scale = referenceScale(index);
  if (!scale) return failed('the sheet gives the speed reference no full scale');
  const full = divide(multiply(typed.value, scale.fullValue), ratio(100n));
  if (unit === scale.chain.unit) return done(full);
  return scale.other?.unit === unit
    ? done(multiply(full, scale.other.factor))
    : failed(`${parameter.name} is in ${unit || 'counts'}, the reference in ${scale.chain.unit}`);
}

/** Turns of the motor written out, for a value in the unit of the axis. */
function withoutTurnsAt(index: SheetIndex, parameter: PlacedParameter, text: string): string | null {
  const axis = parameter.role !== undefined && ALONG_THE_AXIS.has(parameter.role) ? axisOf(index) : null;
  return axis ? withoutTurns(axis, text) : text;
}

const ALONG_THE_AXIS: ReadonlySet<ParameterRole> = new Set([
  'actual-position',
  'target-position',
  'move-distance',
  'home-offset',
  'position-least',
  'position-most',
  'position-window',
  'following-limit',
]);

/** A value as the pattern that the wire carries; `known` has the settings on which a scale hangs. */
export function patternFor(
  index: SheetIndex,
  parameter: PlacedParameter,
  text: string,
  known: KnownNumber,
): Result<number, string> {
  const value = valueOf(index, parameter, text);
  if (!value.ok) return value;
  const words = wordsOfValue(index, parameter, value.value, known);
  if (!words.ok) return words;
  const pattern = patternOfCells(parameter, words.value);
  return pattern === null ? failed(`${parameter.name} cannot be written as one number`) : done(pattern);
}

/** The same as the number that the drive counts. */
export function numberFor(
  index: SheetIndex,
  parameter: PlacedParameter,
  text: string,
  known: KnownNumber,
): Result<number, string> {
  const pattern = patternFor(index, parameter, text, known);
  return pattern.ok ? done(numberOfPattern(parameter.type, pattern.value)) : pattern;
}
