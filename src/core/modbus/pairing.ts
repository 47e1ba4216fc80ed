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

interface Amount {
  readonly noun: string;
  readonly asked: (request: ModbusMessage) => number;
  readonly came: (reply: ModbusMessage) => number;
}

const octets = (coils: number | undefined): number => Math.ceil((coils ?? 0) / 8);

const COIL_BYTES: Amount = {
  noun: 'byte',
  asked: ({ quantity }) => octets(quantity),
  came: ({ coils }) => octets(coils?.length),
};
const REGISTERS: Amount = {
  noun: 'register',
  asked: ({ quantity }) => quantity ?? 0,
  came: ({ values }) => values?.length ?? 0,
};

/** How much a reply must bring, by function. */
const AMOUNTS: Readonly<Partial<Record<number, Amount>>> = {
  1: COIL_BYTES,
  2: COIL_BYTES,
  3: REGISTERS,
  4: REGISTERS,
  20: { noun: 'record', asked: ({ records }) => records?.length ?? 0, came: ({ records }) => records?.length ?? 0 },
  23: { ...REGISTERS, asked: ({ readQuantity }) => readQuantity ?? 0 },
};

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
  const differs = repeatedOf(request).find((field) => !same(request[field], reply[field]));
  if (differs) return other(`the reply repeats another ${NOUNS[differs] ?? differs} than was sent`);
  const amount = AMOUNTS[request.fc];
  if (!amount || amount.came(reply) === amount.asked(request)) return { kind: 'answer' };
  return other(`${counted(amount.came(reply), amount.noun)} came, ${amount.asked(request)} were asked for`);
}

const repeatedOf = (request: ModbusMessage): readonly (keyof ModbusMessage)[] => [
  ...(REPEATED[request.fc] ?? []),
  ...(echoesData(request) ? (['values'] as const) : []),
];

/** Whether the same answer, refusals left out, would fit both requests: nothing that it repeats or implies tells them apart. */
export function answersAlike(one: ModbusMessage, another: ModbusMessage): boolean {
  const amount = AMOUNTS[one.fc];
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
