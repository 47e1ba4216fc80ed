import { counted } from '../counted';
import type { Pairing } from '../pairing';
import type { FunctionSpec } from './layout';
import { specOf } from './lookup';
import type { ModbusMessage } from './message';

const other = (why: string): Pairing => ({ kind: 'other', why });

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const rowOf = ({ fc, subFunction, meiType }: ModbusMessage): FunctionSpec | undefined =>
  specOf(fc, subFunction ?? meiType);

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
  const differs = repeatedOf(request).find((field) => !same(request[field], reply[field]));
  if (differs) return other(`the reply repeats another ${NOUNS[differs] ?? differs} than was sent`);
  const amount = rowOf(request)?.brings;
  if (!amount || amount.came(reply) === amount.asked(request)) return { kind: 'answer' };
  return other(`${counted(amount.came(reply), amount.noun)} came, ${amount.asked(request)} were asked for`);
}

const repeatedOf = (request: ModbusMessage): readonly (keyof ModbusMessage)[] => rowOf(request)?.repeats ?? [];

/** Whether the same answer, refusals left out, would fit both requests: nothing that it repeats or implies tells them apart. */
export function answersAlike(one: ModbusMessage, another: ModbusMessage): boolean {
  const amount = rowOf(one)?.brings;
  return (
    (['transactionId', 'unit', 'fc', ...repeatedOf(one)] as const).every((field) => same(one[field], another[field])) &&
    (!amount || amount.asked(one) === amount.asked(another))
  );
}

const NOUNS: Readonly<Partial<Record<keyof ModbusMessage, string>>> = {
  values: 'value',
  rawValue: 'coil value',
  andMask: 'AND mask',
  orMask: 'OR mask',
  subFunction: 'sub-function',
  meiType: 'transport',
  readCode: 'read code',
  records: 'set of records',
};
