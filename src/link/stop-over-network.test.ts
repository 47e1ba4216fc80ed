import { RTU, TCP, type ModbusFraming } from '../core/modbus/framing';
import { VirtualClock } from '../core/time/clock';
import { K1, rtu } from '../../tests/harness/line';
import { ternIndex } from '../../tests/harness/sheets';
import type { SocketHandlers } from './bridge-client';
import type { EntryDraft } from './exchanger';
import { modbusKind } from './line-kind';
import { LineMaster } from './line-master';
import { ModbusControl } from './modbus-control';
import type { StationStop } from './stop-run';
import { TcpPort } from './tcp-port';

const READ = '03 03 0181 0005';
const STOP_WORD = '6,2,193,0,4';

/** A drive that holds nothing but zeros and takes every write, as one framing carries it. */
const ANSWERS: Readonly<Record<'tcp' | 'rtu', (request: Uint8Array) => Uint8Array>> = {
  tcp: (request) => {
    const body = bodyOf(request.subarray(7));
    return Uint8Array.of(...request.subarray(0, 4), 0, body.length + 1, request[6] ?? 0, ...body);
  },
  rtu: (request) =>
    rtu([request[0] ?? 0, ...bodyOf(request.subarray(1))].map((byte) => byte.toString(16).padStart(2, '0')).join(' ')),
};

const bodyOf = (asked: Uint8Array): readonly number[] =>
  asked[0] === 3
    ? [3, 2 * (asked[4] ?? 0), ...new Array<number>(2 * (asked[4] ?? 0)).fill(0)]
    : [...asked.subarray(0, 5)];

/** A line over a socket whose every answer takes so long; `null`: there is none to what is asked before Stop. */
async function lineOver(name: keyof typeof ANSWERS, framing: ModbusFraming, delayUs: () => number | null) {
  const clock = new VirtualClock();
  const entries: EntryDraft[] = [];
  const stops: (readonly StationStop[])[] = [];
  let handlers: SocketHandlers | undefined;
  const port = new TcpPort(
    {
      open: (_host, _port, its) => {
        handlers = its;
        clock.at(clock.now() + 1000, its.opened);
        return 's';
      },
      write: (_socket, bytes) => {
        const us = delayUs();
        if (us !== null) clock.at(clock.now() + us, () => handlers?.bytes(ANSWERS[name](bytes)));
      },
      close: () => undefined,
    },
    { now: () => clock.now(), catchUp: () => undefined },
    '127.0.0.1',
    502,
    name === 'rtu' ? K1 : null,
  );
  const master = new LineMaster(clock, port, modbusKind(framing), [new ModbusControl(3, ternIndex(), framing)], {
    entry: (entry) => entries.push(entry),
    exchange: () => undefined,
    changed: () => undefined,
    procedure: () => undefined,
    stop: (outcomes) => stops.push(outcomes),
    closed: () => undefined,
  });
  const opened = master.open();
  clock.advanceBy(2000);
  await opened;
  return { clock, master, entries, stops };
}

describe('Stop over a network', () => {
  it.each([
    ['Modbus TCP', 'tcp', TCP],
    ['Modbus RTU behind a device server', 'rtu', RTU],
  ] as const)(
    '%s: the stop word leaves within 90 ms, however late the answer to what was asked before comes',
    async (_what, name, framing) => {
      for (let delayMs = 0; delayMs <= 400; delayMs += 10) {
        let isPressed = false;
        const line = await lineOver(name, framing, () => (isPressed ? 5_000 : delayMs < 400 ? delayMs * 1000 : null));
        const asked = name === 'tcp' ? Uint8Array.of(0, 0, 0, 0, 0, 6, 3, 3, 1, 0x81, 0, 5) : rtu(READ);
        line.master.send(3, asked, 'test', 1);
        line.clock.advanceBy(5_000);
        const pressedUs = line.clock.now();
        isPressed = true;
        line.master.stop(3);
        line.clock.advanceBy(5_000_000);
        const word = line.entries.find(
          ({ cause, direction, bytes }) =>
            cause === 'Stop' &&
            direction === 'sent' &&
            bytes
              .subarray(name === 'tcp' ? 7 : 1)
              .join()
              .startsWith(STOP_WORD),
        );
        const isInTime = (word?.atUs ?? Infinity) - pressedUs < 90_000;
        const outcomes = line.stops.at(-1)?.map(({ outcome }) => outcome);
        expect([delayMs, isInTime, outcomes]).toEqual([delayMs, true, ['stopped']]);
      }
    },
  );
});
