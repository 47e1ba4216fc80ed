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

/** Whether the same answer, refusals left out, would fit both requests: few dialects repeat more than the station and the verb of a value. */
export function answersAlike(dialect: Dialect, one: DialectMessage, another: DialectMessage): boolean {
  if (dialect.reply.station === true && one.station !== another.station) return false;
  if ((one.kind === 'read') !== (another.kind === 'read')) return false;
  return one.kind !== 'read' || dialect.reply.verb !== true || one.command === another.command;
}
