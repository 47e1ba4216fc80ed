/**
 * Where a value of a drive lives, as one number, so that every view looks values up in one map. Below 65536 it is a Modbus register; other
 * links have their own ranges above.
 */
export const PLACES = {
  /** Word n of the process data that the drive gets, and that it sends. */
  processOut: 0x1_0000,
  processIn: 0x1_0100,
  /** Parameter n of a USS drive, element 0. */
  ussParameter: 0x2_0000,
  /** Command n of a dialect, its first value. */
  command: 0x4_0000,
} as const;

export const isRegister = (address: number): boolean => address < PLACES.processOut;
export const isProcessOut = (address: number): boolean => address >= PLACES.processOut && address < PLACES.processIn;
export const isUssParameter = (address: number): boolean => address >= PLACES.ussParameter && address < PLACES.command;
export const isCommand = (address: number): boolean => address >= PLACES.command;
