import type { LineBatch } from '../../src/messages/line';

/** A batch of the line worker in which nothing happened but what is said. */
export const batchOf = (part: Partial<LineBatch>): LineBatch => ({
  kind: 'batch',
  number: 0,
  nowUs: 0,
  entries: [],
  exchanges: [],
  lines: [],
  stops: [],
  runs: [],
  earlier: null,
  keptUpTo: -1,
  keepTrouble: '',
  yardSpeed: 1,
  turning: [],
  realTime: false,
  ipSweep: null,
  ...part,
});
