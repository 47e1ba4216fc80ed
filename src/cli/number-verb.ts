import * as v from 'valibot';
import { bytesToHex } from '../core/bytes/hex';
import { decodeNumber, encodeNumber, NUMBER_TYPES, ordersOf } from '../core/bytes/number';
import type { Fault } from '../core/fault';
import type { Result } from '../core/result';
import { bytesOf, Id, read } from './input';
import { BadLine, type Verb } from './protocol';

function need<T>(result: Result<T, Fault>): T {
  if (!result.ok) throw new BadLine(result.error.code, result.error.text);
  return result.value;
}

export const NUMBER_VERB: Verb = {
  help: `a number as bytes and registers, or back; types: ${NUMBER_TYPES.join(', ')}; the order names the bytes as they stand on the wire`,
  example: '{"type":"float32","order":"CDAB","value":"17.5"}',
  run: (input) => {
    const { type, order, value, hex } = read(
      {
        ...Id,
        type: v.picklist(NUMBER_TYPES),
        order: v.optional(v.string()),
        value: v.optional(v.union([v.string(), v.number()])),
        hex: v.optional(v.string()),
      },
      input,
    );
    if ((value === undefined) === (hex === undefined)) throw new BadLine('bad-field', 'one of value and hex is needed');
    const wire = order ?? ordersOf(type)[0] ?? '';
    const bytes = hex === undefined ? need(encodeNumber(type, wire, String(value))) : bytesOf(hex);
    const stored = need(decodeNumber(type, wire, bytes));
    const registers = Array.from(
      { length: bytes.length / 2 },
      (_, i) => (bytes[2 * i] as number) * 256 + (bytes[2 * i + 1] as number),
    );
    return { ...stored, hex: bytesToHex(bytes), registers };
  },
};
