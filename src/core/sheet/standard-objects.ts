import type { ParameterRole } from './parameter-section';

/** Roles of the standard's objects, by key (IEC 61800-7-201, from memory). */
const OBJECTS: Readonly<Record<string, ParameterRole>> = {
  '0x603F:00': 'fault-code',
  '0x6040:00': 'control-word',
  '0x6041:00': 'status-word',
  '0x6042:00': 'speed-reference',
  '0x6044:00': 'actual-speed',
  '0x6060:00': 'mode',
  '0x6061:00': 'mode-display',
  '0x6064:00': 'actual-position',
  '0x606C:00': 'actual-speed',
  '0x6077:00': 'torque',
  '0x6078:00': 'current',
  '0x607A:00': 'target-position',
  '0x60FF:00': 'speed-reference',
};

/** The role of a standard object; undefined for a maker's own. */
export const roleOfObject = (key: string): ParameterRole | undefined =>
  OBJECTS[key.replace(/^0x([0-9a-f]{4})/i, (_, index: string) => `0x${index.toUpperCase()}`)];
