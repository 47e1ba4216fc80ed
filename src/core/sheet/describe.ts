import { bytesToHex, hexNumber } from '../bytes/hex';
import type { ScalingChain } from '../scaling/chain';
import { decodeNumber, exactDecimal } from '../bytes/number';
import { decimalText, parseRational, type Rational } from '../scaling/rational';
import { toValue } from '../scaling/scale';
import type { PlacedParameter, SheetIndex } from './index-sheet';
import type { Sheet } from './sheet';
import { statusText } from './status';
import { numberOfPattern, patternOfWords } from '../values/pattern';
import { isFloatType, isSignedType, wordsOfType } from '../values/type';

type Scaled = Pick<PlacedParameter, 'scale' | 'unit' | 'type'>;

/** The scaling chain of a parameter, or null where its raw number is read as it is. */
export function chainOf(sheet: Sheet, { scale, unit, type }: Scaled): ScalingChain | null {
  // What a float holds is in its unit already.
  if (!scale || isFloatType(type)) return null;
  if (scale.kind === 'chain') return sheet.scalings?.find(({ id }) => id === scale.id)?.chain ?? null;
  return {
    unit: unit ?? '',
    steps: [{ kind: 'resolution', value: scale.value }],
    rounding: 'nearestHalfUp',
    word: { bits: wordsOfType(type) > 1 ? 32 : 16, signed: isSignedType(type) },
  };
}

/** What a pattern stands for in the parameter's unit, exactly; null where it is no number. */
export function valueIn(sheet: Sheet, parameter: PlacedParameter, pattern: number): Rational | null {
  const chain = chainOf(sheet, parameter);
  if (chain) {
    const value = toValue(chain, BigInt(pattern));
    return value.ok ? value.value.value : null;
  }
  const number = numberOf(parameter, pattern);
  const read = Number.isFinite(number) ? parseRational(exactDecimal(number)) : null;
  return read?.ok ? read.value : null;
}

/** The word as the signed or plain number that the parameter holds. */
export const numberOf = ({ type }: Pick<PlacedParameter, 'type'>, word: number): number => numberOfPattern(type, word);

/** The same as text, with a true minus sign. */
const numberText = (parameter: PlacedParameter, word: number): string => {
  const number = numberOf(parameter, word);
  return String(parameter.type === 'float32' ? Number(number.toPrecision(7)) : number).replace('-', '−');
};

/** What a register's word means, without its name: `17.498 Hz`, `network`, `0x2A0D`. */
export function meaningOf({ sheet }: SheetIndex, parameter: PlacedParameter, word: number): string {
  if (parameter.role === 'status-word' || parameter.role === 'control-word') return hexNumber(word);
  const choice = parameter.choices?.find(({ value }) => value === word);
  if (choice) return choice.name;
  if (parameter.role === 'fault-code') return faultName(sheet, word);
  const chain = chainOf(sheet, parameter);
  const value = chain && toValue(chain, BigInt(word));
  if (chain && value?.ok) return `${decimalText(value.value.value, 3, false)} ${chain.unit}`.trim();
  return `${numberText(parameter, word)}${parameter.unit ? ` ${parameter.unit}` : ''}`;
}

const faultName = ({ faults = [] }: Sheet, code: number): string =>
  code === 0 ? 'no fault' : `fault ${code}${textOfFault(faults, code)}`;

const textOfFault = (faults: NonNullable<Sheet['faults']>, code: number): string => {
  const known = faults.find((entry) => entry.code === code);
  return known ? `, ${known.name}` : ', not in the sheet';
};

/** A register's word with everything that the sheet says of it: `3909 = 17.498 Hz`, `0x2A0D · in remote, running forward`. */
export function wordText(index: SheetIndex, parameter: PlacedParameter, word: number): string {
  const meaning = meaningOf(index, parameter, word);
  if (parameter.role === 'status-word' && index.words) return `${meaning} · ${statusText(index, word)}`;
  if (parameter.role === 'control-word') return `${meaning}${commandName(index, word)}`;
  const number = numberText(parameter, word);
  // A number with its unit says the number already.
  const saysIt = meaning === number || (!parameter.scale && meaning.startsWith(`${number} `));
  return saysIt ? meaning : `${number} = ${meaning}`;
}

/**
 * What several words hold, by the entry's type: a number of any width, a text, bytes. Exact: 64 bits are not put through a double.
 */
export function cellsText(index: SheetIndex, parameter: PlacedParameter, words: readonly number[]): string {
  const pattern = patternOfWords(words, parameter.order);
  if (pattern !== null && parameter.type !== 'text' && parameter.type !== 'bytes')
    return wordText(index, parameter, pattern);
  const bytes = Uint8Array.from(words.flatMap((word) => [word >>> 8, word & 0xff]));
  if (parameter.type === 'bytes') return bytesToHex(bytes, ' ');
  if (parameter.type === 'text')
    // What is no printable character ends nothing, but shows as a point.
    return `“${String.fromCharCode(...bytes)
      .replace(/\0+$/, '')
      .replace(/[^ -~\u00a0-\u00ff]/g, '·')}”`;
  const order = parameter.order ?? 'ABCDEFGH';
  const read =
    parameter.type === 'int64' || parameter.type === 'uint64' || parameter.type === 'float64'
      ? decodeNumber(parameter.type, order, bytes)
      : null;
  if (!read?.ok) return bytesToHex(bytes, ' ');
  const number = `${read.value.short ?? read.value.value}`.replace('-', '−');
  return `${number}${parameter.unit ? ` ${parameter.unit}` : ''}`;
}

function commandName({ commands }: SheetIndex, word: number): string {
  const known = commands.find((entry) => entry.word === word);
  return known ? ` · ${known.name}` : '';
}
