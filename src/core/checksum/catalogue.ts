/**
 * Parameters of the checks offered, in the usual model (width, polynomial, start value, reflection, final XOR).
 * Source: the public catalogue of parametrised CRC algorithms; the check value of "123456789" stands in the tests.
 */
export interface CrcModel {
  readonly width: 8 | 16 | 24 | 32;
  readonly poly: number;
  readonly init: number;
  readonly reflected: boolean;
  readonly xorOut: number;
}

export const CRC_MODELS = {
  'CRC-16/MODBUS': { width: 16, poly: 0x8005, init: 0xffff, reflected: true, xorOut: 0 },
  'CRC-16/ARC': { width: 16, poly: 0x8005, init: 0, reflected: true, xorOut: 0 },
  'CRC-16/CCITT-FALSE': { width: 16, poly: 0x1021, init: 0xffff, reflected: false, xorOut: 0 },
  'CRC-16/KERMIT': { width: 16, poly: 0x1021, init: 0, reflected: true, xorOut: 0 },
  'CRC-16/XMODEM': { width: 16, poly: 0x1021, init: 0, reflected: false, xorOut: 0 },
  'CRC-24/OPENPGP': { width: 24, poly: 0x864cfb, init: 0xb704ce, reflected: false, xorOut: 0 },
  'CRC-32': { width: 32, poly: 0x04c11db7, init: 0xffffffff, reflected: true, xorOut: 0xffffffff },
  'CRC-32/MPEG-2': { width: 32, poly: 0x04c11db7, init: 0xffffffff, reflected: false, xorOut: 0 },
  'CRC-8': { width: 8, poly: 0x07, init: 0, reflected: false, xorOut: 0 },
  'CRC-8/DVB-S2': { width: 8, poly: 0xd5, init: 0, reflected: false, xorOut: 0 },
  'CRC-8/MAXIM': { width: 8, poly: 0x31, init: 0, reflected: true, xorOut: 0 },
} as const satisfies Readonly<Record<string, CrcModel>>;

const sum = (bytes: Uint8Array): number => bytes.reduce((total, byte) => (total + byte) & 0xff, 0);

/** Checks of one byte that are no CRC. LRC is the two's complement of the sum (Modbus over Serial Line V1.02, 2.5.2.2). */
export const BYTE_CHECKS = {
  LRC: (bytes: Uint8Array): number => -sum(bytes) & 0xff,
  'XOR-8': (bytes: Uint8Array): number => bytes.reduce((total, byte) => total ^ byte, 0),
  'SUM-8': sum,
  'SUM-8-TWOS-COMPLEMENT': (bytes: Uint8Array): number => -sum(bytes) & 0xff,
} as const;

export type ChecksumName = keyof typeof CRC_MODELS | keyof typeof BYTE_CHECKS;
export const CHECKSUM_NAMES = [...Object.keys(CRC_MODELS), ...Object.keys(BYTE_CHECKS)] as readonly ChecksumName[];
