import { seededRandom } from '../../core/random/random';
import type { Clock } from '../../core/time/clock';
import { VirtualClock } from '../../core/time/clock';
import { LiveClock, type JumpListener } from '../../core/time/live-clock';
import { patternOfNumber } from '../../core/values/pattern';
import type { LinkPort } from '../../link/port';
import { StandinPort } from '../../link/standin-port';
import { TcpPort } from '../../link/tcp-port';
import { YardLine } from '../../standin/yard';
import { NodeSockets } from './node-sockets';
import type { Script } from './script-line';

/** A line to a drive, and how its time goes on. */
export interface ScriptWorld {
  readonly clock: Clock;
  readonly port: LinkPort;
  readonly isSimulated: boolean;
  /** Lets a moment pass: at once on a stand-in, in real time on a socket. */
  readonly pass: () => Promise<void>;
  /** Hears of a computer that was asleep: nothing that was due then is sent. */
  readonly onJump: (listener: JumpListener) => void;
  readonly leave: () => void;
}

/** A stand-in's time moves in steps of this; a real line is looked at this often. */
const STEP_US = 20_000;
/** A line without settings of its own is that of a stand-in at this rate. */
const USUAL = { rate: 19_200, dataBits: 8, parity: 'E', stopBits: 1 } as const;

/** Where a script runs: a real socket, a serial line or a stand-in, with the clock that belongs to it. */
export function worldOf({ tcp, serial, protocol, index, station, standin }: Script): ScriptWorld {
  if (tcp) {
    const clock = new LiveClock(
      () => performance.now(),
      (action, ms) => Number(setTimeout(action, ms)),
      (timer) => clearTimeout(timer),
    );
    const sockets = new NodeSockets();
    return {
      clock,
      port: new TcpPort(sockets, clock, tcp.host, tcp.port, protocol === 'modbus-tcp' ? null : serial),
      isSimulated: false,
      pass: () => new Promise((resolve) => setTimeout(resolve, STEP_US / 1000)).then(() => clock.catchUp()),
      onJump: (listener) => clock.onJump(listener),
      leave: () => clock.stop(),
    };
  }
  const clock = new VirtualClock();
  const settings = serial ?? USUAL;
  const kept = Object.fromEntries(
    Object.entries(standin.parameters).flatMap(([number, raw]) => {
      const parameter = index.byNumber.get(number);
      return parameter ? [[number, patternOfNumber(parameter.type, raw)]] : [];
    }),
  );
  const random = seededRandom(standin.seed);
  const yard = new YardLine(clock, random, settings, [{ station, index, kept }], () => undefined);
  return {
    clock,
    port: new StandinPort(yard.bus, clock, settings),
    isSimulated: true,
    pass: () => {
      clock.advanceBy(STEP_US);
      return Promise.resolve();
    },
    onJump: () => undefined,
    leave: () => undefined,
  };
}
