import * as v from 'valibot';
import { bytesToHex } from '../core/bytes/hex';
import { CHECKSUM_NAMES } from '../core/checksum/catalogue';
import { checksum } from '../core/checksum/checksum';
import { bytesOf, Id, read } from './input';
import type { Verb } from './protocol';

export const CHECKSUM_VERB: Verb = {
  help: `a check over bytes; algorithms: ${CHECKSUM_NAMES.join(', ')}`,
  example: '{"algorithm":"CRC-16/MODBUS","hex":"313233343536373839"}',
  run: (input) => {
    const { algorithm, hex } = read({ ...Id, algorithm: v.picklist(CHECKSUM_NAMES), hex: v.string() }, input);
    const { value, bytes } = checksum(algorithm, bytesOf(hex));
    return { value, hex: bytesToHex(bytes) };
  },
};
