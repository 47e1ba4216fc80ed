import * as v from 'valibot';
import { readTable } from '../core/tables/read-table';
import { Id, read } from './input';
import type { Verb } from './protocol';

/** Rows pasted from a manual as parameters. */
export const TABLE_VERB: Verb = {
  help: 'parameters from rows pasted from a manual, a spreadsheet or a CSV; limits and defaults are in the unit',
  example: '{"text":"Register\\tName\\tRange\\tUnit\\tAccess\\n40108\\tRamp time\\t0.1 to 600.0\\ts\\tR/W"}',
  run: (input) => {
    const { text } = read({ ...Id, text: v.string() }, input);
    const { columns, parameters, unread } = readTable(text);
    return {
      columns: columns.map(({ index, role }) => ({ index, role })),
      parameters: parameters.map(({ line: _line, ...parameter }) => parameter),
      unread,
    };
  },
};
