import type { ModbusTable } from '../registers/tables';
import type { ModbusMessage } from './message';

/** The vocabulary in which the messages of Modbus are written as data (functions.ts): one table drives lengths, decode, encode and anatomy. */
/** Fields of a message that are one number. */
export type ScalarName =
  | 'address'
  | 'quantity'
  | 'exception'
  | 'status'
  | 'subFunction'
  | 'eventCount'
  | 'messageCount'
  | 'andMask'
  | 'orMask'
  | 'readAddress'
  | 'readQuantity'
  | 'writeAddress'
  | 'writeQuantity'
  | 'meiType'
  | 'readCode'
  | 'conformity'
  | 'nextObjectId'
  | 'objectId';

export type Item =
  | { readonly kind: 'u8' | 'u16'; readonly name: ScalarName; readonly label: string }
  /** One byte that is 00 or FF. */
  | { readonly kind: 'flag'; readonly name: 'moreFollows'; readonly label: string }
  /** Bytes that follow, to the end of the body. */
  | { readonly kind: 'count'; readonly name: 'byteCount'; readonly label: string; readonly width: 1 | 2 }
  /** How many elements the list that follows has. */
  | {
      readonly kind: 'tally';
      readonly name: 'fifoCount' | 'objectCount';
      readonly label: string;
      readonly width: 1 | 2;
    }
  /** Registers: as many as the byte count says, a fixed number, or all that is left. */
  | { readonly kind: 'words'; readonly name: 'values'; readonly label: string; readonly fixed?: number }
  /** Coils packed eight to a byte, low bit first. */
  | { readonly kind: 'bits'; readonly name: 'coils'; readonly label: string }
  /** One coil as a word: FF00 or 0000. */
  | { readonly kind: 'coil'; readonly name: 'coils'; readonly label: string }
  | { readonly kind: 'events'; readonly name: 'events'; readonly label: string }
  /** The server's own identity; its last byte says whether it runs. */
  | { readonly kind: 'identity'; readonly name: 'serverIdHex'; readonly label: string }
  | { readonly kind: 'records'; readonly name: 'records'; readonly label: string; readonly form: RecordForm }
  | { readonly kind: 'objects'; readonly name: 'objects'; readonly label: string }
  /** What only the device's maker can read. */
  | { readonly kind: 'opaque'; readonly name: 'dataHex'; readonly label: string };

/** Sub-requests of file access: asked for, given back by a read, or written (both ways alike). */
export type RecordForm = 'ask' | 'given' | 'write';

/** What the data word of a diagnostic may be: 0, 0 or FF00, or a character in its high byte. */
export type DataRule = 'zero' | 'zero-or-ff00' | 'character';

/** What the standard demands of the fields beyond their width. */
export type Limit =
  | {
      readonly kind: 'range';
      readonly field: ScalarName;
      readonly min: number;
      readonly max: number;
      readonly noun?: string;
    }
  /** Bytes that the byte count may name. */
  | { readonly kind: 'bytes'; readonly min: number; readonly max: number; readonly step?: number }
  /** From `address` on, `quantity` of them must lie within 0 to 65535. */
  | { readonly kind: 'span'; readonly address: ScalarName; readonly quantity: ScalarName; readonly noun: string }
  | { readonly kind: 'count-is-quantity'; readonly quantity: ScalarName; readonly per: 'register' | 'coil' }
  /** Bits behind the last coil are 0 (section 6.11). */
  | { readonly kind: 'padding'; readonly quantity: ScalarName }
  | { readonly kind: 'one-of'; readonly field: ScalarName; readonly values: readonly number[]; readonly text: string }
  /** FIFO queue: at most 31 words, and the byte count is the tally's. */
  | { readonly kind: 'queue'; readonly max: number }
  /** The one data word of a diagnostic. */
  | { readonly kind: 'data'; readonly rule: DataRule };

export interface Layout {
  readonly items: readonly Item[];
  readonly limits: readonly Limit[];
}

/** Places of a table that a function reads or writes in a row, by the fields that say which. */
export interface Touches {
  readonly table: ModbusTable;
  readonly reads?: { readonly first: 'address' | 'readAddress'; readonly quantity: 'quantity' | 'readQuantity' };
  readonly writes?: 'address' | 'writeAddress';
}

/** How much a reply must bring for its request. */
export interface Amount {
  readonly noun: string;
  readonly asked: (request: ModbusMessage) => number;
  readonly came: (reply: ModbusMessage) => number;
}

/** How the reply to a function comes about; absent where its length is the station's own affair. */
export type Answer =
  /** The request comes back unchanged. */
  | { readonly kind: 'echo' }
  /** Address and quantity, without what was written. */
  | { readonly kind: 'range' }
  /** Registers that may have been seen before. */
  | { readonly kind: 'registers' }
  /** A message of known length whose content only the station knows. */
  | { readonly kind: 'unknown'; readonly blank: (request: ModbusMessage) => Partial<ModbusMessage> };

/** One function: what its frames look like, what they touch, and what its reply must be. */
export interface FunctionSpec {
  readonly name: string;
  readonly request: Layout;
  readonly response: Layout;
  /** Whether a request to station 0 makes sense: only writes do. */
  readonly writes: boolean;
  readonly touches?: Touches;
  /** What a reply repeats of its request. */
  readonly repeats?: readonly (keyof ModbusMessage)[];
  readonly brings?: Amount;
  readonly answer?: Answer;
}

/** A function whose layout depends on the byte or word after its code. `other` serves what the standard reserves. */
export interface Chosen {
  readonly name: string;
  readonly writes: boolean;
  readonly width: 1 | 2;
  readonly variants: Readonly<Partial<Record<number, FunctionSpec>>>;
  readonly other: FunctionSpec;
}

export const EXCEPTION_BIT = 0x80;
