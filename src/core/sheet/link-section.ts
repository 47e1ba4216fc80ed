import * as v from 'valibot';
import { whole } from './primitives';

export const SerialSettingsSchema = v.strictObject({
  rate: whole(50, 4_000_000),
  dataBits: v.picklist([7, 8]),
  parity: v.picklist(['N', 'E', 'O']),
  stopBits: v.picklist([1, 2]),
});

/** How the drive speaks when it leaves the factory, and how long it may take to answer. */
export const LinkSection = v.strictObject({
  protocol: v.picklist(['modbus-rtu']),
  serial: SerialSettingsSchema,
  station: whole(1, 247),
  /** Longest time from the request's end to the reply's first byte, in ms. */
  replyWithinMs: whole(1, 60_000),
});
