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
