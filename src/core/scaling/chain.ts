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
  /** Shaft speed in rpm to electrical frequency in Hz, f = n × poles / 120, slip left out. */
  | { readonly kind: 'motor-poles'; readonly poles: number };

/** The integer on the wire: 8, 16 or 32 bits wide, two's complement when signed. */
export interface WireWord {
  readonly bits: 8 | 16 | 32;
  readonly signed: boolean;
}
