import * as v from 'valibot';
import { ussSplitter } from '../core/capture/split-framed';
import type { Direction } from '../core/direction';
import { anatomyUss } from '../core/uss/anatomy';
import { encodeUss } from '../core/uss/encode';
import { RESPONSES, TASKS } from '../core/uss/tables';
import { readUss } from '../core/uss/telegram';
import type { FrameCodec } from './frame-codec';
import { readWith, whole } from './input';

const Integer = v.pipe(v.number(), v.integer());
const Yes = v.union([
  v.boolean(),
  v.pipe(
    Integer,
    v.transform((number) => number !== 0),
  ),
]);

const MessageField = v.strictObject({
  address: Integer,
  mirror: v.optional(Yes),
  broadcast: v.optional(Yes),
  special: v.optional(Yes),
  pkwWords: v.optional(Integer),
  pke: v.optional(Integer),
  ak: v.optional(Integer),
  spm: v.optional(Yes),
  pnu: v.optional(Integer),
  ind: v.optional(Integer),
  pwe: v.optional(v.array(Integer)),
  pzd: v.optional(v.array(Integer)),
  dataHex: v.optional(v.string()),
});

/** Request and answer have one form; only an id that one side does not use tells them apart. */
function directionOf(ak: number | undefined, broadcast: boolean): Direction | 'either' {
  if (broadcast) return 'request';
  if (ak === undefined) return 'either';
  return !TASKS[ak] ? 'response' : !RESPONSES[ak] ? 'request' : 'either';
}

export const USS_CODEC: FrameCodec = {
  decode: (bytes, { direction, pkwWords }) => {
    const { message, faults } = readUss(bytes, pkwWords);
    const found = direction ?? directionOf(message?.ak, message?.broadcast === true);
    const readings =
      found === 'either' ? (['request', 'response'] as const).map((way) => ({ direction: way, message })) : undefined;
    return {
      direction: found,
      message,
      faults,
      fields: anatomyUss(bytes, found === 'response' ? 'response' : 'request', pkwWords),
      ...(readings ? { readings } : {}),
    };
  },
  encode: (message) => encodeUss(whole(readWith(MessageField, message, 'message'))),
  split: ussSplitter,
  headOf: (frame) => {
    const { message } = readUss(frame);
    return { unit: message?.address ?? null, fc: message?.ak ?? null };
  },
};
