import type { ParameterRole } from '../../core/sheet/parameter-section';

/** What lives while a drive runs. */
export const LIVE: readonly ParameterRole[] = [
  'fault-code',
  'status-word',
  'torque',
  'current',
  'actual-speed',
  'control-word',
  'mode-display',
  'actual-position',
];
