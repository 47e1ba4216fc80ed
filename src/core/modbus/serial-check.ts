import { BYTE_CHECKS } from '../checksum/catalogue';
import { crc16 } from '../checksum/crc16';

/** The check that closes a frame on a serial line. */
export interface SerialCheck {
  readonly size: 1 | 2;
  /** The check over `bytes[0, end)` as it goes on the wire. */
  readonly of: (bytes: Uint8Array, end: number) => Uint8Array;
  /** Whether the last bytes of `bytes[0, end)` are the check over what stands before them. */
  readonly good: (bytes: Uint8Array, end: number) => boolean;
  readonly codec: 'u8' | 'u16le';
  readonly text: string;
}

/** A CRC as it goes on the wire: low byte first. */
const crcBytes = (crc: number): Uint8Array => Uint8Array.of(crc & 0xff, crc >>> 8);

/** Modbus over Serial Line V1.02, 2.5.1.2 and 6.2. */
export const CRC_CHECK: SerialCheck = {
  size: 2,
  of: (bytes, end) => crcBytes(crc16(bytes, 0, end)),
  good: (bytes, end) => crc16(bytes, 0, end) === 0,
  codec: 'u16le',
  text: 'good, low byte first',
};

/** Modbus over Serial Line V1.02, 2.5.2.2: two's complement of the sum, so that all bytes with it add up to 0. */
export const LRC_CHECK: SerialCheck = {
  size: 1,
  of: (bytes, end) => Uint8Array.of(BYTE_CHECKS.LRC(bytes.subarray(0, end))),
  good: (bytes, end) => BYTE_CHECKS.LRC(bytes.subarray(0, end)) === 0,
  codec: 'u8',
  text: 'good',
};
