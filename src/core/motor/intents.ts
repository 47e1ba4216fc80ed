import type { ParameterRole } from '../sheet/parameter-section';

/** What a drive is for. */
export const INTENTS = [
  { id: 'fan', name: 'fan' },
  { id: 'pump', name: 'pump' },
  { id: 'conveyor', name: 'conveyor' },
  { id: 'hoist', name: 'hoist' },
  { id: 'mixer', name: 'mixer' },
  { id: 'spindle', name: 'spindle' },
] as const;
export type Intent = (typeof INTENTS)[number]['id'];

/** What is wanted of one setting: a share of the plate's speed, seconds, or the choice whose name says this. */
export type Wish =
  | { readonly kind: 'share-of-speed'; readonly share: number }
  | { readonly kind: 'seconds'; readonly seconds: number }
  | { readonly kind: 'named'; readonly name: RegExp; readonly called: string };

export interface Wanted {
  readonly role: ParameterRole;
  readonly wish: Wish;
  readonly why: string;
}

const share = (value: number): Wish => ({ kind: 'share-of-speed', share: value });
const seconds = (value: number): Wish => ({ kind: 'seconds', seconds: value });
const named = (called: string, name: RegExp): Wish => ({ kind: 'named', name, called });

const RAMP_DOWN = named('ramp down', /ramp|stop/i);
const FAULT = named('fault', /fault|trip/i);
const NETWORK = named('network', /network|line|bus/i);
const OFF = named('off', /^off$|^no$|never/i);
const RUN_OUT = named('let run out', /run out|coast/i);
const RAMP = named('ramp', /^ramp/i);

/** Run over the network, and never by itself when power returns: whatever the drive is for. */
const ALWAYS: readonly Wanted[] = [
  { role: 'command-source', wish: NETWORK, why: 'the controller is to start and stop it' },
  { role: 'reference-source', wish: NETWORK, why: 'the controller is to set its speed' },
  { role: 'power-return', wish: OFF, why: 'nothing turns by itself when power returns' },
];

/** What each intent asks for. Common practice, no source; the plant and the machine’s maker go before it. */
export const WANTED: Readonly<Record<Intent, readonly Wanted[]>> = {
  fan: [
    { role: 'ramp-time', wish: seconds(20), why: 'a fan’s wheel is heavy: slow ramps spare the belt and the supply' },
    { role: 'minimum-speed', wish: share(0.2), why: 'below a fifth of its speed a fan moves next to no air' },
    {
      role: 'maximum-speed',
      wish: share(1),
      why: 'load rises with the third power of speed: no more than the plate’s',
    },
    { role: 'stop-way', wish: RUN_OUT, why: 'a fan may run out: braking its wheel would lift the drive’s voltage' },
    { role: 'watchdog-time', wish: seconds(5), why: 'a fan suffers a short gap of the link' },
    {
      role: 'watchdog-action',
      wish: RAMP_DOWN,
      why: 'without the controller it comes to rest, without a fault to be reset',
    },
    ...ALWAYS,
  ],
  pump: [
    {
      role: 'ramp-time',
      wish: seconds(6),
      why: 'slow enough that no water hammers, fast enough through the range where it moves nothing',
    },
    { role: 'minimum-speed', wish: share(0.4), why: 'below it a pump lifts nothing and its bearings run dry' },
    {
      role: 'maximum-speed',
      wish: share(1),
      why: 'load rises with the third power of speed: no more than the plate’s',
    },
    { role: 'stop-way', wish: RAMP, why: 'a ramp keeps the check valve from slamming' },
    { role: 'watchdog-time', wish: seconds(3), why: 'a tank level bears a gap of some seconds' },
    {
      role: 'watchdog-action',
      wish: RAMP_DOWN,
      why: 'without the controller it comes to rest, without a fault to be reset',
    },
    ...ALWAYS,
  ],
  conveyor: [
    { role: 'ramp-time', wish: seconds(3), why: 'what lies on the belt must not slide' },
    { role: 'minimum-speed', wish: share(0.1), why: 'below it the motor cools badly at full torque' },
    { role: 'maximum-speed', wish: share(1), why: 'the belt’s speed at the plate’s speed' },
    { role: 'stop-way', wish: RAMP, why: 'the belt stops where it is expected' },
    { role: 'watchdog-time', wish: seconds(1), why: 'goods go on moving while nobody watches' },
    { role: 'watchdog-action', wish: RAMP_DOWN, why: 'without the controller the belt stops' },
    ...ALWAYS,
  ],
  hoist: [
    { role: 'ramp-time', wish: seconds(2), why: 'the load must not swing, and the brake must not slip' },
    { role: 'minimum-speed', wish: share(0.06), why: 'below it an open-loop motor may not hold the load' },
    { role: 'maximum-speed', wish: share(1), why: 'the gear and the brake are made for the plate’s speed' },
    { role: 'stop-way', wish: RAMP, why: 'it must never run out: the load would take it along' },
    { role: 'watchdog-time', wish: seconds(0.5), why: 'a load that moves without its controller is a danger' },
    { role: 'watchdog-action', wish: FAULT, why: 'the brake closes, and somebody looks before it goes on' },
    ...ALWAYS,
  ],
  mixer: [
    { role: 'ramp-time', wish: seconds(8), why: 'what is stirred must not splash, and starts thick' },
    { role: 'minimum-speed', wish: share(0.2), why: 'below it the motor cools badly at the torque that it needs' },
    { role: 'maximum-speed', wish: share(1), why: 'the blade is made for the plate’s speed' },
    { role: 'stop-way', wish: RAMP, why: 'it stops in a known time, for whoever opens the lid' },
    { role: 'watchdog-time', wish: seconds(2), why: 'a gap of two seconds spoils no batch' },
    { role: 'watchdog-action', wish: RAMP_DOWN, why: 'without the controller it comes to rest' },
    ...ALWAYS,
  ],
  spindle: [
    { role: 'ramp-time', wish: seconds(4), why: 'the tool change waits for it; the inertia is small' },
    { role: 'minimum-speed', wish: share(0), why: 'it is turned slowly for setting up' },
    {
      role: 'maximum-speed',
      wish: share(1),
      why: 'bearings and tools are made for no more, unless their makers say so',
    },
    { role: 'stop-way', wish: RAMP, why: 'a hand reaches in once it should stand' },
    { role: 'watchdog-time', wish: seconds(0.5), why: 'a cutting tool must not turn unwatched' },
    { role: 'watchdog-action', wish: FAULT, why: 'it stops, and somebody looks before it goes on' },
    ...ALWAYS,
  ],
};
