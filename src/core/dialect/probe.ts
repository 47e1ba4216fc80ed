import { checkSize, leadOf } from './check';
import type { Dialect } from './dialect';
import { literalBytes, startsWith } from './literal';
import { numberEnd } from './number-text';
import { bytesToText } from '../bytes/text';

/** No line of a dialect is longer; a line that never closes must not be waited for. */
export const LINE_MAX = 256;

/** Length of the reply that begins at `start`: 0 while it may still become one, -1 when none begins here. */
export function probeDialect(dialect: Dialect, bytes: Uint8Array, start: number, end: number): number {
  if (end <= start) return 0;
  const bare = dialect.reply.bareMarks ? probeBare(dialect, bytes, start, end) : -1;
  if (bare >= 0) return bare;
  const [open, close] = [literalBytes(dialect.open), literalBytes(dialect.close)];
  if (!startsWith(bytes, start, open))
    return end - start < open.length && startsWith(open, 0, bytes.subarray(start, end)) ? 0 : -1;
  const tail = dialect.check?.afterClose ? checkSize(dialect.check) + leadOf(dialect.check).length : 0;
  const last = Math.min(end, start + LINE_MAX) - close.length;
  for (let at = start + open.length; at <= last; at++) {
    if (!startsWith(bytes, at, close)) continue;
    const length = at + close.length + tail - start;
    return end - start < length ? 0 : length;
  }
  return end - start < LINE_MAX ? 0 : -1;
}

function probeBare({ reply }: Dialect, bytes: Uint8Array, start: number, end: number): number {
  const [good, bad] = [literalBytes(reply.good), literalBytes(reply.error.mark)];
  if (good.length > 0 && startsWith(bytes, start, good)) return good.length;
  if (bad.length === 0 || !startsWith(bytes, start, bad)) return -1;
  const text = bytesToText(bytes.subarray(start, end));
  const until = numberEnd(text, bad.length, reply.error);
  const width = reply.error.width ?? 1;
  return until - bad.length < width ? 0 : until;
}
