import * as v from 'valibot';
import { TABLE_NAMES, type ModbusTable } from '../core/registers/tables';
import { notationsOf, readAddress } from '../core/registers/notation';
import { Id, read } from './input';
import { BadLine, type Verb } from './protocol';

const Table = v.picklist(Object.keys(TABLE_NAMES) as ModbusTable[]);

/** Notations of registers, coils and inputs, both ways. */
export const ADDRESS_VERBS: Readonly<Record<string, Verb>> = {
  address: {
    help: 'what one notation of a register, coil or input may mean, the likeliest first; addresses count from 0',
    example: '{"text":"40108"}',
    run: (input) => {
      const { text, table } = read({ ...Id, text: v.string(), table: v.optional(Table) }, input);
      const readings = readAddress(text, table ?? null);
      if (readings.length === 0)
        throw new BadLine(
          'bad-token',
          `“${text}” names no place from 0 to 65535${table ? ` of the ${TABLE_NAMES[table]}s` : ''}`,
        );
      return { readings };
    },
  },
  notations: {
    help: 'one place of a table in every usual notation',
    example: '{"table":"holding-register","address":107}',
    run: (input) => {
      const { table, address } = read(
        { ...Id, table: Table, address: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(0xffff)) },
        input,
      );
      return { ...notationsOf(table, address) };
    },
  },
};
