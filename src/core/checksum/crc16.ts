/** CRC-16/MODBUS, polynomial 0xA001 reflected (Modbus over Serial Line V1.02, 6.2.2), a byte at a time. */
const TABLE = Uint16Array.from({ length: 256 }, (_, byte) => {
  let register = byte;
  for (let bit = 0; bit < 8; bit++) register = register & 1 ? (register >>> 1) ^ 0xa001 : register >>> 1;
  return register;
});

/**
 * CRC of `bytes[start, end)`; a frame with its own check appended, low byte first, gives 0.
 * @example crc16(frame, 0, frame.length) === 0 // the check is good
 */
export function crc16(bytes: Uint8Array, start = 0, end = bytes.length): number {
  let register = 0xffff;
  for (let at = start; at < end; at++)
    register = (register >>> 8) ^ (TABLE[(register ^ (bytes[at] as number)) & 0xff] as number);
  return register;
}
