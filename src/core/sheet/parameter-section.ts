import * as v from 'valibot';
import { AXIS_ROLES } from '../dialect/roles';
import { Exact, Slug, Text, whole } from '../schema/primitives';
import { PARAMETER_TYPES } from '../values/type';
import { NamedValueSchema, WordFieldSchema } from '../values/word-field-schema';
import { PlaceSchema } from './place-schema';
import { ProofSchema, SourceSchema } from './source';

/** What the bench and the stand-in must find in any sheet, whatever its number there. */
export const PARAMETER_ROLES = [
  'type-code',
  'firmware',
  'command-source',
  'reference-source',
  'selector',
  'motor-poles',
  'station',
  'bit-rate',
  'character-form',
  'watchdog-time',
  'watchdog-action',
  'fault-code',
  'status-word',
  'torque',
  'current',
  'actual-speed',
  'control-word',
  'ramp-time',
  'speed-reference',
  'minimum-speed',
  'maximum-speed',
  'jog-speed',
  'skip-from',
  'skip-to',
  'direction-lock',
  'reference-form',
  'end-inputs',
  'mode',
  'mode-display',
  'target-position',
  'actual-position',
  'move-distance',
  'move-speed',
  'move-acceleration',
  'move-deceleration',
  'move-jerk',
  'position-window',
  'homing-acceleration',
  ...AXIS_ROLES,
  'keep',
  'restart',
  'show-itself',
  'rated-power',
  'rated-voltage',
  'rated-current',
  'rated-frequency',
  'rated-speed',
  'power-factor',
  'power-return',
  'lists-use',
  'list-write-time',
  'list-read-time',
  'life-sign',
  'life-sign-back',
  'stop-way',
  'master-high',
  'master-low',
  'stored-move',
  'stored-move-display',
  'telegram',
] as const;
export type ParameterRole = (typeof PARAMETER_ROLES)[number];

/** As the manual numbers it: `11.03`, `P1.02`, `40108`. */
const NumberSchema = v.pipe(
  v.string(),
  v.regex(/^[0-9A-Za-z][0-9A-Za-z.:#_ -]{0,23}$/, 'expected a number such as 11.03 or P1.02'),
);

const ScaleSchema = v.variant('kind', [
  v.strictObject({ kind: v.literal('chain'), id: Slug }),
  v.strictObject({ kind: v.literal('resolution'), value: Exact }),
  /** What one count is depends on another parameter, such as a number of decimals: by that one's raw number. */
  v.strictObject({
    kind: v.literal('by'),
    parameter: NumberSchema,
    cases: v.pipe(v.array(v.strictObject({ value: whole(0, 0xffff), one: Exact })), v.minLength(1), v.maxLength(64)),
  }),
]);

/** A raw number: an integer as the drive counts, or what a float holds. */
const Raw = v.pipe(v.number(), v.minValue(-Number.MAX_VALUE), v.maxValue(Number.MAX_VALUE));

const ParameterSchema = v.strictObject({
  number: NumberSchema,
  name: Text,
  role: v.optional(v.picklist(PARAMETER_ROLES)),
  /** How it is reached, the usual way first; absent: by the address rule from its number. */
  at: v.optional(v.pipe(v.array(PlaceSchema), v.minLength(1), v.maxLength(8))),
  unit: v.optional(Text),
  type: v.picklist(PARAMETER_TYPES),
  /** Bytes as on the wire, A the highest: `CDAB`; absent: the highest first. */
  order: v.optional(v.picklist(['BA', 'CDAB', 'BADC', 'DCBA', 'GHEFCDAB', 'BADCFEHG', 'HGFEDCBA'])),
  /** Registers of a text or of bytes. */
  size: v.optional(whole(1, 125)),
  /** How the raw number is read; absent: as it is. */
  scale: v.optional(ScaleSchema),
  /** Raw numbers with names. */
  choices: v.optional(v.pipe(v.array(NamedValueSchema), v.maxLength(400))),
  /** Names of single bits. */
  bitNames: v.optional(v.pipe(v.array(v.strictObject({ bit: whole(0, 63), name: Text })), v.maxLength(64))),
  /** Several values in one word, such as four hex digits that are a selector each. */
  fields: v.optional(v.pipe(v.array(WordFieldSchema), v.minLength(1), v.maxLength(32))),
  /** Limits and default as raw numbers; absent where nobody said them. */
  min: v.optional(Raw),
  max: v.optional(Raw),
  default: v.optional(Raw),
  /** When it may be written; absent: not said. */
  write: v.optional(v.picklist(['always', 'standstill', 'never'])),
  effect: v.optional(v.picklist(['now', 'restart'])),
  /** Survives loss of power once written to non-volatile memory. */
  kept: v.optional(v.boolean()),
  /** Belongs to the drive's size: not carried to another one. */
  sizeBound: v.optional(v.boolean()),
  /** Where the drive's own keys find it: `Menu, motor, plate`. */
  path: v.optional(Text),
  /** A password or a key to a lock: never shown, and in no file without being asked for. */
  secret: v.optional(v.boolean()),
  /** It may be written only while another parameter holds this raw number. */
  lockedBy: v.optional(v.strictObject({ parameter: NumberSchema, value: whole(0, 0xffffffff) })),
  /** Writing it sets these back, or everything: they are written after it and read again. */
  resets: v.optional(v.union([v.literal('all'), v.pipe(v.array(NumberSchema), v.minLength(1), v.maxLength(400))])),
  /** What the drive does with a number outside the limits; absent: it refuses it. */
  outside: v.optional(v.literal('limited')),
  /** Counts to whose multiples the drive rounds; absent: it keeps every count. */
  step: v.optional(whole(2, 0xffff)),
  /** Text that the drive itself gives for it (task 15 of USS). */
  label: v.optional(Text),
  note: v.optional(Text),
  source: v.optional(SourceSchema),
  proof: v.optional(ProofSchema),
});
export type Parameter = v.InferOutput<typeof ParameterSchema>;

export const ParameterSection = v.pipe(v.array(ParameterSchema), v.maxLength(5000));
