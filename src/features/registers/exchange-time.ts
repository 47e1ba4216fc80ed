import type { TraceEntry } from '../../core/trace/entry';

/** So many of the newest entries of a line are looked at. */
const NEWEST = 120;

/** How long an exchange took on a line of late, from the request to the answer, in microseconds; null where none was answered. */
export function exchangeUs(entries: readonly TraceEntry[], line: string): number | null {
  const sent = new Map<number, number>();
  let [sum, count] = [0, 0];
  for (const { line: own, direction, exchange, atUs } of entries.slice(-NEWEST)) {
    if (own !== line || exchange === 0) continue;
    if (direction === 'sent') sent.set(exchange, atUs);
    const from = direction === 'received' ? sent.get(exchange) : undefined;
    if (from === undefined) continue;
    sum += atUs - from;
    count++;
  }
  return count === 0 ? null : sum / count;
}
