import * as v from 'valibot';
import { DialectSchema } from '../dialect/dialect';
import { AddressSection } from './address-section';
import { AxisSection } from './axis-section';
import { ConditionSection } from './condition-section';
import { CommandSection, FaultSection, RefusalSection } from './command-section';
import { KeypadSection } from './keypad-section';
import { LinkSection } from './link-section';
import { ParameterSection } from './parameter-section';
import { Slug, Text, whole } from '../schema/primitives';
import { ProfileSection } from './profile-section';
import { ScalingSection } from './scaling-section';
import { UssSection } from './uss-section';
import { WordsSection } from './words-section';

/** The format that this program writes; older ones are migrated at every read. */
export const SHEET_FORMAT = 2;

/** A drive's manual as data. Every section but the names may be missing: the bench then says what it cannot know. */
export const SheetSchema = v.strictObject({
  format: v.literal(SHEET_FORMAT),
  slug: Slug,
  revision: whole(1, 1_000_000),
  name: Text,
  summary: Text,
  /** An edited copy names the sheet that it was made from. */
  base: v.optional(v.strictObject({ slug: Slug, revision: whole(1, 1_000_000) })),
  link: v.optional(LinkSection),
  keypad: v.optional(KeypadSection),
  /** How the parameter channel of USS is used; for drives that speak it. */
  uss: v.optional(UssSection),
  /** The drive's own command language. */
  dialect: v.optional(DialectSchema),
  addressRule: v.optional(AddressSection),
  words: v.optional(WordsSection),
  profile: v.optional(ProfileSection),
  commands: v.optional(CommandSection),
  refusals: v.optional(RefusalSection),
  scalings: v.optional(ScalingSection),
  axis: v.optional(AxisSection),
  parameters: v.optional(ParameterSection),
  /** What else must be so before the shaft turns. */
  conditions: v.optional(ConditionSection),
  faults: v.optional(FaultSection),
});
export type Sheet = v.InferOutput<typeof SheetSchema>;
