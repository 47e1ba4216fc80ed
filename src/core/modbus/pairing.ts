import { counted } from '../counted';
import type { Pairing } from '../pairing';
import { specOf } from './lookup';
import type { ModbusMessage } from './message';

const other = (why: string): Pairing => ({ kind: 'other', why });

/** What a reply repeats of its request, by function (Modbus Application Protocol V1.1b3, section 6). */
const REPEATED: Readonly<Partial<Record<number, readonly (keyof ModbusMessage)[]>>> = {
  5: ['address', 'rawValue'],
  6: ['address', 'values'],
  8: ['subFunction'],
  15: ['address', 'quantity'],
  16: ['address', 'quantity'],
  21: ['records'],
  22: ['address', 'andMask', 'orMask'],
  43: ['meiType', 'readCode'],
};

/** How much a reply must bring, by function: what came, what was asked, and the noun. */
const AMOUNTS: Readonly<
  Partial<Record<number, (request: ModbusMessage, reply: ModbusMessage) => readonly [number, number, string]>>
> = {
  1: (request, reply) => [octets(reply.coils?.length), octets(request.quantity), 'byte'],
  2: (request, reply) => [octets(reply.coils?.length), octets(request.quantity), 'byte'],
  3: (request, reply) => [reply.values?.length ?? 0, request.quantity ?? 0, 'register'],
  4: (request, reply) => [reply.values?.length ?? 0, request.quantity ?? 0, 'register'],
  20: (request, reply) => [reply.records?.length ?? 0, request.records?.length ?? 0, 'record'],
  23: (request, reply) => [reply.values?.length ?? 0, request.readQuantity ?? 0, 'register'],
};

const octets = (coils: number | undefined): number => Math.ceil((coils ?? 0) / 8);

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A diagnostic that is echoed repeats its data too; one that counts does not. */
const echoesData = ({ fc, subFunction }: ModbusMessage): boolean => {
  const spec = specOf(fc, subFunction);
  return fc === 8 && (subFunction === 0 || spec?.request === spec?.response);
};

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
  const differs = [...(REPEATED[request.fc] ?? []), ...(echoesData(request) ? (['values'] as const) : [])].find(
    (field) => !same(request[field], reply[field]),
  );
  if (differs) return other(`the reply repeats another ${NOUNS[differs] ?? differs} than was sent`);
  const amount = AMOUNTS[request.fc]?.(request, reply);
  if (!amount || amount[0] === amount[1]) return { kind: 'answer' };
  return other(`${counted(amount[0], amount[2])} came, ${amount[1]} were asked for`);
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
