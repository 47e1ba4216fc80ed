import fc from 'fast-check';
import { ascii } from '../../../tests/harness/bytes';
import { bytesToHex } from '../bytes/hex';
import { CHECKSUM_NAMES, type ChecksumName } from './catalogue';
import { checksum } from './checksum';
import { crc16 } from './crc16';

/**
 * Check values of "123456789". CRCs: the public catalogue of parametrised CRC algorithms (from memory). XOR and sums: worked out by
 * hand (sum of 0x31 to 0x39 is 477 = 0x1DD; XOR is 0x31); LRC is the two's complement of the sum, Modbus over Serial Line V1.02, 2.5.2.2.
 */
const CHECK_VALUES: readonly (readonly [ChecksumName, number, string])[] = [
  ['CRC-16/MODBUS', 0x4b37, '374b'],
  ['CRC-16/ARC', 0xbb3d, '3dbb'],
  ['CRC-16/CCITT-FALSE', 0x29b1, '29b1'],
  ['CRC-16/KERMIT', 0x2189, '8921'],
  ['CRC-16/XMODEM', 0x31c3, '31c3'],
  ['CRC-24/OPENPGP', 0x21cf02, '21cf02'],
  ['CRC-32', 0xcbf43926, '2639f4cb'],
  ['CRC-32/MPEG-2', 0x0376e6e7, '0376e6e7'],
  ['CRC-8', 0xf4, 'f4'],
  ['CRC-8/DVB-S2', 0xbc, 'bc'],
  ['CRC-8/MAXIM', 0xa1, 'a1'],
  ['LRC', 0x23, '23'],
  ['XOR-8', 0x31, '31'],
  ['SUM-8', 0xdd, 'dd'],
  ['SUM-8-TWOS-COMPLEMENT', 0x23, '23'],
];

it.each(CHECK_VALUES)('%s of "123456789"', (name, value, wire) => {
  const check = checksum(name, ascii('123456789'));
  expect(check.value).toBe(value);
  expect(bytesToHex(check.bytes)).toBe(wire);
});

it('has a check value for every algorithm offered', () => {
  expect(CHECK_VALUES.map(([name]) => name).sort()).toEqual([...CHECKSUM_NAMES].sort());
});

it('table and bit-by-bit CRC-16 agree on any bytes, and a frame with its check gives 0', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 300 }), fc.nat(9), (bytes, before) => {
      const { value, bytes: wire } = checksum('CRC-16/MODBUS', bytes);
      expect(crc16(bytes)).toBe(value);
      // Wherever it stands: words of 32 bits begin at every fourth byte of the memory behind.
      const memory = new Uint8Array(before + bytes.length + 5);
      memory.set(bytes, before);
      expect(crc16(memory, before, before + bytes.length)).toBe(value);
      expect(crc16(memory.subarray(before), 0, bytes.length)).toBe(value);
      expect(crc16(Uint8Array.from([...bytes, ...wire]))).toBe(0);
    }),
    { seed: 16, numRuns: 500 },
  );
});
