import type { Field } from '../bytes/field';
import type { Direction } from '../direction';
import type { UssMessage } from '../uss/message';
import { numberOf } from '../uss/parameter';
import { REFUSED, RESPONSES, TASKS } from '../uss/tables';
import { valueOf } from '../uss/value';
import { wordText } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { cellOf } from '../sheet/place';
import { inProcessData, processCell, processPlace } from '../places/process-data';

/** What the sheet calls a word of the process data, and what the word says: `status word 0x0A31 · S2 ready to switch on`. */
export interface ProcessText {
  readonly name: string;
  readonly text: string;
  /** Which of the words of its value it is, from 0; `text` says all of it. */
  readonly part: number;
}

/** The words of the process data by the sheet; null at words that it does not describe. */
export function processTexts(
  { pzd = [] }: UssMessage,
  direction: Direction,
  index: SheetIndex,
): readonly (ProcessText | null)[] {
  const side = direction === 'request' ? 'out' : 'in';
  return pzd.map((_, i) => {
    const place = index.byCell.get(processCell(side, i));
    const pattern = inProcessData(place, side, pzd);
    const first = place && processPlace(place, side)?.word;
    return place && first !== undefined && pattern !== undefined
      ? { name: place.name, text: wordText(index, place, pattern), part: i - first }
      : null;
  });
}

/** The parameter that a telegram is about, as the sheet knows it, of an array its element; null where it has none. */
export function parameterIn(
  { ak = 0, pnu, ind }: UssMessage,
  direction: Direction,
  index: SheetIndex,
): PlacedParameter | null {
  const rule = index.sheet.uss;
  if (!rule || pnu === undefined || ind === undefined) return null;
  const { number, element } = numberOf(rule, pnu, ind);
  // The index of a text or a description is a part of that, and no element; a refusal repeats the index of what it refuses.
  const isElement = direction === 'request' ? TASKS[ak]?.array : ak === REFUSED || RESPONSES[ak]?.array;
  const own = isElement ? index.byCell.get(cellOf({ kind: 'uss', number, element })) : undefined;
  return own ?? index.byCell.get(cellOf({ kind: 'uss', number })) ?? null;
}

/** Its value with unit or name; empty where the telegram carries none. */
export function parameterText(message: UssMessage, direction: Direction, index: SheetIndex): string {
  const parameter = parameterIn(message, direction, index);
  const value = valueOf(message, direction);
  // An error number, a number of elements and a description are no value of the parameter.
  const isValue = direction === 'request' || ![3, 6, 7].includes(message.ak ?? 0);
  return parameter && value !== null && isValue ? wordText(index, parameter, value) : '';
}

const PZD = /^pzd\[(\d+)\]$/;

/** Adds what a sheet knows to the texts of a telegram's fields. Structure, paths and byte ranges stay. */
export function annotateUss(
  fields: readonly Field[],
  message: UssMessage | null,
  direction: Direction,
  index: SheetIndex | null,
): readonly Field[] {
  if (!message || !index) return fields;
  const process = processTexts(message, direction, index);
  const parameter = parameterIn(message, direction, index);
  const value = parameterText(message, direction, index);
  const last = `pwe[${(message.pwe?.length ?? 0) - 1}]`;
  const walk = (field: Field): Field => {
    const children = field.children?.map(walk);
    const known = process[parseInt(PZD.exec(field.path)?.[1] ?? '', 10)];
    const own =
      (known && known.part > 0 ? { name: `${known.name}, word ${known.part + 1}`, text: field.text } : known) ??
      (field.path === last && value !== '' ? { name: field.label, text: value } : null) ??
      (field.path === 'pke' && parameter ? { name: field.label, text: `${field.text} · ${parameter.name}` } : null);
    return {
      ...field,
      ...(own ? { text: own.text } : {}),
      ...(known && own ? { label: own.name } : {}),
      ...(children ? { children } : {}),
    };
  };
  return fields.map(walk);
}
