import type { Pairing } from '../pairing';
import type { Dialect, DialectMessage } from './dialect';

const other = (why: string): Pairing => ({ kind: 'other', why });

/** Whether a reply answers a request in this dialect: station, verb, and the kind of reply that was to come. */
export function pairDialect(dialect: Dialect, request: DialectMessage, reply: DialectMessage): Pairing {
  if (reply.station !== undefined && reply.station !== request.station)
    return other(`station ${reply.station} answered, ${request.station ?? 0} was asked`);
  if (reply.kind === 'error') return { kind: 'exception', code: reply.error ?? 0 };
  if (request.kind !== 'read')
    return reply.kind === 'good' ? { kind: 'answer' } : other('a value came, a confirmation was to come');
  if (reply.kind !== 'value') return other('a confirmation came, a value was asked for');
  if (dialect.reply.verb && reply.command !== request.command) return other('the value of another command came');
  return { kind: 'answer' };
}
