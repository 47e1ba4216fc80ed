import type { TraceEntry } from '../../core/trace/entry';

/** Farther back nobody would take an answer for the present one. */
const LOOKED_AT = 3000;

const same = (a: Uint8Array, b: Uint8Array): boolean => a.length === b.length && a.every((byte, i) => byte === b[i]);

/** The sure answer that the same request on the same line got last, or null. The exchange that is being looked at is no witness for itself. */
export function lastReplyTo(
  entries: readonly TraceEntry[],
  line: string,
  request: Uint8Array,
  notExchange = 0,
): Uint8Array | null {
  const present = entries[entries.length - 1]?.session;
  const replies = new Map<string, Uint8Array>();
  for (let i = entries.length - 1; i >= 0 && i >= entries.length - LOOKED_AT; i--) {
    const entry = entries[i];
    if (!entry || entry.line !== line) continue;
    if (entry.session === present && entry.exchange === notExchange) continue;
    const key = `${entry.session} ${entry.exchange}`;
    if (entry.direction === 'received' && entry.outcome === 'answered') replies.set(key, entry.bytes);
    if (entry.direction !== 'sent' || !same(entry.bytes, request)) continue;
    const reply = replies.get(key);
    if (reply) return reply;
  }
  return null;
}
