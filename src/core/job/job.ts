import * as v from 'valibot';
import { SerialSettingsSchema } from '../sheet/link-section';
import { Register, Slug, Text, whole } from '../sheet/primitives';

export const JOB_FORMAT = 1;

const StationSchema = v.strictObject({
  id: v.string(),
  station: whole(0, 247),
  name: Text,
  /** The pinned sheet; absent while the bench has none for this drive. */
  sheet: v.optional(v.strictObject({ slug: Slug, revision: whole(1, 1_000_000) })),
  /** What the sheet or the plant says of it, for a reader. */
  about: v.optional(Text),
  /** How its stand-in leaves the factory where that differs from the sheet's defaults: parameter number to raw number. */
  standin: v.optional(v.strictObject({ parameters: v.record(v.string(), Register) })),
});

const LineSchema = v.strictObject({
  id: v.string(),
  name: Text,
  medium: Text,
  protocol: v.picklist(['modbus-rtu', 'uss', 'ascii', 'modbus-tcp', 'raw-tcp']),
  serial: v.optional(SerialSettingsSchema),
  /** Who is at the other end: the simulated yard, or nobody yet. */
  far: v.picklist(['yard', 'not-built']),
  stations: v.pipe(v.array(StationSchema), v.maxLength(247)),
});

/** One visit or plant: its lines and the stations on them. */
export const JobSchema = v.strictObject({
  format: v.literal(JOB_FORMAT),
  id: v.string(),
  name: Text,
  about: v.optional(Text),
  lines: v.pipe(v.array(LineSchema), v.maxLength(100)),
});
export type Job = v.InferOutput<typeof JobSchema>;
export type JobLine = Job['lines'][number];
export type JobStation = JobLine['stations'][number];

/** `K1 kiln · RS-485 · 19200 8E1 · Modbus RTU` without the settings. */
export const PROTOCOL_TEXT: Readonly<Record<JobLine['protocol'], string>> = {
  'modbus-rtu': 'Modbus RTU',
  uss: 'USS',
  ascii: 'ASCII commands',
  'modbus-tcp': 'Modbus TCP',
  'raw-tcp': 'text over TCP',
};
