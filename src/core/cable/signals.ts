/** What a pin carries. `plus` and `minus` are the two conductors of a pair, D1/B and D0/A in the serial-line standard. */
export const SIGNALS = [
  'tx',
  'rx',
  'rts',
  'cts',
  'dtr',
  'dsr',
  'dcd',
  'ri',
  'plus',
  'minus',
  'tx-plus',
  'tx-minus',
  'rx-plus',
  'rx-minus',
  'common',
  'shield',
  'supply',
] as const;

export type Signal = (typeof SIGNALS)[number];
