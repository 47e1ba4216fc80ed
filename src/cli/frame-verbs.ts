import * as v from 'valibot';
import { bytesToHex } from '../core/bytes/hex';
import type { Field } from '../core/bytes/field';
import { RTU, TCP, type ModbusFraming } from '../core/modbus/framing';
import { decodeWith } from '../core/modbus/reading';
import { bytesOf, Id, read } from './input';
import { BadLine, type Answer, type Verb } from './protocol';

const DirectionField = v.picklist(['request', 'response']);
const Integer = v.pipe(v.number(), v.integer());

/** The codec is ours, for editing; the contract has the rest. */
const plain = ({ codec: _codec, children, ...field }: Field): Answer => ({
  ...field,
  ...(children ? { children: children.map(plain) } : {}),
});

const BUILT: readonly ModbusFraming[] = [RTU, TCP];

function framingNamed(protocol: string): ModbusFraming {
  const framing = BUILT.find(({ id }) => id === protocol);
  if (!framing)
    throw new BadLine('unsupported-protocol', `protocol ${protocol} is not built yet; modbus-rtu and modbus-tcp are`);
  return framing;
}

function decode(input: unknown): Answer {
  const { protocol, hex, direction } = read(
    {
      ...Id,
      protocol: v.string(),
      hex: v.string(),
      direction: v.optional(DirectionField),
      requestQuantity: v.optional(Integer),
      pkwWords: v.optional(Integer),
    },
    input,
  );
  const framing = framingNamed(protocol);
  const bytes = bytesOf(hex);
  const decoded = decodeWith(framing.read, bytes, direction);
  const shown = framing.read(bytes, decoded.direction === 'either' ? 'request' : decoded.direction);
  const readings = decoded.readings?.map((reading) => ({ direction: reading.direction, message: reading.message }));
  return {
    direction: decoded.direction,
    message: decoded.message,
    faults: decoded.faults,
    fields: framing.anatomy(bytes, shown).map(plain),
    ...(readings ? { readings } : {}),
  };
}

const MessageField = v.object({
  transactionId: v.optional(Integer),
  unit: Integer,
  fc: Integer,
  exception: v.optional(Integer),
  address: v.optional(Integer),
  quantity: v.optional(Integer),
  values: v.optional(v.array(Integer)),
  dataHex: v.optional(v.string()),
});

/** Leaves out what was not given: an absent field and an undefined one are not the same to the core. */
const given = <T extends object>(value: T): { [K in keyof T]: Exclude<T[K], undefined> } =>
  Object.fromEntries(Object.entries(value).filter(([, entry]) => entry !== undefined)) as {
    [K in keyof T]: Exclude<T[K], undefined>;
  };

function encode(input: unknown): Answer {
  const { protocol, direction, message } = read(
    { ...Id, protocol: v.string(), direction: DirectionField, message: MessageField },
    input,
  );
  const built = framingNamed(protocol).encode(given(message), direction);
  if (built.ok) return { hex: bytesToHex(built.value) };
  const [fault] = built.error;
  throw new BadLine(fault?.code ?? 'bad-field', built.error.map(({ text }) => text).join('; '));
}

export const FRAME_VERBS: Readonly<Record<string, Verb>> = {
  decode: {
    help: 'what a frame says: direction, message, faults and fields',
    example: '{"protocol":"modbus-rtu","hex":"0306 0243 0f45 bc47"}',
    run: decode,
  },
  encode: {
    help: 'a frame with its check from a message, within the limits of the standard',
    example:
      '{"protocol":"modbus-rtu","direction":"request","message":{"unit":3,"fc":6,"address":579,"values":[3909]}}',
    run: encode,
  },
};
