import * as v from 'valibot';
import { DRIVE_MODES } from '../profile/cia402';
import { Slug, Text, whole } from '../schema/primitives';

const Bits = v.pipe(v.array(whole(0, 31)), v.maxLength(32));

/** Bits that must be 1 and bits that must be 0. */
const Levels = { ones: v.optional(Bits, []), zeros: v.optional(Bits, []) };

/** The state machine of the drive: a standard one, or a table of its own. Single bits of a standard one are changed under `words`. */
export const ProfileSection = v.variant('kind', [
  v.strictObject({
    kind: v.literal('cia402'),
    /** Modes that the drive knows; the first counts while its mode is not known. */
    modes: v.pipe(v.array(v.picklist(DRIVE_MODES)), v.minLength(1), v.maxLength(DRIVE_MODES.length)),
  }),
  v.strictObject({ kind: v.literal('profidrive') }),
  v.strictObject({
    kind: v.literal('own'),
    /** Whether a word makes one of the moves that it opens, or all of them one after the other. */
    follows: v.optional(v.picklist(['one', 'all']), 'all'),
    states: v.pipe(
      v.array(
        v.strictObject({
          id: Slug,
          name: Text,
          note: v.optional(Text),
          ...Levels,
          turns: v.optional(v.boolean()),
          /** The drive gets there by itself. */
          arises: v.optional(v.boolean()),
        }),
      ),
      v.minLength(1),
      v.maxLength(40),
    ),
    moves: v.pipe(
      v.array(
        v.strictObject({
          from: v.pipe(v.array(Slug), v.minLength(1), v.maxLength(40)),
          to: Slug,
          name: Text,
          ...Levels,
          /** Acts on the rise of this bit. */
          rise: v.optional(whole(0, 31)),
        }),
      ),
      v.maxLength(200),
    ),
    own: v.optional(
      v.pipe(
        v.array(v.strictObject({ from: Slug, to: Slug, why: Text, withinMs: whole(1, 600_000) })),
        v.maxLength(100),
      ),
      [],
    ),
  }),
]);
