import { statesOf, stateNamesOf, targetsOf, turnsIn, RUNNING, type Profile } from '../src/core/profile/profile';
import { routeTo } from '../src/core/profile/route';
import { turningBy } from '../src/core/drive/turning';
import { VirtualClock } from '../src/core/time/clock';
import { Cia402Drive } from '../src/standin/cia402-drive';
import { Inverter } from '../src/standin/inverter';
import { UssDrive } from '../src/standin/uss-drive';
import type { Hands } from '../src/standin/yard-drive';
import { registerOf, shippedIndex } from './harness/sheets';

/** From every state that a stand-in can be brought into to every state that can be commanded, by the routes of the bench's profile. */

interface Subject {
  readonly profile: Profile;
  readonly status: () => number;
  readonly send: (word: number) => void;
  readonly hands: (hands: Hands) => void;
  readonly wait: (seconds: number) => void;
  readonly turning: () => boolean;
  /** What the bench would say of the shaft, from status and actual speed alone. */
  readonly seenTurning: () => boolean | null;
}

const END = { station: 7, settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } } as const;

function registerDrive(sheet: 'wren' | 'curlew' | 'tern', mode?: number): Subject {
  const index = shippedIndex(sheet);
  const clock = new VirtualClock();
  const drive =
    sheet === 'tern'
      ? new Inverter(index, clock, { '2.01': 2, '2.02': 2 }, END, () => undefined)
      : new Cia402Drive(index, clock, {}, END, () => undefined);
  const at = (role: Parameters<typeof index.byRole.get>[0]): number => registerOf(index.byRole.get(role));
  const now = mode === undefined ? index : index.modes.get(mode)!;
  if (mode !== undefined) expect(drive.write(at('mode'), [mode])).toBe(0);
  drive.write(at('watchdog-time'), [0]);
  drive.write(at('speed-reference'), [800]);
  return {
    profile: now.profile!,
    status: () => drive.read(at('status-word'))!,
    send: (word) => expect(drive.write(at('control-word'), [word])).toBe(0),
    hands: (hands) => drive.setHands(hands),
    wait: (seconds) => clock.advanceBy(seconds * 1e6),
    turning: () => drive.isTurning(),
    seenTurning: () => turningBy(now, (role) => drive.read(at(role)) ?? undefined),
  };
}

function dunlin(): Subject {
  const index = shippedIndex('dunlin');
  const clock = new VirtualClock();
  const drive = new UssDrive(index, clock, { '455.0': 0 }, END, () => undefined);
  const ask = (word: number): readonly number[] =>
    drive.exchange([0, 0, 0, 0, 0, 0, 0, 0, word >> 8, word & 255, 8, 0])!;
  const word = (at: number): number => {
    // Without control by PLC the word only reads.
    const net = ask(0);
    return net[8 + at]! * 256 + net[9 + at]!;
  };
  return {
    profile: index.profile!,
    status: () => word(0),
    send: (control) => void ask(control),
    hands: (hands) => drive.setHands(hands),
    wait: (seconds) => clock.advanceBy(seconds * 1e6),
    turning: () => drive.isTurning(),
    seenTurning: () => turningBy(index, (role) => word(role === 'status-word' ? 0 : 2)),
  };
}

const SUBJECTS: Readonly<Record<string, () => Subject>> = {
  'Wren, CiA 402 velocity': () => registerDrive('wren'),
  'Curlew, CiA 402 velocity': () => registerDrive('curlew', 2),
  'Curlew, CiA 402 profile position': () => registerDrive('curlew', 1),
  'Dunlin, PROFIdrive': dunlin,
  'Tern, its own states': () => registerDrive('tern'),
};

const SETTLE_S = 40;

/** Walks to a target from what the status shows; `last` as the bench would know it. False where the route is not there. */
function walk(subject: Subject, last: number | null, target: string): boolean {
  const { profile } = subject;
  const from = statesOf(profile, subject.status()).map(({ id }) => id);
  const route = routeTo(profile, from, last, target);
  if (route.kind === 'none') return false;
  for (const step of route.steps) {
    subject.send(step.word);
    subject.wait(SETTLE_S);
    expect(stateNamesOf(profile, subject.status()).some((name) => step.expects.includes(name))).toBe(true);
    // What a route calls standing must stand; what it says may turn may.
    if (subject.turning()) expect(step.turns || !turnsIn(profile, target, step.word)).toBe(true);
  }
  return true;
}

const shown = (profile: Profile, id: string): string => {
  const state = profile.states.find((candidate) => candidate.id === id);
  return state?.shown ?? id;
};

/** Every way to bring a fresh stand-in into a state: by command, by a fault, by a fault that is still there and then goes. */
const STARTS: readonly ((subject: Subject) => void)[] = [
  () => undefined,
  ...['S1', 'S2', 'S3', 'S4', 'switch-on-disabled', 'ready-to-switch-on', 'switched-on', 'operation-enabled'].map(
    (target) => (subject: Subject) => void walk(subject, 0, target),
  ),
  ...['quick-stop-active', RUNNING, 'ready', 'enabled', 'running-forward', 'running-backward', 'jogging'].map(
    (target) => (subject: Subject) => void walk(subject, 0, target),
  ),
  ...['running-forward', RUNNING, 'S2'].map((target) => (subject: Subject) => {
    walk(subject, 0, target);
    subject.hands({ selector: 'remote', liveFault: 12 });
    subject.wait(2);
    subject.hands({ selector: 'remote', liveFault: 0 });
  }),
];

it.each(Object.entries(SUBJECTS))('%s: every route works, with the word before known or not', (_, make) => {
  const { profile } = make();
  let walked = 0;
  const reached = new Set<string>();
  for (const start of STARTS)
    for (const target of targetsOf(profile)) {
      const subject = make();
      start(subject);
      for (const name of stateNamesOf(profile, subject.status())) reached.add(name);
      if (!walk(subject, null, target)) continue;
      walked++;
      const wanted = target === RUNNING ? (profile.runs?.state ?? target) : target;
      expect(stateNamesOf(profile, subject.status())).toContain(shown(profile, wanted));
      if (target === RUNNING && profile.commands.every(({ id }) => id !== 'start-move')) {
        expect(subject.turning()).toBe(true);
        expect(subject.seenTurning()).toBe(true);
      }
    }
  // The starts cover every state but those that pass by themselves.
  const passing = new Set(['not-ready-to-switch-on', 'fault-reaction-active', 'not-ready', 'coasting']);
  for (const { id } of profile.states) if (!passing.has(id)) expect(reached).toContain(shown(profile, id));
  expect(walked).toBeGreaterThan(STARTS.length * 3);
});

it('a reset without a rise of its bit does nothing, on each profile', () => {
  for (const [make, reset] of [
    [() => registerDrive('wren'), 0x80],
    [dunlin, 0x4fe],
    [() => registerDrive('tern'), 0x200],
  ] as const) {
    const subject = make();
    subject.send(reset);
    subject.hands({ selector: 'remote', liveFault: 4 });
    subject.wait(2);
    subject.hands({ selector: 'remote', liveFault: 0 });
    const faulted = subject.status();
    subject.send(reset);
    subject.wait(1);
    expect(subject.status() & 0x18).toBe(faulted & 0x18);
    subject.send(reset & 0x47e);
    subject.send(reset);
    subject.wait(1);
    expect(statesOf(subject.profile, subject.status()).every(({ id }) => !id.includes('fault'))).toBe(true);
  }
});

it('a fault whose cause is still there cannot be reset', () => {
  const wren = registerDrive('wren');
  wren.hands({ selector: 'remote', liveFault: 4 });
  wren.wait(2);
  wren.send(0);
  wren.send(0x80);
  expect(stateNamesOf(wren.profile, wren.status())).toEqual(['fault']);
});
