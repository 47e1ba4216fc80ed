import * as v from 'valibot';
import { asciiSplitter, tcpSplitter } from '../core/capture/split-framed';
import { RtuSplitter } from '../core/capture/split-rtu';
import type { FrameSink, Splitter } from '../core/capture/frame-sink';
import type { ModbusFraming } from '../core/modbus/framing';
import type { ModbusMessage } from '../core/modbus/message';
import { decodeWith } from '../core/modbus/reading';
import type { FrameCodec } from './frame-codec';
import { readWith, whole } from './input';

const Integer = v.pipe(v.number(), v.integer());
const Integers = v.array(Integer);
const Yes = v.union([
  v.boolean(),
  v.pipe(
    Integer,
    v.transform((number) => number !== 0),
  ),
]);

const MessageField = v.strictObject({
  transactionId: v.optional(Integer),
  unit: Integer,
  fc: Integer,
  exception: v.optional(Integer),
  address: v.optional(Integer),
  quantity: v.optional(Integer),
  values: v.optional(Integers),
  coils: v.optional(Integers),
  rawValue: v.optional(Integer),
  status: v.optional(Integer),
  subFunction: v.optional(Integer),
  eventCount: v.optional(Integer),
  messageCount: v.optional(Integer),
  events: v.optional(Integers),
  serverIdHex: v.optional(v.string()),
  running: v.optional(Yes),
  records: v.optional(
    v.array(
      v.strictObject({
        file: v.optional(Integer),
        record: v.optional(Integer),
        length: v.optional(Integer),
        values: v.optional(Integers),
      }),
    ),
  ),
  andMask: v.optional(Integer),
  orMask: v.optional(Integer),
  readAddress: v.optional(Integer),
  readQuantity: v.optional(Integer),
  writeAddress: v.optional(Integer),
  writeQuantity: v.optional(Integer),
  meiType: v.optional(Integer),
  readCode: v.optional(Integer),
  objectId: v.optional(Integer),
  conformity: v.optional(Integer),
  moreFollows: v.optional(Yes),
  nextObjectId: v.optional(Integer),
  objects: v.optional(v.array(v.strictObject({ id: Integer, hex: v.string() }))),
  dataHex: v.optional(v.string()),
});

/** The coils that were asked for: the last byte of a reply brings more. */
const trimmed = (message: ModbusMessage | null, quantity: number | undefined): ModbusMessage | null =>
  message?.coils && quantity !== undefined && (message.fc === 1 || message.fc === 2)
    ? { ...message, coils: message.coils.slice(0, quantity) }
    : message;

const SPLITTERS: Readonly<Record<ModbusFraming['id'], (sink: FrameSink) => Splitter>> = {
  'modbus-rtu': (sink) => new RtuSplitter(sink),
  'modbus-ascii': (sink) => asciiSplitter(sink),
  'modbus-tcp': (sink) => tcpSplitter(sink),
};

/** Modbus frames in one framing as the verbs take and give them. */
export const modbusCodec = (framing: ModbusFraming): FrameCodec => ({
  decode: (bytes, { direction, requestQuantity }) => {
    const decoded = decodeWith(framing.read, bytes, direction);
    const shown = framing.read(bytes, decoded.direction === 'either' ? 'request' : decoded.direction);
    return {
      direction: decoded.direction,
      message: trimmed(decoded.message, decoded.direction === 'request' ? undefined : requestQuantity),
      faults: decoded.faults,
      fields: framing.anatomy(bytes, shown),
      ...(decoded.readings
        ? {
            readings: decoded.readings.map(({ direction: way, message }) => ({
              direction: way,
              message: trimmed(message, way === 'request' ? undefined : requestQuantity),
            })),
          }
        : {}),
    };
  },
  encode: (message, direction) => framing.encode(whole(readWith(MessageField, message, 'message')), direction),
  split: SPLITTERS[framing.id],
  headOf: (frame, direction) => {
    const { message } = framing.read(frame, direction);
    return { unit: message?.unit ?? null, fc: message?.fc ?? null };
  },
});
