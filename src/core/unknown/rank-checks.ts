import { CHECKSUM_NAMES, CRC_MODELS, type ChecksumName } from '../checksum/catalogue';
import { checksum } from '../checksum/checksum';
import { textToBytes } from '../bytes/text';

/** A check that agrees: over which bytes, where it stands, and how it is written there. */
export interface CheckFind {
  readonly algorithm: ChecksumName;
  readonly from: number;
  readonly to: number;
  readonly at: number;
  readonly form: 'binary' | 'binary, swapped' | 'hex text';
  readonly bits: number;
}

/** Spans begin within the first bytes and end right before the check, which stands within the last bytes: that is where checks are. */
const MOST_SKIPPED = 4;
const MOST_BEHIND = 3;
/** A check over fewer bytes says nothing. */
const LEAST_SPAN = 2;

const widthOf = (name: ChecksumName): number =>
  name in CRC_MODELS ? CRC_MODELS[name as keyof typeof CRC_MODELS].width : 8;

const isAt = (bytes: Uint8Array, at: number, wanted: Uint8Array): boolean =>
  wanted.every((byte, i) => bytes[at + i] === byte);

/** Every usual check over every usual span, in both byte orders and as hex text. Bounded: the work grows with the length alone. */
export function searchChecks(bytes: Uint8Array): readonly CheckFind[] {
  const found: CheckFind[] = [];
  for (const algorithm of CHECKSUM_NAMES) {
    const bits = widthOf(algorithm);
    const size = bits / 8;
    for (const form of ['binary', 'binary, swapped', 'hex text'] as const) {
      if (form === 'binary, swapped' && size === 1) continue;
      const length = form === 'hex text' ? 2 * size : size;
      for (let behind = 0; behind <= MOST_BEHIND; behind++) {
        const at = bytes.length - behind - length;
        for (let from = 0; from <= MOST_SKIPPED; from++) {
          if (at - from < LEAST_SPAN) break;
          const check = checksum(algorithm, bytes.subarray(from, at));
          const wanted =
            form === 'hex text'
              ? textToBytes(check.value.toString(16).toUpperCase().padStart(length, '0'))
              : form === 'binary'
                ? check.bytes
                : check.bytes.slice().reverse();
          const there = form === 'hex text' ? upper(bytes.subarray(at, at + length)) : bytes.subarray(at, at + length);
          if (isAt(there, 0, wanted)) found.push({ algorithm, from, to: at, at, form, bits });
        }
      }
    }
  }
  return found.sort((a, b) => b.bits - a.bits || a.from - b.from);
}

const upper = (bytes: Uint8Array): Uint8Array => bytes.map((byte) => (byte >= 0x61 && byte <= 0x66 ? byte - 32 : byte));

/** How many spans were tried for one check: what an agreement by chance is weighed by. */
export const TRIES_PER_CHECK = (MOST_SKIPPED + 1) * (MOST_BEHIND + 1);
