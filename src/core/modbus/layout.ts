/**
 * The messages of Modbus as data: one table drives lengths, decode, encode and anatomy.
 * Source: Modbus Application Protocol V1.1b3, section 6 (functions) and 7 (exceptions).
 */
export type Direction = 'request' | 'response';

export type ScalarName = 'address' | 'quantity' | 'exception';

export type Item =
  | { readonly kind: 'u8' | 'u16'; readonly name: ScalarName; readonly label: string }
  /** Byte count of the list that follows. */
  | { readonly kind: 'count'; readonly name: 'byteCount'; readonly label: string }
  /** Registers: as many as the byte count says, or a fixed number. */
  | { readonly kind: 'words'; readonly name: 'values'; readonly label: string; readonly fixed?: number };

/** What the standard demands of the fields beyond their width. Quantities are in registers. */
export type Limit =
  | { readonly kind: 'range'; readonly field: 'quantity'; readonly min: number; readonly max: number }
  | { readonly kind: 'list'; readonly min: number; readonly max: number }
  | { readonly kind: 'span' }
  | { readonly kind: 'count-is-quantity' };

export interface Layout {
  readonly items: readonly Item[];
  readonly limits: readonly Limit[];
}

export interface FunctionSpec {
  readonly name: string;
  readonly request: Layout;
  readonly response: Layout;
  /** Whether a request to station 0 makes sense: only writes do. */
  readonly writes: boolean;
}

const ADDRESS: Item = { kind: 'u16', name: 'address', label: 'address' };
const QUANTITY: Item = { kind: 'u16', name: 'quantity', label: 'quantity' };
const COUNT: Item = { kind: 'count', name: 'byteCount', label: 'byte count' };
const VALUES: Item = { kind: 'words', name: 'values', label: 'value' };
const ONE_VALUE: Item = { kind: 'words', name: 'values', label: 'value', fixed: 1 };

const readRegisters = (name: string): FunctionSpec => ({
  name,
  writes: false,
  request: {
    items: [ADDRESS, QUANTITY],
    limits: [{ kind: 'range', field: 'quantity', min: 1, max: 125 }, { kind: 'span' }],
  },
  response: { items: [COUNT, VALUES], limits: [{ kind: 'list', min: 1, max: 125 }] },
});

export const FUNCTIONS: Readonly<Partial<Record<number, FunctionSpec>>> = {
  3: readRegisters('read holding registers'),
  4: readRegisters('read input registers'),
  6: {
    name: 'write one register',
    writes: true,
    request: { items: [ADDRESS, ONE_VALUE], limits: [] },
    response: { items: [ADDRESS, ONE_VALUE], limits: [] },
  },
  16: {
    name: 'write several registers',
    writes: true,
    request: {
      items: [ADDRESS, QUANTITY, COUNT, VALUES],
      limits: [{ kind: 'range', field: 'quantity', min: 1, max: 123 }, { kind: 'span' }, { kind: 'count-is-quantity' }],
    },
    response: {
      items: [ADDRESS, QUANTITY],
      limits: [{ kind: 'range', field: 'quantity', min: 1, max: 123 }, { kind: 'span' }],
    },
  },
};

export const EXCEPTION_LAYOUT: Layout = { items: [{ kind: 'u8', name: 'exception', label: 'exception' }], limits: [] };

/** Exception codes, Modbus Application Protocol V1.1b3, section 7; 07 and 09 are not defined there. */
export const EXCEPTIONS: Readonly<Partial<Record<number, { readonly name: string; readonly text: string }>>> = {
  1: { name: 'illegal function', text: 'the station does not know this function, or not in its present state' },
  2: {
    name: 'illegal data address',
    text: 'a register in the range asked for does not exist, or may not be used this way',
  },
  3: { name: 'illegal data value', text: 'a value or quantity in the request is not allowed' },
  4: { name: 'server device failure', text: 'the station could not do what was asked' },
  5: { name: 'acknowledge', text: 'accepted, it takes a while; ask again later' },
  6: { name: 'server device busy', text: 'the station is busy with a long command; send again later' },
  8: { name: 'memory parity error', text: 'the station found an error in its extended memory' },
  10: { name: 'gateway path unavailable', text: 'the gateway has no free path to that line' },
  11: { name: 'gateway target failed to respond', text: 'the gateway got no answer from the station' },
};

export const EXCEPTION_BIT = 0x80;

/** Name of a function code in the standard's words, the exception bit set aside. */
export function functionName(fc: number): string {
  return FUNCTIONS[fc & ~EXCEPTION_BIT]?.name ?? 'function that is not decoded here';
}

/** The layout that follows the function code; undefined where the table has none. An exception exists as a response only. */
export function layoutOf(fc: number, direction: Direction): Layout | undefined {
  if ((fc & EXCEPTION_BIT) !== 0) return direction === 'response' ? EXCEPTION_LAYOUT : undefined;
  return FUNCTIONS[fc]?.[direction];
}
