import { counted } from '../counted';
import type { ModbusMessage } from './message';

/** How a reply stands to a request; `other` names the first thing that does not fit. */
export type Pairing =
  | { readonly kind: 'answer' }
  | { readonly kind: 'exception'; readonly code: number }
  | { readonly kind: 'other'; readonly why: string };

const other = (why: string): Pairing => ({ kind: 'other', why });

/**
 * Whether `reply` (decoded without fault) answers `request`: station, function, and all that the reply repeats or implies.
 * Two requests that ask the same cannot be told apart by their replies; time must do that (link/).
 */
export function pairModbus(request: ModbusMessage, reply: ModbusMessage): Pairing {
  if (reply.transactionId !== request.transactionId)
    return other(`the reply is for transaction ${reply.transactionId ?? 0}, ${request.transactionId ?? 0} was asked`);
  if (reply.unit !== request.unit) return other(`station ${reply.unit} answered, ${request.unit} was asked`);
  if (reply.fc !== request.fc) return other(`the reply is for function ${reply.fc}, ${request.fc} was asked`);
  if (reply.exception !== undefined) return { kind: 'exception', code: reply.exception };
  switch (request.fc) {
    case 3:
    case 4:
      return reply.values?.length === request.quantity
        ? { kind: 'answer' }
        : other(`${counted(reply.values?.length ?? 0, 'register')} came, ${request.quantity ?? 0} were asked for`);
    case 6:
      return reply.address === request.address && reply.values?.[0] === request.values?.[0]
        ? { kind: 'answer' }
        : other('the reply repeats another register or value than was written');
    case 16:
      return reply.address === request.address && reply.quantity === request.quantity
        ? { kind: 'answer' }
        : other('the reply repeats another range than was written');
    default:
      return { kind: 'answer' };
  }
}
