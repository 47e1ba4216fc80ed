import * as v from 'valibot';
import { TABLE_NAMES, type ModbusTable } from '../registers/tables';
import { Register, Slug, whole } from '../schema/primitives';

const TABLES = Object.keys(TABLE_NAMES) as [ModbusTable, ...ModbusTable[]];

/** One way in which a value of a drive is reached: a Modbus table, a parameter of USS, a word of the process data, a command of a dialect. */
export const PlaceSchema = v.variant('kind', [
  /** The first register, coil or input; the value's type says how many. */
  v.strictObject({ kind: v.literal('register'), table: v.picklist(TABLES), address: Register }),
  v.strictObject({
    kind: v.literal('uss'),
    number: whole(0, 9999),
    /** Elements of an array; absent: no array. */
    elements: v.optional(whole(2, 255)),
    /** The element that an entry is, where it is one alone; absent: an array is one entry for each, from element 0 on. */
    element: v.optional(whole(0, 254)),
  }),
  /** A word of the process data: out to the drive, in from it; the first is 0. */
  v.strictObject({ kind: v.literal('process'), direction: v.picklist(['out', 'in']), word: whole(0, 15) }),
  v.strictObject({ kind: v.literal('command'), command: Slug }),
]);
export type Place = v.InferOutput<typeof PlaceSchema>;
export type PlaceOf<Kind extends Place['kind']> = Extract<Place, { kind: Kind }>;

declare const cell: unique symbol;
/** One place where a link puts or finds a number, as the key of what is known: a register, a parameter, a word, a command. */
export type Cell = string & { readonly [cell]: true };

/** The cell of a place; registers that follow are further words of the same value. */
export function cellOf(place: Place, further = 0): Cell {
  switch (place.kind) {
    case 'register':
      return `${place.table} ${place.address + further}` as Cell;
    case 'uss':
      return `uss ${place.number}${place.element ? ` ${place.element}` : ''}` as Cell;
    case 'process':
      return `process ${place.direction} ${place.word + further}` as Cell;
    case 'command':
      return `command ${place.command}` as Cell;
  }
}

/** The cell of a register, coil or input. */
export const registerCell = (address: number, table: ModbusTable = 'holding-register'): Cell =>
  cellOf({ kind: 'register', table, address });
