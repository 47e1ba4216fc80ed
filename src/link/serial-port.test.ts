/** @jest-environment node */
import { K1, rtu } from '../../tests/harness/line';
import { ternIndex } from '../../tests/harness/sheets';
import type { SerialSettings } from '../core/line/settings';
import { RTU } from '../core/modbus/framing';
import { seededRandom } from '../core/random/random';
import { VirtualClock } from '../core/time/clock';
import type { Party } from '../standin/serial-bus';
import { YardLine } from '../standin/yard';
import type { EntryDraft } from './exchanger';
import { LineMaster } from './line-master';
import type { ExchangeResult } from './request';
import { SerialPort, serialOptions, type BrowserSerialOptions, type BrowserSerialPort } from './serial-port';
import { ModbusControl } from './modbus-control';
import { modbusKind } from './line-kind';

const named = (name: string, text = name): DOMException => new DOMException(text, name);

/** A serial port with the browser's own interface and a stand-in line behind it. */
class FakeSerial implements BrowserSerialPort {
  readable: ReadableStream<Uint8Array> | null = null;
  writable: WritableStream<Uint8Array> | null = null;
  opened: BrowserSerialOptions[] = [];
  signals: unknown[] = [];
  refuse: DOMException | null = null;
  readonly #yard: YardLine;
  readonly #clock: VirtualClock;
  readonly #unplugs = new Set<() => void>();
  #controller: ReadableStreamDefaultController<Uint8Array> | null = null;
  #settings: SerialSettings = K1;
  #leave: (() => void) | null = null;

  constructor(yard: YardLine, clock: VirtualClock) {
    this.#yard = yard;
    this.#clock = clock;
  }

  readonly #party: Party = {
    side: 'bench',
    settings: () => this.#settings,
    hear: (byte, fault) => {
      // As in the browser, a fault ends the stream with an error, and a new stream takes its place.
      if (fault)
        this.fail(named(fault === 'framing' ? 'FramingError' : fault === 'parity' ? 'ParityError' : 'BreakError'));
      else this.#controller?.enqueue(Uint8Array.of(byte));
    },
  };

  open(options: BrowserSerialOptions): Promise<void> {
    if (this.refuse) return Promise.reject(this.refuse);
    if (this.readable) return Promise.reject(named('InvalidStateError'));
    this.opened.push(options);
    this.#settings = {
      rate: options.baudRate,
      dataBits: options.dataBits,
      parity: ({ none: 'N', even: 'E', odd: 'O' } as const)[options.parity],
      stopBits: options.stopBits,
    };
    this.#leave = this.#yard.bus.attach(this.#party);
    this.#newStream();
    this.writable = new WritableStream<Uint8Array>({
      write: (bytes) => void this.#yard.bus.transmit(this.#party, bytes),
    });
    return Promise.resolve();
  }

  close(): Promise<void> {
    this.#leave?.();
    this.readable = null;
    this.writable = null;
    return Promise.resolve();
  }

  setSignals(signals: unknown): Promise<void> {
    this.signals.push(signals);
    return Promise.resolve();
  }

  getSignals = () =>
    Promise.resolve({ clearToSend: true, dataSetReady: false, dataCarrierDetect: false, ringIndicator: false });

  addEventListener(_type: 'disconnect', listener: () => void): void {
    this.#unplugs.add(listener);
  }

  removeEventListener(_type: 'disconnect', listener: () => void): void {
    this.#unplugs.delete(listener);
  }

  fail(error: DOMException): void {
    const old = this.#controller;
    this.#newStream();
    old?.error(error);
  }

  unplug(): void {
    for (const listener of this.#unplugs) listener();
  }

  #newStream(): void {
    this.readable = new ReadableStream<Uint8Array>({ start: (controller) => (this.#controller = controller) });
  }

  readonly clockNow = (): number => this.#clock.now();
}

/** Lets promises settle, then time pass, several times: streams hand over in small turns. */
async function pass(clock: VirtualClock, ms: number): Promise<void> {
  for (let i = 0; i < ms; i++) {
    clock.advanceBy(1000);
    for (let turn = 0; turn < 3; turn++) await new Promise((resolve) => setImmediate(resolve));
  }
}

function bench({ choose = true }: { choose?: boolean } = {}) {
  const clock = new VirtualClock();
  const index = ternIndex();
  const plans = [{ station: 3, index, kept: { '2.01': 2, '2.02': 2, '5.01': 3 } }];
  const yard = new YardLine(clock, seededRandom(3), K1, plans, () => undefined);
  const serial = new FakeSerial(yard, clock);
  const entries: EntryDraft[] = [];
  const results: ExchangeResult[] = [];
  const closed: string[] = [];
  const present = { now: () => clock.now(), catchUp: () => undefined };
  const port = new SerialPort(() => Promise.resolve(choose ? serial : null), present, K1);
  const master = new LineMaster(clock, port, modbusKind(RTU), [new ModbusControl(3, index, RTU)], {
    entry: (entry) => entries.push(entry),
    exchange: (result) => results.push(result),
    changed: () => undefined,
    procedure: () => undefined,
    stop: () => undefined,
    closed: ({ kind }) => closed.push(kind),
  });
  return { clock, yard, serial, master, entries, results, closed };
}

it.each([
  [K1, { baudRate: 19200, dataBits: 8, parity: 'even', stopBits: 1 }],
  [
    { rate: 9600, dataBits: 7, parity: 'O', stopBits: 2 } as const,
    { baudRate: 9600, dataBits: 7, parity: 'odd', stopBits: 2 },
  ],
  [{ ...K1, parity: 'N' } as const, { parity: 'none' }],
])('settings as the browser takes them', (settings, options) => {
  expect(serialOptions(settings)).toMatchObject({ ...options, flowControl: 'none' });
});

it('opens with the line’s settings, sends nothing, and carries an exchange', async () => {
  const { clock, master, serial, results, entries } = bench();
  expect(await master.open()).toBeNull();
  await pass(clock, 20);
  expect(serial.opened).toHaveLength(1);
  expect(entries.filter(({ direction }) => direction === 'sent')).toEqual([]);
  master.send(3, rtu('03 03 0182 0001'), 'test', 1);
  await pass(clock, 80);
  expect(results[0]).toMatchObject({ outcome: 'answered', said: { unit: 3 } });
  expect(master.snapshot().signals).toMatchObject({ cts: true, dsr: false });
});

it('a new rate is close and open; a parity that differs comes as line errors', async () => {
  const { clock, master, serial, yard, entries } = bench();
  await master.open();
  master.reconfigure({ ...K1, parity: 'O' });
  await pass(clock, 10);
  expect(serial.opened.map(({ parity }) => parity)).toEqual(['even', 'odd']);
  yard.disturb({ ...yard.bus.disturbance, otherMaster: true });
  await pass(clock, 150);
  expect(entries.some(({ lineFaults }) => lineFaults.includes('parity'))).toBe(true);
});

it('a break and the modem lines go out in order', async () => {
  const { clock, master, serial, entries } = bench();
  await master.open();
  master.sendBreak(1);
  master.setSignals({ rts: true });
  master.setSignals({ dtr: false });
  await new Promise((resolve) => setTimeout(resolve, 30));
  await pass(clock, 5);
  expect(serial.signals).toEqual([
    { break: true },
    { break: false },
    { requestToSend: true },
    { dataTerminalReady: false },
  ]);
  expect(entries.map(({ outcome }) => outcome)).toContain('break');
});

it('pulled out while it runs: the line is closed with the reason, and what waited is told', async () => {
  const { clock, master, serial, closed, results } = bench();
  await master.open();
  master.send(3, rtu('03 03 0182 0001'), 'test', 1);
  serial.unplug();
  await pass(clock, 5);
  expect(closed).toEqual(['unplugged']);
  expect(results[0]?.outcome).toBe('closed');
  expect(master.snapshot().open).toBe(false);
});

it('a stream that breaks off is an adapter that went away', async () => {
  const { clock, master, serial, closed } = bench();
  await master.open();
  await pass(clock, 3);
  serial.fail(named('NetworkError'));
  await pass(clock, 5);
  expect(closed).toHaveLength(1);
});

it.each([
  ['another program has it', 'NetworkError', 'held'],
  ['it is open already', 'InvalidStateError', 'held'],
  ['the page may not', 'SecurityError', 'no-access'],
])('%s: not opened, and why is said', async (_, name, kind) => {
  const { master, serial } = bench();
  serial.refuse = named(name);
  expect((await master.open())?.kind).toBe(kind);
  expect(master.snapshot().open).toBe(false);
});

it('no port chosen is a sentence, not a crash', async () => {
  const { master } = bench({ choose: false });
  expect(await master.open()).toMatchObject({ kind: 'no-such-port' });
});

it('closed and opened again it works as before', async () => {
  const { clock, master, serial, results } = bench();
  await master.open();
  await pass(clock, 3);
  await master.close();
  expect(serial.readable).toBeNull();
  expect(await master.open()).toBeNull();
  master.send(3, rtu('03 03 0182 0001'), 'test', 1);
  await pass(clock, 80);
  expect(results.at(-1)?.outcome).toBe('answered');
});
