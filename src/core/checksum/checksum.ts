import { BYTE_CHECKS, CRC_MODELS, type ChecksumName, type CrcModel } from './catalogue';

/** A check's value and its bytes as they go on the wire: low byte first where the algorithm reflects, else high first. */
export interface Checksum {
  readonly value: number;
  readonly bytes: Uint8Array;
}

function reflect(value: number, width: number): number {
  let out = 0;
  for (let bit = 0; bit < width; bit++) if ((value >>> bit) & 1) out |= 1 << (width - 1 - bit);
  return out >>> 0;
}

/** Bit by bit and for any width: used for single frames and searches of unknown checks; CRC-16 of streams has a table. */
function crc(bytes: Uint8Array, model: CrcModel): number {
  const { width, reflected } = model;
  const mask = width === 32 ? 0xffffffff : (1 << width) - 1;
  const top = 2 ** (width - 1);
  const poly = reflected ? reflect(model.poly, width) : model.poly;
  let register = reflected ? reflect(model.init, width) : model.init;
  for (const byte of bytes) {
    register = (reflected ? register ^ byte : register ^ (byte << (width - 8))) >>> 0;
    for (let bit = 0; bit < 8; bit++) {
      const out = reflected ? register & 1 : register & top;
      register = reflected ? register >>> 1 : (register << 1) & mask;
      if (out) register ^= poly;
      register >>>= 0;
    }
  }
  return ((register ^ model.xorOut) & mask) >>> 0;
}

const isByteCheck = (name: ChecksumName): name is keyof typeof BYTE_CHECKS => name in BYTE_CHECKS;

/**
 * The check over all of `bytes`.
 * @example checksum('CRC-16/MODBUS', ascii('123456789')).value // 0x4b37
 */
export function checksum(name: ChecksumName, bytes: Uint8Array): Checksum {
  if (isByteCheck(name)) {
    const value = BYTE_CHECKS[name](bytes);
    return { value, bytes: Uint8Array.of(value) };
  }
  const model = CRC_MODELS[name];
  const value = crc(bytes, model);
  const count = model.width / 8;
  const wire = Uint8Array.from(
    { length: count },
    (_, i) => (value >>> (8 * (model.reflected ? i : count - 1 - i))) & 0xff,
  );
  return { value, bytes: wire };
}
