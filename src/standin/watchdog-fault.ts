import type { Sheet } from '../core/sheet/sheet';

/** A code of no sheet's, for a drive whose manual lists no fault of its watchdog. */
const UNLISTED = 65_535;

/** The fault that a drive's watch over its master ends in. */
export const watchdogFault = ({ faults = [] }: Sheet): number =>
  faults.find(({ role }) => role === 'watchdog')?.code ?? UNLISTED;
