/** What a request does with a value. `keep` writes non-volatile memory too. */
export const ACCESSES = ['read', 'write', 'keep', 'act'] as const;
export type Access = (typeof ACCESSES)[number];

/** Settings and values of an axis that a command and a parameter call by the same name. */
export const AXIS_ROLES = [
  'position-least',
  'position-most',
  'position-window-time',
  'following-limit',
  'following-time',
  'following-error',
  'axis-inputs',
  'axis-inputs-use',
  'homing-method',
  'homing-speed',
  'homing-creep',
  'home-offset',
  'round-way',
] as const;

/** What the bench and the stand-in must find in any dialect, whatever its verb. */
export const COMMAND_ROLES = [
  'position',
  'target',
  'distance',
  'speed',
  'acceleration',
  'profile',
  'move-absolute',
  'move-relative',
  'jog-forward',
  'jog-backward',
  'mode',
  'window',
  'speed-limit',
  'motion-word',
  'actual-speed',
  'fault',
  'reset',
  'stop',
  'keep-all',
  'restart',
  'identity',
  ...AXIS_ROLES,
  'go-home',
  'set-zero',
] as const;
export type CommandRole = (typeof COMMAND_ROLES)[number];

/** Why a drive refuses, for the stand-in: no such command, a form that it cannot read, outside its limits, not in this mode, a move under way. */
export const ERROR_ROLES = ['unknown', 'form', 'limit', 'state', 'busy'] as const;
export type ErrorRole = (typeof ERROR_ROLES)[number];

export const MOTION_ROLES = ['enabled', 'moving', 'in-window', 'homed', 'homing-failed', 'at-limit', 'fault'] as const;
export type MotionRole = (typeof MOTION_ROLES)[number];
