import { EXCEPTIONS } from '../modbus/exceptions';
import type { ModbusMessage } from '../modbus/message';
import { registersRead, registersWritten } from '../modbus/touched';
import { meaningOf, numberOf } from './describe';
import type { PlacedParameter, SheetIndex } from './index-sheet';

/** The range of a parameter as people say it: `0 to 60 s`, `keypad, terminals, network`. */
export function rangeText(index: SheetIndex, parameter: PlacedParameter): string {
  if (parameter.choices) return parameter.choices.map(({ value, name }) => `${value} ${name}`).join(', ');
  const word = (value: number): number => (value < 0 ? value + 0x10000 : value);
  const low = meaningOf(index, parameter, word(parameter.min));
  return `${low.replace(/ \S+$/, '')} to ${meaningOf(index, parameter, word(parameter.max))}`;
}

/** One thing that the sheet has against a request; `refusal` is the exception that must come of it, null where none must. */
export interface Objection {
  readonly text: string;
  readonly refusal: number | null;
}

/** What the sheet has against a request before it is sent, in the order of its registers. `turning` is null where it is not known. */
export function objectionsTo(message: ModbusMessage, index: SheetIndex, turning: boolean | null): readonly Objection[] {
  const reads = registersRead(message);
  // What a mask write leaves in the register is not known, so its value is not judged.
  const writes = message.fc === 22 ? null : registersWritten(message);
  return [
    ...(writes?.words ?? []).flatMap((word, i) => againstWrite(index, (writes?.first ?? 0) + i, word, turning)),
    ...(reads ? missingIn(index, reads.first, reads.quantity) : []),
  ];
}

const remark = (text: string): Objection => ({ text, refusal: null });

/** An objection that the drive shares: by its sheet it answers with this exception. */
function refused(text: string, code: number | undefined): Objection {
  if (code === undefined) return remark(`${text}.`);
  return {
    text: `${text}; the drive refuses it with exception ${code}, ${EXCEPTIONS[code]?.name ?? 'not in the standard'}.`,
    refusal: code,
  };
}

function missingIn(index: SheetIndex, address: number, quantity: number): readonly Objection[] {
  const missing = Array.from({ length: quantity }, (_, i) => address + i).filter((at) => !index.byAddress.has(at));
  if (missing.length === 0) return [];
  const which =
    missing.length === 1
      ? `Register ${missing[0]} is`
      : `${missing.length} of these registers, from ${missing[0]} on, are`;
  return [remark(`${which} not in the sheet; a drive that misses one may refuse the whole read.`)];
}

function againstWrite(index: SheetIndex, at: number, word: number, turning: boolean | null): readonly Objection[] {
  const parameter = index.byAddress.get(at);
  if (!parameter) return [remark(`Register ${at} is not in the sheet.`)];
  const { number, name, min, max, choices, write, effect } = parameter;
  const { refusals } = index.sheet;
  const what = `${number} ${name}`;
  const value = numberOf(parameter, word);
  const fits = value >= min && value <= max && (!choices || choices.some((choice) => choice.value === word));
  if (write === 'never') return [refused(`${what} can only be read`, refusals?.readOnly)];
  return [
    ...(fits
      ? []
      : [
          refused(
            `${what} takes ${rangeText(index, parameter)}, not ${meaningOf(index, parameter, word)}`,
            refusals?.limit,
          ),
        ]),
    ...(write === 'standstill' ? againstMotion(what, turning, refusals?.state) : []),
    ...(effect === 'restart'
      ? [remark(`${what} takes effect after the drive was off and on again${keepText(index, parameter)}.`)]
      : []),
  ];
}

function againstMotion(what: string, turning: boolean | null, code: number | undefined): readonly Objection[] {
  if (turning === false) return [];
  const only = `${what} can be written at standstill only`;
  return [
    turning ? refused(`${only}, and the shaft turns`, code) : remark(`${only}; whether the shaft stands is not known.`),
  ];
}

/** How a setting survives the restart that it waits for. */
function keepText(index: SheetIndex, { kept }: PlacedParameter): string {
  const keep = index.byRole.get('keep');
  return kept && keep ? `, and only if it was kept before by ${keep.number} ${keep.name}` : '';
}
