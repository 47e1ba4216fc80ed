/** One sub-request of file access. `length` is in registers; a reply to a read names no file and no record. */
export interface FileRecord {
  /** 1 to 65535. */
  readonly file?: number;
  /** 0 to 9999. */
  readonly record?: number;
  readonly length?: number;
  readonly values?: readonly number[];
}

/** One object of a device's identification. */
export interface IdentityObject {
  readonly id: number;
  readonly hex: string;
}

/**
 * What a Modbus frame says, by function (docs/headless.md lists which fields belong to which). A field is absent where the frame ended
 * before it, so a damaged frame still tells what it can. Addresses count from 0.
 */
export interface ModbusMessage {
  /** Modbus TCP only: ties a reply to its request, 0 to 65535. */
  readonly transactionId?: number;
  /** Station, 0 to 255; on a serial line 0 is broadcast, over TCP 0 and 255 are the device itself. */
  readonly unit: number;
  /** Function code without the exception bit. */
  readonly fc: number;
  readonly exception?: number;
  readonly address?: number;
  readonly quantity?: number;
  /** Registers, each 0 to 65535. */
  readonly values?: readonly number[];
  /** Each 0 or 1. */
  readonly coils?: readonly number[];
  /** The word of one coil: 0xFF00 on, 0 off; anything else is a fault. */
  readonly rawValue?: number;
  readonly status?: number;
  readonly subFunction?: number;
  readonly eventCount?: number;
  readonly messageCount?: number;
  /** Each 0 to 255, the newest first. */
  readonly events?: readonly number[];
  readonly serverIdHex?: string;
  readonly running?: boolean;
  readonly records?: readonly FileRecord[];
  readonly andMask?: number;
  readonly orMask?: number;
  readonly readAddress?: number;
  readonly readQuantity?: number;
  readonly writeAddress?: number;
  readonly writeQuantity?: number;
  readonly meiType?: number;
  readonly readCode?: number;
  readonly objectId?: number;
  readonly conformity?: number;
  readonly moreFollows?: boolean;
  readonly nextObjectId?: number;
  readonly objects?: readonly IdentityObject[];
  /** Body of a function that is not in the table. */
  readonly dataHex?: string;
}

/** A message while it is being read. */
export type Draft = { -readonly [K in keyof ModbusMessage]: ModbusMessage[K] };
