import * as v from 'valibot';
import { bytesToHex } from '../core/bytes/hex';
import type { Field } from '../core/bytes/field';
import { MODBUS_FRAMINGS } from '../core/modbus/framing';
import { dialectCodec, DIALECT_IDS } from './dialect-codec';
import type { FrameCodec } from './frame-codec';
import { bytesOf, Id, read } from './input';
import { modbusCodec } from './modbus-codec';
import { BadLine, type Answer, type Verb } from './protocol';
import { USS_CODEC } from './uss-codec';

const DirectionField = v.picklist(['request', 'response']);
const Integer = v.pipe(v.number(), v.integer());

/** The codec is ours, for editing; the contract has the rest. */
const plain = ({ codec: _codec, children, ...field }: Field): Answer => ({
  ...field,
  ...(children ? { children: children.map(plain) } : {}),
});

const CODECS = new Map<string, FrameCodec>([
  ...MODBUS_FRAMINGS.map((framing) => [framing.id, modbusCodec(framing)] as const),
  ['uss', USS_CODEC],
]);

function codecNamed(protocol: string): FrameCodec {
  const known = CODECS.get(protocol) ?? dialectCodec(protocol);
  if (!known)
    throw new BadLine(
      'unsupported-protocol',
      `there is no protocol ${protocol}; there are ${[...CODECS.keys(), ...DIALECT_IDS].join(', ')}`,
    );
  CODECS.set(protocol, known);
  return known;
}

function decode(input: unknown): Answer {
  const { protocol, hex, direction, requestQuantity, pkwWords } = read(
    {
      ...Id,
      protocol: v.string(),
      hex: v.string(),
      direction: v.optional(DirectionField),
      requestQuantity: v.optional(Integer),
      pkwWords: v.optional(v.picklist([0, 3, 4])),
    },
    input,
  );
  const { fields, ...decoded } = codecNamed(protocol).decode(bytesOf(hex), { direction, requestQuantity, pkwWords });
  const { direction: found, message, faults, readings } = decoded;
  return { direction: found, message, faults, fields: fields.map(plain), ...(readings ? { readings } : {}) };
}

function encode(input: unknown): Answer {
  const { protocol, direction, message } = read(
    { ...Id, protocol: v.string(), direction: DirectionField, message: v.unknown() },
    input,
  );
  const built = codecNamed(protocol).encode(message, direction);
  if (built.ok) return { hex: bytesToHex(built.value) };
  const [fault] = built.error;
  throw new BadLine(fault?.code ?? 'bad-field', built.error.map(({ text }) => text).join('; '));
}

function split(input: unknown): Answer {
  const { protocol, hex } = read({ ...Id, protocol: v.string(), hex: v.string() }, input);
  const codec = codecNamed(protocol);
  const frames: Answer[] = [];
  const splitter = codec.split({
    take: (offset, bytes, finds) =>
      finds.each((start, end, direction) => {
        if (direction === 'junk') return;
        const { fc, unit } = codec.headOf(bytes.slice(start, end), direction);
        frames.push({ offset: offset + start, length: end - start, direction, fc, unit });
      }),
  });
  splitter.push(bytesOf(hex));
  splitter.end();
  return { frames };
}

export const FRAME_VERBS: Readonly<Record<string, Verb>> = {
  decode: {
    help: `what a frame says: direction, message, faults and fields; protocols: ${[...CODECS.keys(), ...DIALECT_IDS].join(', ')}`,
    example: '{"protocol":"modbus-rtu","hex":"0306 02c3 0f45 bdaf"}',
    run: decode,
  },
  encode: {
    help: 'a frame with its check from a message, within the limits of the standard',
    example:
      '{"protocol":"modbus-rtu","direction":"request","message":{"unit":3,"fc":6,"address":707,"values":[3909]}}',
    run: encode,
  },
  split: {
    help: 'the frames in a stream without times, by structure and check; what belongs to none is left out',
    example: '{"protocol":"modbus-rtu","hex":"ff 030301820004e43f 0383026131"}',
    run: split,
  },
};
