import * as v from 'valibot';
import { Exact, Register, Slug, Text, Whole } from '../schema/primitives';

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
  'target-high',
  'target-low',
  'position-high',
  'position-low',
  'keep',
  'restart',
  'show-itself',
] as const;
export type ParameterRole = (typeof PARAMETER_ROLES)[number];

export const ScaleSchema = v.variant('kind', [
  v.strictObject({ kind: v.literal('chain'), id: Slug }),
  v.strictObject({ kind: v.literal('resolution'), value: Exact }),
]);

export const ParameterSchema = v.strictObject({
  /** As the manual numbers it; the address rule makes the register of it. */
  number: v.pipe(v.string(), v.regex(/^[0-9.]{1,9}$/)),
  name: Text,
  role: v.optional(v.picklist(PARAMETER_ROLES)),
  unit: v.optional(Text),
  type: v.picklist(['uint16', 'int16']),
  /** How the raw number is read; absent: as it is. */
  scale: v.optional(ScaleSchema),
  /** Raw numbers with names. */
  choices: v.optional(v.array(v.strictObject({ value: Register, name: Text }))),
  /** Limits and default as raw numbers. */
  min: Whole,
  max: Whole,
  default: Whole,
  write: v.picklist(['always', 'standstill', 'never']),
  effect: v.optional(v.picklist(['now', 'restart'])),
  /** Survives loss of power once written to non-volatile memory. */
  kept: v.optional(v.boolean()),
  /** Belongs to the drive's size: not carried to another one. */
  sizeBound: v.optional(v.boolean()),
  note: v.optional(Text),
});
export type Parameter = v.InferOutput<typeof ParameterSchema>;

export const ParameterSection = v.pipe(v.array(ParameterSchema), v.maxLength(5000));
