import type { FaultRole } from '../core/sheet/command-section';
import type { Sheet } from '../core/sheet/sheet';

/** A code of no sheet's, for a drive whose manual lists no such fault. */
const UNLISTED = 65_535;

/** The fault that a watch of the drive's own ends in. */
export const faultWithRole = ({ faults = [] }: Sheet, role: FaultRole): number =>
  faults.find((fault) => fault.role === role)?.code ?? UNLISTED;
