import * as v from 'valibot';
import { CableSchema } from '../cable/cable';
import { WiringSchema } from '../cable/wiring';
import { IpPlanSchema } from '../line/ip-plan';
import { OwnBlockSchema } from '../process-image/own-block-schema';
import { TrialSchema } from '../trial/trial';
import { SerialSettingsSchema } from '../sheet/link-section';
import { Slug, Text, whole } from '../schema/primitives';

export const JOB_FORMAT = 1;

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

/** Time-outs that a user may set, in ms: shorter than any reply, or longer than any drive thinks, is a slip. */
export const TIMEOUT_MS = { least: 10, most: 10_000 } as const;

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

/** More frames than this are a capture, not a list that one keeps. */
export const MOST_FRAMES = 2000;

/** A frame that is kept ready, for one protocol. */
export const KeptFrameSchema = v.strictObject({
  id: v.string(),
  name: Text,
  note: v.pipe(v.string(), v.maxLength(400)),
  protocol: v.picklist(PROTOCOLS),
  hex: v.pipe(v.string(), v.regex(/^(?:[0-9a-f]{2}){0,1024}$/)),
});
export type KeptFrame = v.InferOutput<typeof KeptFrameSchema>;

export const MOST_LINES = 100;
export const MOST_TRIALS = 200;
export const MOST_BLOCKS = 100;

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
export type Job = v.InferOutput<typeof JobSchema>;
export type JobLine = Job['lines'][number];
export type JobStation = JobLine['stations'][number];

/** Puts an element with an id in the place of the one that is there, behind the others where none is, or takes it away. */
export function withOne<T extends { readonly id: string }>(
  list: readonly T[] | undefined,
  id: string,
  value: T | undefined,
): T[] {
  const known = list ?? [];
  if (value === undefined) return known.filter((one) => one.id !== id);
  return known.some((one) => one.id === id) ? known.map((one) => (one.id === id ? value : one)) : [...known, value];
}

/** The job with one line changed; the same job where it has no such line. */
export const withLine = (job: Job, id: string, change: (line: JobLine) => JobLine): Job => ({
  ...job,
  lines: job.lines.map((line) => (line.id === id ? change(line) : line)),
});

/** The job with one station of one line changed. */
export const withStation = (
  job: Job,
  line: string,
  station: number,
  change: (station: JobStation) => JobStation,
): Job =>
  withLine(job, line, (own) => ({
    ...own,
    stations: own.stations.map((candidate) => (candidate.station === station ? change(candidate) : candidate)),
  }));

/** `K1 kiln · RS-485 · 19200 8E1 · Modbus RTU` without the settings. */
export const PROTOCOL_TEXT: Readonly<Record<JobLine['protocol'], string>> = {
  'modbus-rtu': 'Modbus RTU',
  'modbus-ascii': 'Modbus ASCII',
  uss: 'USS',
  ascii: 'ASCII commands',
  'modbus-tcp': 'Modbus TCP',
  'raw-tcp': 'text over TCP',
};

/** The same job as a record of its own: fresh ids throughout, so that both can be kept. */
export function copyOfJob(job: Job, name: string, newId: () => string): Job {
  return {
    ...job,
    id: newId(),
    name,
    lines: job.lines.map((line) => ({
      ...line,
      id: newId(),
      stations: line.stations.map((station) => ({ ...station, id: newId() })),
    })),
  };
}

/** Whether two records of a job say the same. */
export const sameJob = (a: Job, b: Job): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);
