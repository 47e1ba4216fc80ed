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
  /** Body of a function that is not in the table. */
  readonly dataHex?: string;
}

/** A message while it is being read. */
export type Draft = { -readonly [K in keyof ModbusMessage]: ModbusMessage[K] };
