import * as v from 'valibot';
import { whole } from '../schema/primitives';
import { TABLE_NAMES, type ModbusTable } from '../registers/tables';

/** The table that the rule's addresses belong to; absent: holding registers. */
const table = v.optional(v.picklist(Object.keys(TABLE_NAMES) as [ModbusTable, ...ModbusTable[]]));

export const AddressSection = v.variant('kind', [
  v.strictObject({ kind: v.literal('group-index'), factor: whole(1, 4096), offset: whole(-65535, 65535), table }),
  v.strictObject({ kind: v.literal('number'), offset: whole(-65535, 65535), table }),
]);
