import type { JobLine } from './job';

/** Highest station number by protocol; a dialect's own limits stand in its sheet. */
const MOST: Readonly<Record<JobLine['protocol'], number>> = {
  'modbus-rtu': 247,
  'modbus-ascii': 247,
  'modbus-tcp': 255,
  uss: 31,
  ascii: 255,
  'raw-tcp': 247,
};

/** The highest number that a station of this protocol can have. */
export const mostStation = (protocol: JobLine['protocol']): number => MOST[protocol];
