import type { BitSpec, ControlRole, StatusRole } from '../words/spec';
import type { Move, Profile, ProfileCommand, ProfileState } from './profile';

/** IEC 61800-7-201 (CiA 402): the state machine of power drives, its words and the bits that each mode of operation gives a meaning. */
export const CIA402_MODES = ['velocity', 'profile-velocity', 'profile-position', 'homing'] as const;
/** The standard leaves negative numbers to the makers: of those a sheet may have one, for moves that a drive keeps itself. */
export const DRIVE_MODES = [...CIA402_MODES, 'stored-moves'] as const;
export type Cia402Mode = (typeof DRIVE_MODES)[number];

/** Number of each mode in the object “modes of operation”. */
export const CIA402_MODE_NUMBER: Readonly<Record<Cia402Mode, number>> = {
  velocity: 2,
  'profile-velocity': 3,
  'profile-position': 1,
  homing: 6,
  'stored-moves': -1,
};

const state = (id: string, name: string, mask: number, value: number, note: string, arises?: true): ProfileState => ({
  id,
  name,
  mask,
  value,
  note,
  ...(arises ? { arises } : {}),
});

/** Status bits 6, 5, 3, 2, 1, 0; bit 5 is not looked at where the standard leaves it open. */
const WITH_QUICK_STOP = 0x6f;
const WITHOUT_QUICK_STOP = 0x4f;

const STATES: readonly ProfileState[] = [
  state(
    'not-ready-to-switch-on',
    'Not ready to switch on',
    WITHOUT_QUICK_STOP,
    0x00,
    'The drive starts or tests itself.',
    true,
  ),
  state(
    'switch-on-disabled',
    'Switch on disabled',
    WITHOUT_QUICK_STOP,
    0x40,
    'Parameters may be set; no high voltage.',
  ),
  state('ready-to-switch-on', 'Ready to switch on', WITH_QUICK_STOP, 0x21, 'High voltage may be applied.'),
  state('switched-on', 'Switched on', WITH_QUICK_STOP, 0x23, 'The power stage is ready; no torque.'),
  state('operation-enabled', 'Operation enabled', WITH_QUICK_STOP, 0x27, 'Torque is on; the mode decides what turns.'),
  state('quick-stop-active', 'Quick stop active', WITH_QUICK_STOP, 0x07, 'It brakes on the quick-stop ramp.'),
  state('fault-reaction-active', 'Fault reaction active', WITHOUT_QUICK_STOP, 0x0f, 'It reacts to a fault.', true),
  state('fault', 'Fault', WITHOUT_QUICK_STOP, 0x08, 'A fault is latched; torque is off.', true),
];

/** Commands over control bits 7, 3, 2, 1, 0; the standard's table of commands. */
const SHUTDOWN = { mask: 0x87, value: 0x06 };
const SWITCH_ON = { mask: 0x8f, value: 0x07 };
const ENABLE = { mask: 0x8f, value: 0x0f };
const DISABLE_VOLTAGE = { mask: 0x82, value: 0x00 };
const QUICK_STOP = { mask: 0x86, value: 0x02 };

const move = (
  from: readonly string[],
  to: string,
  name: string,
  pattern: { readonly mask: number; readonly value: number },
): Move => ({ from, to, name, ...pattern });

/** Transitions 2 to 16 of the standard that a command causes. */
const MOVES: readonly Move[] = [
  move(['switch-on-disabled'], 'ready-to-switch-on', 'shutdown, transition 2', SHUTDOWN),
  move(['ready-to-switch-on'], 'switched-on', 'switch on, transition 3', SWITCH_ON),
  {
    ...move(['ready-to-switch-on'], 'operation-enabled', 'switch on and enable operation, transitions 3 and 4', ENABLE),
    atOnce: true,
  },
  move(['switched-on'], 'operation-enabled', 'enable operation, transition 4', ENABLE),
  move(['operation-enabled'], 'switched-on', 'disable operation, transition 5', SWITCH_ON),
  move(['switched-on'], 'ready-to-switch-on', 'shutdown, transition 6', SHUTDOWN),
  move(['operation-enabled'], 'ready-to-switch-on', 'shutdown, transition 8', SHUTDOWN),
  move(
    ['ready-to-switch-on', 'switched-on', 'operation-enabled', 'quick-stop-active'],
    'switch-on-disabled',
    'disable voltage, transitions 7, 9, 10, 12',
    DISABLE_VOLTAGE,
  ),
  move(['ready-to-switch-on', 'switched-on'], 'switch-on-disabled', 'quick stop, transitions 7 and 10', QUICK_STOP),
  move(['operation-enabled'], 'quick-stop-active', 'quick stop, transition 11', QUICK_STOP),
  move(['quick-stop-active'], 'operation-enabled', 'enable operation, transition 16', ENABLE),
  {
    from: ['fault'],
    to: 'switch-on-disabled',
    name: 'fault reset, transition 15',
    mask: 0x80,
    value: 0x80,
    rise: 7,
  },
];

/** Control bits 4 to 6, which the mode gives a meaning. */
const MODE_BITS = 0x70;

const COMMANDS: readonly ProfileCommand[] = [
  { id: 'shutdown', name: 'shutdown', word: 0x0006 },
  { id: 'switch-on', name: 'switch on', word: 0x0007 },
  { id: 'enable-operation', name: 'enable operation', word: 0x000f },
  { id: 'quick-stop', name: 'quick stop', word: 0x0002 },
  { id: 'disable-voltage', name: 'disable voltage', word: 0x0000 },
  { id: 'fault-reset', name: 'fault reset', word: 0x0080 },
];

const CONTROL: readonly BitSpec<ControlRole>[] = [
  { bit: 0, name: 'switch on', one: 'switch on', zero: 'not on' },
  { bit: 1, name: 'enable voltage', one: 'voltage enabled', zero: 'voltage disabled' },
  { bit: 2, name: 'quick stop', one: 'released', zero: 'quick stop', active: 'low', role: 'stop' },
  { bit: 3, name: 'enable operation', one: 'operation enabled', zero: 'operation disabled', role: 'enable' },
  {
    bit: 7,
    name: 'fault reset',
    one: 'clears a fault as it rises',
    zero: 'may rise',
    acts: 'rise',
    role: 'fault-reset',
  },
  { bit: 8, name: 'halt', one: 'halt on the ramp', zero: 'no halt' },
];

const STATUS: readonly BitSpec<StatusRole>[] = [
  { bit: 0, name: 'ready to switch on', one: 'ready to switch on', zero: 'not ready', role: 'ready' },
  { bit: 1, name: 'switched on', one: 'switched on', zero: 'not switched on' },
  { bit: 2, name: 'operation enabled', one: 'operation enabled', zero: 'operation not enabled', role: 'enabled' },
  { bit: 3, name: 'fault', one: 'fault', zero: 'no fault', role: 'fault' },
  { bit: 4, name: 'voltage enabled', one: 'voltage there', zero: 'no voltage' },
  { bit: 5, name: 'quick stop', one: 'no quick stop', zero: 'quick stop active', active: 'low' },
  { bit: 6, name: 'switch on disabled', one: 'switching on disabled', zero: 'not disabled' },
  { bit: 7, name: 'warning', one: 'warning', zero: 'no warning', role: 'warning' },
  { bit: 9, name: 'remote', one: 'the control word counts', zero: 'the control word is not looked at', role: 'remote' },
  { bit: 10, name: 'target reached', one: 'target reached', zero: 'target not reached', role: 'at-speed' },
  { bit: 11, name: 'internal limit', one: 'an internal limit acts', zero: 'no limit acts', role: 'at-limit' },
];

interface ModeBits {
  readonly name: string;
  readonly control: readonly BitSpec<ControlRole>[];
  readonly status: readonly BitSpec<StatusRole>[];
  /** What moves the shaft once operation is enabled. */
  readonly run: ProfileCommand & { readonly mask: number };
  readonly more: readonly ProfileCommand[];
}

/** Bits 4 to 6 of the control word, 12 and 13 of the status word by mode; and the word that moves the shaft. */
const BY_MODE: Readonly<Record<Cia402Mode, ModeBits>> = {
  velocity: {
    name: 'velocity mode',
    control: [
      { bit: 4, name: 'ramp enabled', one: 'speed follows the ramp', zero: 'the ramp’s output is not used' },
      { bit: 5, name: 'ramp unlocked', one: 'ramp runs', zero: 'ramp held' },
      { bit: 6, name: 'reference used', one: 'reference to the ramp', zero: 'ramp’s input is 0', role: 'run' },
    ],
    status: [],
    run: { id: 'run', name: 'run', word: 0x007f, mask: 0x01ff },
    more: [],
  },
  'profile-velocity': {
    name: 'profile velocity mode',
    control: [],
    status: [
      { bit: 12, name: 'speed is zero', one: 'standstill', zero: 'it turns', active: 'low', role: 'turning' },
      { bit: 13, name: 'slip too large', one: 'largest slip exceeded', zero: 'slip within bounds' },
    ],
    run: { id: 'run', name: 'run', word: 0x000f, mask: 0x018f },
    more: [{ id: 'halt', name: 'halt', word: 0x010f }],
  },
  'profile-position': {
    name: 'profile position mode',
    control: [
      {
        bit: 4,
        name: 'new set-point',
        one: 'takes the target as it rises',
        zero: 'may rise',
        acts: 'rise',
        role: 'run',
      },
      { bit: 5, name: 'change at once', one: 'at once', zero: 'after the present move' },
      { bit: 6, name: 'relative', one: 'target is relative', zero: 'target is absolute' },
    ],
    status: [
      {
        bit: 12,
        name: 'set-point acknowledged',
        one: 'set-point taken',
        zero: 'ready for a set-point',
        role: 'set-point-taken',
      },
      { bit: 13, name: 'following error', one: 'following error', zero: 'no following error', role: 'following-error' },
    ],
    run: { id: 'start-move', name: 'start the move', word: 0x001f, mask: 0x019f },
    more: [
      { id: 'start-relative', name: 'start, relative', word: 0x005f },
      { id: 'start-at-once', name: 'start, change at once', word: 0x003f },
      { id: 'halt', name: 'halt', word: 0x010f },
    ],
  },
  homing: {
    name: 'homing mode',
    control: [{ bit: 4, name: 'start homing', one: 'homing runs', zero: 'homing stops', role: 'run' }],
    status: [
      { bit: 12, name: 'homing attained', one: 'home is known', zero: 'home not reached', role: 'homed' },
      { bit: 13, name: 'homing error', one: 'homing failed', zero: 'no homing error', role: 'homing-failed' },
    ],
    run: { id: 'start-homing', name: 'start homing', word: 0x001f, mask: 0x019f },
    more: [],
  },
  'stored-moves': {
    name: 'mode of stored moves',
    control: [
      {
        bit: 4,
        name: 'start a stored move',
        one: 'starts the chosen one as it rises',
        zero: 'may rise',
        acts: 'rise',
        role: 'run',
      },
    ],
    status: [
      {
        bit: 12,
        name: 'start acknowledged',
        one: 'start taken',
        zero: 'ready for a start',
        role: 'set-point-taken',
      },
    ],
    run: { id: 'start-stored', name: 'start the stored move', word: 0x001f, mask: 0x019f },
    more: [{ id: 'halt', name: 'halt', word: 0x010f }],
  },
};

const inOrder = <Role extends string>(bits: readonly BitSpec<Role>[]): readonly BitSpec<Role>[] =>
  [...bits].sort((a, b) => a.bit - b.bit);

/** Modes in which a move starts as bit 4 rises, and not because it is high. */
const START_BY_EDGE: ReadonlySet<Cia402Mode> = new Set<Cia402Mode>(['profile-position', 'homing', 'stored-moves']);

/** What a start makes the shaft go to, in modes in which it is no speed. */
const TAKES: Readonly<Partial<Record<Cia402Mode, Profile['takes']>>> = {
  'profile-position': 'position',
  homing: 'home',
  'stored-moves': 'stored-move',
};

/** The profile in one of its modes; each mode names bits of its own. */
export function cia402(mode: Cia402Mode): Profile {
  const { name, control, status, run, more } = BY_MODE[mode];
  return {
    id: 'cia402',
    name: `CiA 402, ${name}`,
    control: { width: 16, bits: inOrder([...CONTROL, ...control]) },
    status: { width: 16, bits: inOrder([...STATUS, ...status]) },
    states: STATES,
    commands: [...COMMANDS, ...(run.word === 0x000f ? [] : [run]), ...more].map(({ id, name: label, word }) => ({
      id,
      name: label,
      word,
    })),
    moves: MOVES,
    own: [
      { from: 'not-ready-to-switch-on', to: 'switch-on-disabled', why: 'it has started', withinMs: 10_000 },
      { from: 'fault-reaction-active', to: 'fault', why: 'the reaction is over', withinMs: 10_000 },
    ],
    follows: 'one',
    only: [
      { mask: 0x08, states: ['switched-on', 'operation-enabled', 'quick-stop-active'] },
      { mask: MODE_BITS, states: ['operation-enabled'] },
    ],
    runs: {
      state: 'operation-enabled',
      mask: run.mask,
      value: run.word,
      ...(START_BY_EDGE.has(mode) ? { rise: 4 } : {}),
    },
    takes: TAKES[mode] ?? 'speed',
    alike: '',
  };
}
