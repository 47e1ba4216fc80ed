import { EXCEPTIONS } from '../modbus/exceptions';
import type { ModbusMessage } from '../modbus/message';
import { readBy, writtenBy } from '../modbus/touched';
import { decimalText } from '../scaling/rational';
import { toValue } from '../scaling/scale';
import { chainOf, choiceOf, meaningOf, numberOf } from './describe';
import { ownCell, type PlacedParameter, type SheetIndex } from '../sheet/index-sheet';
import type { RegisterRange, TableRange } from '../modbus/touched';
import type { ModbusTable } from '../registers/tables';
import { patternOfNumber, patternOfWords } from '../values/pattern';
import { isWide } from '../values/wide';
import { registerCell } from '../sheet/place';

/** The range of a parameter as people say it: `0 to 60 s`, `keypad, terminals, network`. */
export function rangeText(index: SheetIndex, parameter: PlacedParameter): string {
  if (parameter.choices) return parameter.choices.map(({ value, name }) => `${value} ${name}`).join(', ');
  const { type, min, max, unit } = parameter;
  if (isWide(type)) {
    const chain = chainOf(index.sheet, parameter);
    const text = (raw: number): string => {
      const value = chain && Number.isInteger(raw) ? toValue(chain, BigInt(raw)) : null;
      return value?.ok ? decimalText(value.value.value, 3, false) : `${raw}`;
    };
    return `${text(min)} to ${text(max)}${unit ? ` ${unit}` : ''}`;
  }
  const word = (value: number): number => patternOfNumber(type, value);
  const low = meaningOf(index, parameter, word(min));
  return `${low.replace(/ \S+$/, '')} to ${meaningOf(index, parameter, word(max))}`;
}

/** One thing that the sheet has against a request; `refusal` is the exception that must come of it, null where none must. */
export interface Objection {
  readonly text: string;
  readonly refusal: number | null;
}

/** What the sheet has against a request before it is sent, in the order of its registers. `turning` is null where it is not known. */
export function objectionsTo(message: ModbusMessage, index: SheetIndex, turning: boolean | null): readonly Objection[] {
  const reads = readBy(message);
  // What a mask write leaves in the register is not known, so its value is not judged.
  const writes = message.fc === 22 ? null : writtenBy(message);
  return [...(writes ? againstWrites(index, writes, turning) : []), ...(reads ? missingIn(index, reads) : [])];
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

/** Registers, coils or inputs by their names, where a sheet lists any of that table: of a table that it says nothing of, nothing is missing. */
const listsTable = (index: SheetIndex, table: ModbusTable): boolean =>
  table === 'holding-register' ||
  index.parameters.some(({ place }) => place.kind === 'register' && place.table === table);

function missingIn(index: SheetIndex, { table, first, quantity }: RegisterRange): readonly Objection[] {
  if (!listsTable(index, table)) return [];
  const missing = Array.from({ length: quantity }, (_, i) => first + i).filter(
    (at) => !index.byCell.has(registerCell(at, table)),
  );
  if (missing.length === 0) return [];
  const which =
    missing.length === 1
      ? `Register ${missing[0]} is`
      : `${missing.length} of these registers, from ${missing[0]} on, are`;
  return [remark(`${which} not in the sheet; a drive that misses one may refuse the whole read.`)];
}

/** Each value that a request writes is judged once, from all of its words. */
function againstWrites(
  index: SheetIndex,
  { table, first, words }: TableRange,
  turning: boolean | null,
): readonly Objection[] {
  if (!listsTable(index, table)) return [];
  return words.flatMap((_, i) => {
    const cell = registerCell(first + i, table);
    const parameter = index.byCell.get(cell);
    if (!parameter) return [remark(`Register ${first + i} is not in the sheet.`)];
    const part = parameter.cells.indexOf(ownCell(index, cell));
    const own = words.slice(i, i + parameter.cells.length);
    if (part > 0) return i === 0 ? [remark(halfText(parameter))] : [];
    if (own.length < parameter.cells.length) return [remark(halfText(parameter))];
    const pattern = patternOfWords(own, parameter.order);
    return pattern === null ? [] : againstWrite(index, parameter, pattern, turning);
  });
}

const halfText = ({ number, name, cells }: PlacedParameter): string =>
  `${number} ${name} takes ${cells.length} registers, and this request writes some of them only: the drive would hold another value.`;

function againstWrite(
  index: SheetIndex,
  parameter: PlacedParameter,
  word: number,
  turning: boolean | null,
): readonly Objection[] {
  const { number, name, min, max, choices, write, effect } = parameter;
  const { refusals } = index.sheet;
  const what = `${number} ${name}`;
  const value = numberOf(parameter, word);
  const fits = value >= min && value <= max && (!choices || choiceOf(parameter, word) !== undefined);
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
