import type { Trouble } from '../core/line/trouble';

/** Where a line is between its two ends. `elsewhere`: another tab of this browser has it. `lost`: it is tried again by itself. */
export type LineLife =
  | { readonly kind: 'closed'; readonly trouble: Trouble | null }
  | { readonly kind: 'opening' }
  | { readonly kind: 'open' }
  | { readonly kind: 'lost'; readonly trouble: Trouble; readonly retries: number }
  | { readonly kind: 'closing' }
  | { readonly kind: 'elsewhere'; readonly trouble: Trouble };

export const CLOSED: LineLife = { kind: 'closed', trouble: null };

/** Why the line is not open; null where it is, or was closed on purpose. */
export const troubleOf = (life: LineLife | undefined): Trouble | null =>
  life && 'trouble' in life ? life.trouble : null;

/** The line is not there, but nobody closed it: it comes back by itself. */
export const isRetrying = (life: LineLife | undefined): boolean => life?.kind === 'lost';
