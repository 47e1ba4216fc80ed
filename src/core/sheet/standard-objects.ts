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
  '0x6065:00': 'following-limit',
  '0x6066:00': 'following-time',
  '0x6067:00': 'position-window',
  '0x6068:00': 'position-window-time',
  '0x606C:00': 'actual-speed',
  '0x6077:00': 'torque',
  '0x6078:00': 'current',
  '0x607A:00': 'target-position',
  '0x607C:00': 'home-offset',
  '0x607D:01': 'position-least',
  '0x607D:02': 'position-most',
  '0x6081:00': 'move-speed',
  '0x6083:00': 'move-acceleration',
  '0x6084:00': 'move-deceleration',
  '0x60A4:01': 'move-jerk',
  '0x6098:00': 'homing-method',
  '0x6099:01': 'homing-speed',
  '0x6099:02': 'homing-creep',
  '0x609A:00': 'homing-acceleration',
  '0x60F2:00': 'round-way',
  '0x60F4:00': 'following-error',
  '0x60FD:00': 'axis-inputs',
  '0x60FF:00': 'speed-reference',
};

/** The role of a standard object; undefined for a maker's own. */
export const roleOfObject = (key: string): ParameterRole | undefined =>
  OBJECTS[key.replace(/^0x([0-9a-f]{4})/i, (_, index: string) => `0x${index.toUpperCase()}`)];
