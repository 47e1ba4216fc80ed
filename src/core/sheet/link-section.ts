import * as v from 'valibot';
import { whole } from '../schema/primitives';

export const SerialSettingsSchema = v.strictObject({
  rate: whole(50, 4_000_000),
  dataBits: v.picklist([7, 8]),
  parity: v.picklist(['N', 'E', 'O']),
  stopBits: v.picklist([1, 2]),
});

/** How the drive speaks when it leaves the factory, and how long it may take to answer. */
export const LinkSection = v.strictObject({
  protocol: v.picklist(['modbus-rtu', 'modbus-ascii', 'modbus-tcp', 'uss', 'ascii']),
  /** Absent where the drive has no serial line. */
  serial: v.optional(SerialSettingsSchema),
  station: whole(0, 247),
  /** Longest time from the request's end to the reply's first byte, in ms. */
  replyWithinMs: whole(1, 60_000),
  /** From power on, or a restart, until it answers, in ms. */
  bootMs: v.optional(whole(0, 600_000)),
  /** A break of this length or more returns the link to the settings above, in ms. */
  breakToDefaultMs: v.optional(whole(1, 60_000)),
});
