import type { SerialSettings } from '../core/line/settings';
import { seededRandom } from '../core/random/random';
import { indexSheet, type SheetIndex } from '../core/sheet/index-sheet';
import { loadSheet } from '../core/sheet/load-sheet';
import { SHIPPED_FILES } from '../core/shipped/files';
import { LiveClock } from '../core/time/live-clock';
import { Godwit } from '../standin/godwit';
import { Cia402Drive } from '../standin/cia402-drive';
import { Gateway } from '../standin/gateway';
import { Inverter } from '../standin/inverter';
import { MbapServer } from '../standin/mbap-server';
import type { RegisterBank } from '../standin/rtu-server';
import type { Party } from '../standin/serial-bus';
import { YardLine, type DrivePlan } from '../standin/yard';
import { TcpDevice, type Behaviour, type Serve } from './tcp-device';

/** The stand-ins that are reached over the network, and the loopback ports that the demo job names. */
export const YARD_PORTS = { K1: 47501, E1: 47502, E2: 47504, D1: 47523 } as const;
export type YardName = keyof typeof YARD_PORTS;

const K1_SETTINGS: SerialSettings = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 };
/** A device server gathers characters this long before it sends a segment. */
const GATHER_US = 4_000;
/** Connections that each device has room for. */
const ROOM = { K1: 1, E1: 2, E2: 2, D1: 1 } as const;

/** What a person at a device can do, and no network. */
export const HANDS = ['start-input', 'any-master'] as const;
export type Hand = (typeof HANDS)[number];
type Hands = Readonly<Partial<Record<Hand, () => void>>>;

/** The start input of the lift's stored moves, and how long a hand holds its button. */
const START_INPUT = 3;
const PRESS_US = 300_000;

function indexOf(slug: string): SheetIndex {
  const loaded = loadSheet(SHIPPED_FILES.sheets[slug]);
  if (!loaded.ok) throw new Error(`the shipped sheet ${slug} is broken: ${loaded.error[0]?.text ?? ''}`);
  return indexSheet(loaded.value);
}

/** Modbus TCP has a unit, and no serial settings. */
const NO_SERIAL_END = { station: 1, settings: K1_SETTINGS };

/** The lift's own moves: 120 mm, a second, 1200 mm, a second and a half, 600 mm; at 500, 500 and 300 mm/s. */
const LIFT_MOVES = {
  '120': 196_608,
  '125': 100,
  '126': 2,
  '128': 1_966_080,
  '133': 150,
  '134': 3,
  '136': 983_040,
  '138': 491_520,
};

/**
 * The lift as it was put into service: limits of 0 to 2400 mm, end switches in use, home at its switch from below, which shows 592.5 mm; its lists of
 * gathered values are in use, and want to be written every two seconds.
 */
const LIFT_KEPT = { '69': 0, '71': 3_932_160, '79': 1, '80': 20, '87': -970_752, '100': 1, '101': 200, ...LIFT_MOVES };

/** E1: a stacker lift over Modbus TCP. A restart closes its connections and refuses new ones for as long as the drive starts. */
function lift(clock: LiveClock, device: () => TcpDevice): { readonly serve: Serve; readonly hands: Hands } {
  const drive = new Cia402Drive(
    indexOf('curlew'),
    clock,
    LIFT_KEPT,
    NO_SERIAL_END,
    () => undefined,
    (bootMs) => {
      void device().behave('off');
      clock.at(clock.now() + bootMs * 1000, () => void device().behave('works'));
    },
  );
  const serve = overTcp(clock, drive, () => drive.heard());
  return {
    serve: (say, hangUp, from) => (drive.admits(from) ? serve(say, hangUp, from) : null),
    hands: {
      'start-input': () => drive.pressInput(START_INPUT, PRESS_US),
      'any-master': () => drive.letAnyMasterIn(),
    },
  };
}

/** K1 behind its device server: a line and drives of its own, which are not those in a page. */
function deviceServer(clock: LiveClock): Serve {
  const plans: readonly DrivePlan[] = [
    { station: 3, index: indexOf('tern'), kept: { '2.01': 2, '2.02': 2, '5.01': 3 } },
    { station: 7, index: indexOf('wren'), kept: { '10': 7 } },
  ];
  const yard = new YardLine(clock, seededRandom(1), K1_SETTINGS, plans, () => undefined);
  return (say) => {
    let gathered: number[] = [];
    const party: Party = {
      side: 'bench',
      settings: () => K1_SETTINGS,
      hear: (byte) => {
        gathered.push(byte);
        if (gathered.length > 1) return;
        clock.at(clock.now() + GATHER_US, () => {
          say(Uint8Array.from(gathered));
          gathered = [];
        });
      },
    };
    const leave = yard.bus.attach(party);
    return {
      take: (bytes) => {
        clock.catchUp();
        yard.bus.transmit(party, bytes);
        clock.catchUp();
      },
      leave,
    };
  };
}

/** Modbus TCP over one connection; a stream that makes no sense ends it. */
const overTcp =
  (clock: LiveClock, bank: RegisterBank, heard: () => void): Serve =>
  (say, hangUp) => {
    const server = new MbapServer(bank);
    return {
      take: (bytes) => {
        clock.catchUp();
        heard();
        const answers = server.take(bytes);
        if (answers) answers.forEach(say);
        else hangUp();
      },
      leave: () => undefined,
    };
  };

/** E2: a gateway over an exhaust fan and a second lift: 19 bytes of a slot of 24, the two words of the position turned round. */
function blockGateway(clock: LiveClock): Serve {
  const [tern, curlew] = [indexOf('tern'), indexOf('curlew')];
  const nothing = (): void => undefined;
  const fan = { index: tern, bank: new Inverter(tern, clock, {}, NO_SERIAL_END, nothing) };
  const hoist = { index: curlew, bank: new Cia402Drive(curlew, clock, LIFT_KEPT, NO_SERIAL_END, nothing) };
  const gateway = new Gateway(
    [
      { from: fan, role: 'status-word', bytes: 2 },
      { from: fan, role: 'actual-speed', bytes: 2 },
      { from: fan, role: 'current', bytes: 2 },
      { from: fan, role: 'fault-code', bytes: 2 },
      { from: hoist, role: 'status-word', bytes: 2 },
      { from: hoist, role: 'actual-position', bytes: 4, isSwapped: true },
      { from: hoist, role: 'actual-speed', bytes: 2 },
      { from: hoist, role: 'fault-code', bytes: 2 },
      { from: hoist, role: 'mode-display', bytes: 1 },
    ],
    24,
  );
  return overTcp(clock, gateway, () => {
    fan.bank.heard();
    hoist.bank.heard();
  });
}

/** D1: the old debarker's text menu as raw characters. */
function debarker(clock: LiveClock): Serve {
  return (say) => {
    const menu = new Godwit(clock, (text) => say(new TextEncoder().encode(text)));
    return {
      take: (bytes) => {
        clock.catchUp();
        menu.take(bytes);
      },
      leave: () => menu.leave(),
    };
  };
}

export interface DeviceState {
  readonly name: YardName;
  readonly port: number;
  /** The port that the demo job names; another one where somebody has that. */
  readonly wanted: number;
  readonly behaviour: Behaviour;
  /** What a person can do at it. */
  readonly hands: readonly Hand[];
}

/** All network stand-ins of the demo on loopback. They run on real time, whether or not anyone is connected. */
export class NetworkYard {
  readonly #devices: ReadonlyMap<YardName, TcpDevice>;
  readonly #hands: Readonly<Partial<Record<YardName, Hands>>>;

  constructor(ports: Readonly<Record<YardName, number>> = YARD_PORTS) {
    const clock = new LiveClock(
      () => performance.now(),
      (action, ms) => Number(setTimeout(action, ms).unref()),
      (handle) => clearTimeout(handle),
    );
    const { serve, hands } = lift(clock, () => this.#device('E1'));
    this.#hands = { E1: hands };
    const serves: Readonly<Record<YardName, Serve>> = {
      K1: deviceServer(clock),
      E1: serve,
      E2: blockGateway(clock),
      D1: debarker(clock),
    };
    this.#devices = new Map(
      (Object.keys(serves) as YardName[]).map((name) => [name, new TcpDevice(ports[name], ROOM[name], serves[name])]),
    );
  }

  /** Starts every device; resolves with a sentence for each that did not get the port that it is meant to have. */
  async start(): Promise<readonly string[]> {
    const results = await Promise.all(
      [...this.#devices].map(([name, device]) =>
        device.startNear().then(
          (port) =>
            port === device.wanted ? [] : [`stand-in ${name} is at port ${port}: another program has ${device.wanted}`],
          () => [`stand-in ${name} found no free port from ${device.wanted} on`],
        ),
      ),
    );
    return results.flat();
  }

  async stop(): Promise<void> {
    await Promise.all([...this.#devices.values()].map((device) => device.stop()));
  }

  states(): readonly DeviceState[] {
    return [...this.#devices].map(([name, { port, wanted, behaviour }]) => ({
      name,
      port,
      wanted,
      behaviour,
      hands: HANDS.filter((hand) => this.#hands[name]?.[hand]),
    }));
  }

  behave(name: YardName, behaviour: Behaviour): Promise<void> {
    return this.#device(name).behave(behaviour);
  }

  /** False where nobody can do that at the device. */
  touch(name: YardName, hand: Hand): boolean {
    const act = this.#hands[name]?.[hand];
    act?.();
    return act !== undefined;
  }

  #device(name: YardName): TcpDevice {
    const device = this.#devices.get(name);
    if (!device) throw new RangeError(`no stand-in ${name}`);
    return device;
  }
}

// One yard a process, however often a module is loaded anew.
const holder = globalThis as { bujoYard?: NetworkYard };

/** The stand-ins on real sockets that this server runs; null where it runs none. */
export const runningYard = (): NetworkYard | null => holder.bujoYard ?? null;

/** Starts the yard once, when the server starts with demo data; a port that is taken is said on the console, and another one is used. */
export async function startYard(): Promise<void> {
  if (holder.bujoYard) return;
  holder.bujoYard = new NetworkYard();
  for (const trouble of await holder.bujoYard.start()) process.stderr.write(`${trouble}\n`);
}
