import * as v from 'valibot';
import { Exact, Slug, Text } from '../schema/primitives';

/** The axis that a positioning drive moves: what its counts are in load units, and what the manual leaves to the plant. */
export const AxisSection = v.strictObject({
  /** The scaling that makes counts of a way: through lead or circumference, gear and counts a turn. */
  chain: Slug,
  /** What the machine has between its ends, in the unit of that scaling. */
  travel: v.optional(v.strictObject({ from: Exact, to: Exact })),
  /** How people on the machine call the way in which the position rises: `up`, `toward the blade`. */
  forward: v.optional(Text),
  backward: v.optional(Text),
  /**
   * What the position shows at home: the home offset, or the offset with its sign turned round. The standard lays zero behind home by the offset, so
   * that home shows minus it; many drives show it as it is.
   */
  homeShows: v.picklist(['offset', 'minus-offset']),
});
