import * as v from 'valibot';
import { Exact, Slug, Text, whole } from '../schema/primitives';

/**
 * Moves that a drive keeps itself in a table, by the numbers of its settings: each goes on to the next by itself. The entry with the role `stored-move` holds
 * the number of the one that a start begins, from 1 on; `stored-move-display` shows the one that is under way, 0 where none is.
 */
const StoredMovesSection = v.strictObject({
  /** The setting that lets an input start it, where it is not 0; the input is a bit of the inputs of the axis. */
  startedBy: v.optional(v.strictObject({ number: Text, input: whole(0, 31) })),
  /** The first is move 1. What a row does not have the drive does not have: counted from zero, no rest, nothing after it. */
  moves: v.pipe(
    v.array(
      v.strictObject({
        to: Text,
        speed: v.optional(Text),
        /** Not 0: counted from where it stands. */
        from: v.optional(Text),
        rest: v.optional(Text),
        /** The number of the move that follows, 0 for none. */
        then: v.optional(Text),
      }),
    ),
    v.minLength(1),
    v.maxLength(256),
  ),
});

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
  storedMoves: v.optional(StoredMovesSection),
  /**
   * It goes round: positions count modulo one turn, in the unit of the scaling. `wayBit` is the lowest of the two bits in which the entry of the role
   * `round-way` has the way that is gone, as IEC 61800-7-201 numbers it; absent: the entry has nothing else.
   */
  round: v.optional(v.strictObject({ turn: Exact, wayBit: v.optional(whole(0, 14)) })),
});
