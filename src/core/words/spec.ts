/** What the stand-in and the bench must know of a bit, beside its text; a sheet gives a role to the bits that have one. */
export const CONTROL_ROLES = ['stop', 'enable', 'run', 'reverse', 'jog', 'fault-reset'] as const;
export const STATUS_ROLES = [
  'ready',
  'enabled',
  'turning',
  'fault',
  'backward',
  'jogging',
  'warning',
  'at-speed',
  'at-limit',
  'set-point-taken',
  'following-error',
  'homed',
  'homing-failed',
  'remote',
  'network-command',
  'network-reference',
] as const;
export type ControlRole = (typeof CONTROL_ROLES)[number];
export type StatusRole = (typeof STATUS_ROLES)[number];

/** One bit of a word, as the manual's table has it. */
export interface BitSpec<Role extends string = string> {
  readonly bit: number;
  readonly name: string;
  readonly role?: Role | undefined;
  /** Meaning of 1 and of 0, in the manual's words. */
  readonly one: string;
  readonly zero: string;
  /** `low`: the bit does its work when it is 0, as a "not stop" does. */
  readonly active?: 'high' | 'low' | undefined;
  /** `rise`: acts on the change from 0 to 1 only. */
  readonly acts?: 'level' | 'rise' | undefined;
  /** Not compared and not shown as a change. */
  readonly ignored?: boolean | undefined;
}

/** Bits that together are one number: a preset speed, a mode. */
export interface FieldSpec {
  readonly from: number;
  readonly width: number;
  readonly name: string;
  /** What its values mean; one that is not listed has no meaning. */
  readonly values: readonly { readonly value: number; readonly name: string }[];
}

/** A control or status word. Bits that are not listed have no meaning in the manual. */
export interface WordSpec<Role extends string = string> {
  readonly width: 8 | 16 | 32;
  readonly bits: readonly BitSpec<Role>[];
  /** Groups of bits of which one at most may be active. */
  readonly exclusive?: readonly (readonly number[])[] | undefined;
  readonly fields?: readonly FieldSpec[] | undefined;
}
