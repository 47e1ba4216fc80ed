import type { BitSpec, ControlRole, StatusRole } from '../words/spec';
import type { Profile } from './profile';

/**
 * IEC 61800-7-203 (PROFIdrive): control word 1, status word 1 and the general state machine, in speed mode. The way from S5 is written from
 * memory of the published description: after OFF1 to S2, after OFF3 to S1.
 */
const CONTROL: readonly BitSpec<ControlRole>[] = [
  { bit: 0, name: 'ON', one: 'on', zero: 'OFF1: ramps down, then switches off', role: 'run' },
  { bit: 1, name: 'no OFF2', one: 'may work', zero: 'OFF2: coasts' },
  { bit: 2, name: 'no OFF3', one: 'may work', zero: 'OFF3: fast stop' },
  { bit: 3, name: 'enable operation', one: 'pulses allowed', zero: 'pulses blocked', role: 'enable' },
  { bit: 4, name: 'enable ramp', one: 'ramp works', zero: 'ramp’s output is 0' },
  { bit: 5, name: 'run ramp', one: 'ramp runs', zero: 'ramp frozen' },
  { bit: 6, name: 'enable set-point', one: 'set-point used', zero: 'ramp’s input is 0' },
  {
    bit: 7,
    name: 'acknowledge',
    one: 'clears a fault as it rises',
    zero: 'may rise',
    acts: 'rise',
    role: 'fault-reset',
  },
  { bit: 8, name: 'jog 1', one: 'jog speed 1', zero: 'no jog' },
  { bit: 9, name: 'jog 2', one: 'jog speed 2', zero: 'no jog' },
  { bit: 10, name: 'control by PLC', one: 'this word counts', zero: 'this word is not looked at' },
];

const STATUS: readonly BitSpec<StatusRole>[] = [
  { bit: 0, name: 'ready to switch on', one: 'ready to switch on', zero: 'not ready', role: 'ready' },
  { bit: 1, name: 'ready to operate', one: 'ready to operate', zero: 'not ready to operate' },
  { bit: 2, name: 'operation enabled', one: 'operation enabled', zero: 'operation blocked', role: 'enabled' },
  { bit: 3, name: 'fault', one: 'a fault is present', zero: 'no fault', role: 'fault' },
  { bit: 4, name: 'no OFF2', one: 'no OFF2', zero: 'OFF2 active', active: 'low' },
  { bit: 5, name: 'no OFF3', one: 'no OFF3', zero: 'OFF3 active', active: 'low' },
  { bit: 6, name: 'switching on inhibited', one: 'inhibited', zero: 'not inhibited' },
  { bit: 7, name: 'warning', one: 'a warning is present', zero: 'no warning', role: 'warning' },
  { bit: 8, name: 'speed within tolerance', one: 'within tolerance', zero: 'outside tolerance', role: 'at-speed' },
  { bit: 9, name: 'control requested', one: 'the PLC may take control', zero: 'local control only', role: 'remote' },
  { bit: 10, name: 'speed reached', one: 'reached or exceeded', zero: 'not reached' },
];

/** Status bits 6, 2, 1, 0. */
const SEEN = 0x47;
const FAULT = 0x08;
const NO_OFF23 = 0x06;

export const PROFIDRIVE: Profile = {
  id: 'profidrive',
  name: 'PROFIdrive, speed mode',
  control: { width: 16, bits: CONTROL, exclusive: [[8, 9]] },
  status: { width: 16, bits: STATUS },
  states: [
    {
      id: 'S1',
      name: 'Switching on inhibited',
      mask: SEEN | FAULT,
      value: 0x40,
      note: 'ON must be 0 before it may rise.',
    },
    {
      id: 'S1-fault',
      shown: 'S1',
      name: 'Inhibited by a fault',
      mask: SEEN | FAULT,
      value: 0x40 | FAULT,
      note: 'The fault must be acknowledged first.',
      arises: true,
    },
    { id: 'S2', name: 'Ready for switching on', mask: SEEN, value: 0x01, note: 'It waits for ON.' },
    { id: 'S3', name: 'Switched on', mask: SEEN, value: 0x03, note: 'It waits for enable operation.' },
    { id: 'S4', name: 'Operation', mask: SEEN, value: 0x07, note: 'Torque is on and the set-point is followed.' },
    { id: 'S5', name: 'Switching off', mask: SEEN, value: 0x03, note: 'It ramps to standstill.', arises: true },
  ],
  commands: [
    { id: 'ready', name: 'ready, not on', word: 0x047e },
    { id: 'on', name: 'on, operation not enabled', word: 0x0477 },
    { id: 'run', name: 'run', word: 0x047f },
    { id: 'off2', name: 'OFF2, coast', word: 0x047c },
    { id: 'off3', name: 'OFF3, fast stop', word: 0x047a },
    { id: 'acknowledge', name: 'acknowledge', word: 0x04fe },
  ],
  moves: [
    { from: ['S1-fault'], to: 'S1', name: 'acknowledge', mask: 0x480, value: 0x480, rise: 7 },
    { from: ['S2', 'S3', 'S4', 'S5'], to: 'S1', name: 'coast (OFF2)', mask: 0x402, value: 0x400 },
    { from: ['S2', 'S3'], to: 'S1', name: 'fast stop (OFF3)', mask: 0x404, value: 0x400 },
    { from: ['S1'], to: 'S2', name: 'OFF, no OFF2, no OFF3', mask: 0x407, value: 0x406 },
    { from: ['S2'], to: 'S3', name: 'ON', mask: 0x407, value: 0x407 },
    { from: ['S3'], to: 'S2', name: 'OFF1', mask: 0x407, value: 0x400 | NO_OFF23 },
    { from: ['S3'], to: 'S4', name: 'enable operation', mask: 0x40f, value: 0x40f },
    { from: ['S4'], to: 'S3', name: 'disable operation', mask: 0x40f, value: 0x407 },
    { from: ['S4'], to: 'S2', name: 'OFF1, through S5', mask: 0x407, value: 0x400 | NO_OFF23 },
    { from: ['S4', 'S5'], to: 'S1', name: 'OFF3, through S5', mask: 0x404, value: 0x400 },
    { from: ['S5'], to: 'S4', name: 'ON while it ramps down', mask: 0x40f, value: 0x40f },
    { from: ['S5'], to: 'S2', name: 'standstill after OFF1', mask: 0x407, value: 0x400 | NO_OFF23 },
  ],
  own: [],
  follows: 'all',
  only: [],
  runs: { state: 'S4', mask: 0x047f, value: 0x047f },
  jogs: [
    { mask: 0x050f, value: 0x050f },
    { mask: 0x060f, value: 0x060f },
  ],
  alike:
    'S3 and S5 look alike in bits 0 to 2 and 6; the word before tells them apart: after ON it is S3, after OFF S5.',
};
