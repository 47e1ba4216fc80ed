import { writtenBy } from '../modbus/touched';
import { readUss } from '../uss/telegram';
import type { LineProtocol } from './line-protocol';

/** The bytes that an exchange carries round, each way, as they crossed the line; null where it carries none that way. */
export interface CarriedBytes {
  readonly out: Uint8Array | null;
  readonly in: Uint8Array | null;
}

const bytesOf = (words: readonly number[] | undefined): Uint8Array | null =>
  words && words.length > 0 ? Uint8Array.from(words.flatMap((word) => [word >>> 8, word & 0xff])) : null;

/** Registers of a Modbus exchange, or the process data of a USS one. A reply that is none, or refuses, brings nothing. */
export function carriedBytes(protocol: LineProtocol, request: Uint8Array, reply: Uint8Array | null): CarriedBytes {
  if (protocol.family === 'uss')
    return {
      out: bytesOf(readUss(request).message?.pzd),
      in: bytesOf(reply ? readUss(reply).message?.pzd : undefined),
    };
  const asked = protocol.read(request, 'request').modbus;
  const said = reply ? protocol.read(reply, 'response', request).modbus : null;
  const written = asked ? writtenBy(asked) : null;
  // Of a mask write nobody knows here which word it leaves.
  const isWords = written?.table === 'holding-register' && asked?.andMask === undefined;
  return {
    out: isWords ? bytesOf(written.words) : null,
    in: said?.exception === undefined ? bytesOf(said?.values) : null,
  };
}
