import * as v from 'valibot';
import { CableSchema } from '../cable/cable';
import { WiringSchema } from '../cable/wiring';
import { IpPlanSchema } from '../line/ip-plan';
import { OwnBlockSchema } from '../process-image/own-block-schema';
import { TrialSchema } from '../trial/trial';
import { SerialSettingsSchema } from '../sheet/link-section';
import { Slug, Text, whole } from '../schema/primitives';
import { JOB_FORMAT, MOST_BLOCKS, MOST_FRAMES, MOST_LINES, MOST_TRIALS, TIMEOUT_MS } from './job-limits';

/** A setting whose value in the manual is not what works. */
const NoteSchema = v.strictObject({
  setting: Text,
  manual: v.pipe(v.string(), v.maxLength(400)),
  tried: v.pipe(v.string(), v.maxLength(400)),
  remark: v.pipe(v.string(), v.maxLength(400)),
});

const StationSchema = v.strictObject({
  id: v.string(),
  /** 1 to 247 on a serial line; over TCP 0 and 255 are the device itself. */
  station: whole(0, 255),
  name: Text,
  /** The pinned sheet; absent while the bench has none for this drive. */
  sheet: v.optional(v.strictObject({ slug: Slug, revision: whole(1, 1_000_000) })),
  /** What the sheet or the plant says of it, for a reader. */
  about: v.optional(Text),
  /** How its stand-in leaves the factory where that differs from the sheet's defaults: parameter number to raw number. */
  standin: v.optional(
    v.strictObject({
      parameters: v.record(v.string(), whole(-(2 ** 31), 2 ** 32 - 1)),
      /** Numbers of what it does not have, such as an option that is not fitted. */
      absent: v.optional(v.pipe(v.array(Text), v.maxLength(1000))),
      /** The stand-in runs from this sheet, which the bench does not show: a drive that nobody has a sheet of. */
      sheet: v.optional(Slug),
    }),
  ),
  /** Steps of the keypad card that were ticked by hand, by their place. */
  ticked: v.optional(v.pipe(v.array(whole(0, 1000)), v.maxLength(1000))),
  /** Where the manual and the drive contradict each other: kept as it was found. */
  notes: v.optional(v.pipe(v.array(NoteSchema), v.maxLength(1000))),
});

const PROTOCOLS = ['modbus-rtu', 'modbus-ascii', 'uss', 'ascii', 'modbus-tcp', 'raw-tcp'] as const;

export const LineSchema = v.strictObject({
  id: v.string(),
  name: Text,
  medium: Text,
  protocol: v.picklist(PROTOCOLS),
  serial: v.optional(SerialSettingsSchema),
  /** The adapter of this end hears what it sends. */
  echo: v.optional(v.boolean()),
  /** How long an answer is waited for, in ms, as the user set it; absent: as the sheet says. */
  timeoutMs: v.optional(whole(TIMEOUT_MS.least, TIMEOUT_MS.most)),
  /** Who is at the other end: drives simulated in the page, a socket, a serial port of this machine, or nobody yet. */
  far: v.picklist(['yard', 'tcp', 'serial-port', 'not-built']),
  tcp: v.optional(v.strictObject({ host: Text, port: whole(1, 65535) })),
  stations: v.pipe(v.array(StationSchema), v.maxLength(247)),
  cable: v.optional(CableSchema),
});

/** A frame that is kept ready, for one protocol. */
export const KeptFrameSchema = v.strictObject({
  id: v.string(),
  name: Text,
  note: v.pipe(v.string(), v.maxLength(400)),
  protocol: v.picklist(PROTOCOLS),
  hex: v.pipe(v.string(), v.regex(/^(?:[0-9a-f]{2}){0,1024}$/)),
});

/** One visit or plant: its lines and the stations on them. */
export const JobSchema = v.strictObject({
  format: v.literal(JOB_FORMAT),
  id: v.string(),
  name: Text,
  about: v.optional(Text),
  lines: v.pipe(v.array(LineSchema), v.maxLength(MOST_LINES)),
  ipPlan: v.optional(IpPlanSchema),
  /** Which port of which device goes to which. */
  wiring: v.optional(WiringSchema),
  /** Frames that were kept, in the order of the user. */
  frames: v.optional(v.pipe(v.array(KeptFrameSchema), v.maxLength(MOST_FRAMES))),
  /** Trials of the user's own. */
  trials: v.optional(v.pipe(v.array(TrialSchema), v.maxLength(MOST_TRIALS))),
  /** Cyclic blocks that the user laid out, with where the controller keeps them. */
  blocks: v.optional(v.pipe(v.array(OwnBlockSchema), v.maxLength(MOST_BLOCKS))),
});
