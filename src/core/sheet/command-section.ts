import * as v from 'valibot';
import { HexWord, Slug, Text, whole } from '../schema/primitives';

/** The words that people keep ready, and how this drive is stopped and kept running over the network. */
export const CommandSection = v.strictObject({
  words: v.array(v.strictObject({ id: Slug, name: Text, word: HexWord, note: v.optional(Text) })),
  /** Sent by Stop, in this order; `standstillWithinMs` is how long the shaft may take after the last. */
  stop: v.strictObject({
    words: v.pipe(v.array(HexWord), v.minLength(1), v.maxLength(5)),
    standstillWithinMs: whole(100, 600_000),
  }),
  /** What calms the drive's watchdog: any request to it, or only a write of the control word. */
  watchdogFedBy: v.picklist(['any-request', 'control-write']),
});

/** Exception codes with which this drive refuses a write, as its manual has them. */
export const RefusalSection = v.strictObject({ readOnly: whole(1, 255), limit: whole(1, 255), state: whole(1, 255) });

const FAULT_ROLES = ['watchdog', 'following-error', 'list-not-written', 'list-not-read'] as const;
export type FaultRole = (typeof FAULT_ROLES)[number];

export const FaultSection = v.array(
  v.strictObject({
    code: whole(0, 65535),
    name: Text,
    cause: Text,
    remedy: Text,
    /** What this fault is the end of: the drive's own watch over its master, over its lists of gathered values, or a shaft that does not follow. */
    role: v.optional(v.picklist(FAULT_ROLES)),
  }),
);
