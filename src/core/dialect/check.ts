import { CRC_MODELS, type ChecksumName } from '../checksum/catalogue';
import { checksum } from '../checksum/checksum';
import { textToBytes } from '../bytes/text';
import { literalBytes } from './literal';
import type { CheckRule } from './dialect';

const sizeOf = (name: ChecksumName): number =>
  name in CRC_MODELS ? CRC_MODELS[name as keyof typeof CRC_MODELS].width / 8 : 1;

/** Decimal digits for checks of one to four bytes. */
const DECIMAL_DIGITS = [0, 3, 5, 8, 10] as const;

/** Bytes that a check takes on the wire, its lead not counted. */
export function checkSize({ algorithm, form }: CheckRule): number {
  const size = sizeOf(algorithm);
  return form === 'binary' ? size : form === 'hex' ? 2 * size : (DECIMAL_DIGITS[size] ?? 10);
}

/** The bytes before the check that only mark it, such as a star. */
export const leadOf = ({ lead = '' }: CheckRule): Uint8Array => literalBytes(lead);

/** The check over `span` in the form that the dialect gives it; hex and decimal show the value, high digit first. */
export function checkBytes(rule: CheckRule, span: Uint8Array): Uint8Array {
  const { value, bytes } = checksum(rule.algorithm, span);
  if (rule.form === 'binary') return bytes;
  const digits = rule.form === 'hex' ? value.toString(16).toUpperCase() : value.toString(10);
  return textToBytes(digits.padStart(checkSize(rule), '0'));
}
