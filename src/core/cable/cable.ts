import * as v from 'valibot';
import { Text, whole } from '../schema/primitives';
import { SIGNALS } from './signals';

const Metres = v.pipe(v.number(), v.minValue(0), v.maxValue(10_000));

const EndSchema = v.strictObject({
  name: Text,
  connector: v.string(),
  pinout: v.record(v.string(), v.picklist(SIGNALS)),
});

/** One netlist drives the drawing, the wire list and the faults. */
export const CableSchema = v.strictObject({
  medium: v.picklist(['rs232', 'rs485-2', 'rs485-4']),
  ends: v.tuple([EndSchema, EndSchema]),
  cores: v.pipe(
    v.array(v.strictObject({ from: v.string(), to: v.string(), colour: v.optional(Text) })),
    v.maxLength(60),
  ),
  lengthM: Metres,
  longestStubM: Metres,
  /** Devices on the line, this end included. */
  devices: whole(2, 300),
  /** Which of the line's two outermost ends has a terminator, and how many sit elsewhere. */
  terminators: v.strictObject({ near: v.boolean(), far: v.boolean(), between: whole(0, 300), ohm: whole(1, 10_000) }),
  /** How many places pull the resting line to its level. */
  biased: whole(0, 300),
});
export type Cable = v.InferOutput<typeof CableSchema>;
export type CableEnd = Cable['ends'][number];
export type CableCore = Cable['cores'][number];
