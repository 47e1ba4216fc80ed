import type * as v from 'valibot';
import type { ModbusTable } from '../registers/tables';
import type { PlaceSchema } from './place-schema';

/** One way in which a value of a drive is reached. */
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
