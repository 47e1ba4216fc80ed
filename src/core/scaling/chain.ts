import type { Rounding } from './rounding';

/**
 * A scaling chain: how a value that people say becomes the number on the wire. Steps run in this order toward the wire and
 * backwards toward the value. Numbers are decimal or fraction texts, so that a file carries them exactly.
 */
export interface ScalingChain {
  /** Unit of the value that people say. */
  readonly unit: string;
  readonly steps: readonly ScalingStep[];
  readonly rounding: Rounding;
  readonly word: WireWord;
}

export type ScalingStep =
  /** `value` of the unit corresponds to `raw` counts. */
  | { readonly kind: 'full-scale'; readonly value: string; readonly raw: string }
  /** One count is `value` of the unit. */
  | { readonly kind: 'resolution'; readonly value: string }
  /** Another device's counts, such as an analogue input's: `raw` of them stand for `value`. The chain begins at that device. */
  | { readonly kind: 'source-counts'; readonly raw: string; readonly value: string }
  /** Shaft speed in rpm to electrical frequency in Hz, f = n × poles / 120 / (1 - slip); `slip` is a share of the synchronous speed, 0 to below 1. */
  | { readonly kind: 'motor-poles'; readonly poles: number; readonly slip?: string | undefined }
  /** Turns of the load to turns of the motor: `motor` turns for `load` turns; `inverted` where they turn against each other. */
  | { readonly kind: 'gear'; readonly motor: string; readonly load: string; readonly inverted?: boolean | undefined }
  /** Way to turns: a screw's lead, or the circumference of a pulley or wheel. */
  | { readonly kind: 'lead' | 'circumference'; readonly perTurn: string }
  /** Way to turns by the diameter of a pulley or wheel: one turn is π times it. */
  | { readonly kind: 'diameter'; readonly across: string }
  /** Turns to counts of the encoder. */
  | { readonly kind: 'counts-per-turn'; readonly counts: string }
  /** Per minute to per second. */
  | { readonly kind: 'minutes-to-seconds' }
  /** Times a number, for what no other step says. */
  | { readonly kind: 'factor'; readonly by: string }
  /** A number added on the way to the wire. */
  | { readonly kind: 'offset'; readonly add: string }
  /** What goes beyond is cut to the limit. */
  | { readonly kind: 'limit'; readonly min: string; readonly max: string }
  /** A rotary table: the rest after whole turns of `turn`. */
  | { readonly kind: 'modulo'; readonly turn: string };

/** How a negative number stands in the word: as its complement, as its size with the highest bit set, or as its size with a bit elsewhere. */
export const SIGN_FORMS = ['twos-complement', 'sign-magnitude', 'direction-bit'] as const;
export type SignForm = (typeof SIGN_FORMS)[number];

/** Orders of two and of four bytes. */
export const WIRE_ORDERS = ['AB', 'BA', 'ABCD', 'CDAB', 'BADC', 'DCBA'] as const;
export type WireOrder = (typeof WIRE_ORDERS)[number];

/** The integer on the wire. */
export interface WireWord {
  readonly bits: 8 | 16 | 32 | 64;
  readonly signed: boolean;
  /** For signed words; two's complement where it is not said. */
  readonly form?: SignForm | undefined;
  /** In which order its bytes go out, A being the highest; highest first where it is not said. */
  readonly order?: WireOrder | undefined;
}
