import { EXCEPTIONS } from '../modbus/layout';
import type { ModbusMessage } from '../modbus/message';
import { meaningOf, numberOf } from './describe';
import type { PlacedParameter, SheetIndex } from './index-sheet';

/** The range of a parameter as people say it: `0 to 60 s`, `keypad, terminals, network`. */
export function rangeText(index: SheetIndex, parameter: PlacedParameter): string {
  if (parameter.choices) return parameter.choices.map(({ value, name }) => `${value} ${name}`).join(', ');
  const word = (value: number): number => (value < 0 ? value + 0x10000 : value);
  const low = meaningOf(index, parameter, word(parameter.min));
  return `${low.replace(/ \S+$/, '')} to ${meaningOf(index, parameter, word(parameter.max))}`;
}

/** What the sheet has against a request before it is sent: sentences, in the order of its registers. */
export function limitsAgainst(message: ModbusMessage, index: SheetIndex, turning: boolean | null): readonly string[] {
  const { address, values, quantity = 0 } = message;
  if (address === undefined) return [];
  if (!values) return missingIn(index, address, quantity);
  return values.flatMap((word, i) => againstWrite(index, address + i, word, turning));
}

function missingIn(index: SheetIndex, address: number, quantity: number): readonly string[] {
  const missing = Array.from({ length: quantity }, (_, i) => address + i).filter((at) => !index.byAddress.has(at));
  if (missing.length === 0) return [];
  const which =
    missing.length === 1
      ? `Register ${missing[0]} is`
      : `${missing.length} of these registers, from ${missing[0]} on, are`;
  return [`${which} not in the sheet; a drive that misses one may refuse the whole read.`];
}

function againstWrite(index: SheetIndex, at: number, word: number, turning: boolean | null): readonly string[] {
  const parameter = index.byAddress.get(at);
  if (!parameter) return [`Register ${at} is not in the sheet.`];
  const { number, name, min, max, choices, write, effect } = parameter;
  const refusals = index.sheet.refusals;
  const what = `${number} ${name}`;
  const value = numberOf(parameter, word);
  const fits = value >= min && value <= max && (!choices || choices.some((choice) => choice.value === word));
  if (write === 'never') return [`${what} can only be read${refusalText(refusals?.readOnly)}.`];
  return [
    ...(fits
      ? []
      : [
          `${what} takes ${rangeText(index, parameter)}, not ${meaningOf(index, parameter, word)}${refusalText(refusals?.limit)}.`,
        ]),
    ...(write === 'standstill' && turning !== false
      ? [
          `${what} can be written at standstill only${turning === true ? `, and the shaft turns${refusalText(refusals?.state)}` : '; whether the shaft stands is not known'}.`,
        ]
      : []),
    ...(effect === 'restart'
      ? [`${what} takes effect after the drive was off and on again${keepText(index, parameter)}.`]
      : []),
  ];
}

/** How a setting survives the restart that it waits for. */
function keepText(index: SheetIndex, { kept }: PlacedParameter): string {
  const keep = index.byRole.get('keep');
  return kept && keep ? `, and only if it was kept before by ${keep.number} ${keep.name}` : '';
}

const refusalText = (code: number | undefined): string =>
  code === undefined
    ? ''
    : `; the drive refuses it with exception ${code}, ${EXCEPTIONS[code]?.name ?? 'not in the standard'}`;
