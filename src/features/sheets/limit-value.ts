import { wholeIn } from '../../core/bytes/whole';
import { parseQuantity } from '../../core/scaling/quantity';
import { decimalText } from '../../core/scaling/rational';
import { toRaw, toValue } from '../../core/scaling/scale';
import { chainOf } from '../../core/drive/describe';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { isFloatType } from '../../core/values/type';
import { patternOfNumber } from '../../core/values/pattern';

const PLAIN = /^[-\u2212]?\d+(?:\.\d+)?$/;

/** A limit in the unit: `15 Hz`; empty where it is the count itself. */
export function limitInUnit(sheet: Sheet, parameter: Parameter, raw: number): string {
  const chain = chainOf(sheet, parameter);
  if (!chain || !Number.isSafeInteger(raw)) return '';
  const value = toValue(chain, BigInt(patternOfNumber(parameter.type, raw)));
  return value.ok ? `${decimalText(value.value.value, 3, false)} ${chain.unit}`.trim() : '';
}

/** What is typed for a limit, as a raw number: counts, or a quantity with its unit behind it; a sentence where it is neither. */
export function readLimit(sheet: Sheet, parameter: Parameter, text: string): number | string {
  const typed = text.trim();
  const counts = wholeIn(typed) ?? (PLAIN.test(typed) ? parseFloat(typed.replace('\u2212', '-')) : null);
  if (counts !== null) return counts;
  const chain = chainOf(sheet, parameter);
  const unit = chain?.unit ?? parameter.unit ?? '';
  const value = parseQuantity(typed, unit);
  if (!value.ok) return unit === '' ? 'a number of counts, or nothing where it is not said' : value.error.text;
  if (!chain) return isFloatType(parameter.type) ? numberOf(decimalText(value.value, 12, false)) : wholeOf(value.value);
  const raw = toRaw(chain, value.value);
  if (!raw.ok) return raw.error.text;
  const [fault] = raw.value.faults;
  return fault ? fault.text : numberOf(`${raw.value.raw}`);
}

const numberOf = (text: string): number => parseFloat(text.replace('\u2212', '-'));

const wholeOf = ({ num, den }: { readonly num: bigint; readonly den: bigint }): number | string =>
  den === 1n ? numberOf(`${num}`) : 'one count is the unit here: a whole number';
