/** @jest-environment node */
import ModbusRTU, { ServerTCP } from 'modbus-serial';
import { framingOf, TCP } from '../src/core/modbus/framing';
import { indexSheet } from '../src/core/sheet/index-sheet';
import { LineMaster } from '../src/link/line-master';
import type { LineSnapshot } from '../src/link/line-owner';
import type { ExchangeResult } from '../src/link/request';
import { ModbusControl } from '../src/link/modbus-control';
import { modbusKind } from '../src/link/line-kind';
import { TcpPort } from '../src/link/tcp-port';
import type { RunState } from '../src/core/procedure/run-state';
import { shippedSheets } from './harness/shipped';
import { NetworkYard, YARD_PORTS } from '../src/yard/network-yard';
import { bridgePair, realClock, until } from './harness/bridge';
import { K1, rtu } from './harness/line';

/** Ports beside the demo's, which may be running; others where these are taken too. */
const PORTS = { K1: YARD_PORTS.K1 + 100, E1: YARD_PORTS.E1 + 100, E2: YARD_PORTS.E2 + 100, D1: YARD_PORTS.D1 + 100 };

let yard: NetworkYard;
const ends: (() => void | Promise<void>)[] = [];

beforeEach(async () => {
  yard = new NetworkYard(PORTS);
  await yard.start();
  for (const { name, port } of yard.states()) PORTS[name] = port;
});

afterEach(async () => {
  for (const end of ends.splice(0)) await end();
  await yard.stop();
});

it('two demos on one machine: taken ports are said, others are used, and the demo job names them', async () => {
  const second = new NetworkYard(PORTS);
  ends.push(() => second.stop());
  const said = await second.start();
  const states = second.states();
  expect(said).toEqual(
    states.map(({ name, port }) => `stand-in ${name} is at port ${port}: another program has ${PORTS[name]}`),
  );
  for (const { name, port, wanted } of states) expect([wanted, port > wanted]).toEqual([PORTS[name], true]);
  const line = await bench(states.find(({ name }) => name === 'E1')?.port ?? 0, 'modbus-tcp', 'curlew');
  expect(line.why).toBeNull();
  // It comes back at the port that it found, not at the one that it was meant to have.
  await second.behave('E1', 'off');
  await second.behave('E1', 'works');
  expect(second.states()).toEqual(states);
});

it('hands at a stand-in: only where it has them, and any master is let in by them', () => {
  expect(yard.states().map(({ name, hands }) => [name, hands.join(' ')])).toEqual([
    ['K1', ''],
    ['E1', 'start-input any-master'],
    ['E2', ''],
    ['D1', ''],
  ]);
  expect([yard.touch('E1', 'start-input'), yard.touch('D1', 'start-input')]).toEqual([true, false]);
});

it('a lift that expects another master hangs up on the bench, and lets it in again when a person says so', async () => {
  const line = await bench(PORTS.E1, 'modbus-tcp', 'curlew');
  const write = async (number: number, word: number): Promise<void> => {
    const { reply } = await line.ask(
      Uint8Array.of(0, 1, 0, 0, 0, 6, 1, 6, (2048 + number) >> 8, (2048 + number) & 0xff, word >> 8, word & 0xff),
      1,
    );
    expect(reply?.[7]).toBe(6);
  };
  await write(21, 0xc0a8);
  await write(22, 0x0007);
  await write(90, 1);
  await write(91, 1);
  const again = async (): Promise<string> => {
    const next = await bench(PORTS.E1, 'modbus-tcp', 'curlew');
    if (next.why !== null) return 'not open';
    await new Promise((resolve) => setTimeout(resolve, 200));
    return next.closed[0] ?? 'let in';
  };
  await until(() => line.closed.length > 0);
  // While it starts nobody is let in; then the bench is not.
  let came = await again();
  for (let tries = 0; tries < 40 && came === 'not open'; tries++) {
    await new Promise((resolve) => setTimeout(resolve, 200));
    came = await again();
  }
  expect(came).toBe('closed-by-far');
  yard.touch('E1', 'any-master');
  expect(await again()).toBe('let in');
}, 30_000);

/** The bench on a TCP line: its own exchanger and port over a real bridge and real sockets. */
async function bench(port: number, protocol: 'modbus-tcp' | 'modbus-rtu', slug: string) {
  const clock = realClock();
  const { client, leave } = bridgePair();
  ends.push(leave);
  const framing = framingOf(protocol);
  const sheet = shippedSheets().find((candidate) => candidate.slug === slug);
  const results: ExchangeResult[] = [];
  const closed: string[] = [];
  const runs: RunState[] = [];
  const master = new LineMaster(
    clock,
    new TcpPort(client, clock, '127.0.0.1', port, protocol === 'modbus-rtu' ? K1 : null),
    modbusKind(framing),
    [1, 3].map((station) => new ModbusControl(station, sheet ? indexSheet(sheet) : null, framing)),
    {
      entry: () => undefined,
      exchange: (result) => results.push(result),
      changed: () => undefined,
      procedure: (run) => runs.push(run),
      stop: () => undefined,
      closed: ({ kind }) => closed.push(kind),
    },
  );
  const why = await master.open();
  return {
    master,
    closed,
    runs,
    why,
    snapshot: (): LineSnapshot => master.snapshot(),
    async ask(bytes: Uint8Array, station: number): Promise<ExchangeResult> {
      const before = results.length;
      clock.catchUp();
      master.send(station, bytes, 'test', 1);
      await until(() => results.length > before, 5000);
      return results[before]!;
    },
  };
}

const read = (address: number, quantity: number): Uint8Array => {
  const built = TCP.encode({ unit: 1, fc: 3, address, quantity }, 'request');
  if (!built.ok) throw new Error(built.error[0]?.text);
  return built.value;
};

it('the bench reads the lift over Modbus TCP, and the line numbers its requests', async () => {
  const line = await bench(PORTS.E1, 'modbus-tcp', 'curlew');
  const first = await line.ask(read(2089, 1), 1);
  const second = await line.ask(read(2049, 2), 1);
  expect(first).toMatchObject({ outcome: 'answered', said: { values: [0x0250] } });
  expect(second).toMatchObject({ outcome: 'answered', said: { values: [402, 305] } });
  expect([first.asked?.transactionId, second.asked?.transactionId]).toEqual([1, 2]);
  expect(await line.ask(read(0, 1), 1)).toMatchObject({ outcome: 'exception', said: { exception: 2 } });
  await line.master.close();
});

it('the bench reads a drive through its device server, with RTU frames in the stream', async () => {
  const line = await bench(PORTS.K1, 'modbus-rtu', 'tern');
  expect(await line.ask(rtu('03 03 0182 0001'), 3)).toMatchObject({ outcome: 'answered', said: { unit: 3 } });
  expect((await line.ask(rtu('0B 03 0182 0001'), 11)).outcome).toBe('timeout');
  await line.master.close();
});

it('an independent master agrees with the stand-in (modbus-serial)', async () => {
  const master = new ModbusRTU();
  ends.push(() => new Promise<void>((resolve) => master.close(resolve)));
  await master.connectTCP('127.0.0.1', { port: PORTS.E1 });
  master.setID(1);
  expect((await master.readHoldingRegisters(2049, 2)).data).toEqual([402, 305]);
  await master.writeRegister(2108, 2500);
  await master.writeRegisters(2108, [2600, 75]);
  expect((await master.readHoldingRegisters(2108, 2)).data).toEqual([2600, 75]);
  await expect(master.writeRegister(2108, 9999)).rejects.toMatchObject({ modbusCode: 3 });
  await expect(master.writeRegister(2089, 1)).rejects.toMatchObject({ modbusCode: 2 });
});

it('an independent server agrees with the bench (modbus-serial)', async () => {
  const registers = new Map([[100, 0x1234]]);
  const server = new ServerTCP(
    {
      getHoldingRegister: (address: number) => registers.get(address) ?? 0,
      setRegister: (address: number, value: number) => {
        registers.set(address, value);
        return Promise.resolve();
      },
    },
    { host: '127.0.0.1', port: PORTS.E1 + 7, unitID: 1 },
  );
  ends.push(() => new Promise<void>((resolve) => server.close(() => resolve())));
  await new Promise((resolve) => server.on('initialized', resolve));
  const line = await bench(PORTS.E1 + 7, 'modbus-tcp', '');
  expect(await line.ask(read(100, 2), 1)).toMatchObject({ outcome: 'answered', said: { values: [0x1234, 0] } });
  const write = TCP.encode({ unit: 1, fc: 16, address: 100, quantity: 2, values: [7, 8] }, 'request');
  expect(await line.ask(write.ok ? write.value : read(0, 1), 1)).toMatchObject({ outcome: 'answered' });
  expect([registers.get(100), registers.get(101)]).toEqual([7, 8]);
  await line.master.close();
});

describe('a device server’s usual failure modes', () => {
  it('its limit of connections is reached: the second caller is closed at once, the first works on', async () => {
    const first = await bench(PORTS.K1, 'modbus-rtu', 'tern');
    const second = await bench(PORTS.K1, 'modbus-rtu', 'tern');
    await until(() => second.closed.length + (second.why ? 1 : 0) > 0);
    expect(['closed-by-far', 'reset']).toContain(second.closed[0] ?? second.why?.kind);
    expect((await first.ask(rtu('03 03 0182 0001'), 3)).outcome).toBe('answered');
    await first.master.close();
  });

  it('the other end closes: the line is closed, with the reason', async () => {
    const line = await bench(PORTS.E1, 'modbus-tcp', 'curlew');
    await yard.behave('E1', 'hangs-up');
    const lost = await line.ask(read(2089, 1), 1);
    expect(lost.outcome).toBe('closed');
    expect(['closed-by-far', 'reset']).toContain(line.closed[0]);
  });

  it('it is switched off while a person is asked to do so: the trial waits, and goes on when it is back', async () => {
    const line = await bench(PORTS.E1, 'modbus-tcp', 'curlew');
    const ask = { station: 1, bytes: read(2089, 1), text: 'it answers' };
    const person = {
      kind: 'person',
      text: 'off and on',
      question: 'Off and on',
      choices: [{ name: 'on', goesOn: true }],
    } as const;
    line.master.startProcedure(
      {
        kind: 'trial',
        title: 'power',
        station: 1,
        rounds: 1,
        standsStill: false,
        steps: [
          { ...ask, kind: 'request', needs: 'answer' },
          person,
          { ...ask, kind: 'return', fromUs: 0, everyUs: 100_000, withinUs: 20_000_000 },
          person,
          { ...ask, kind: 'request', needs: 'answer' },
        ],
      },
      'run',
    );
    const last = () => line.runs.at(-1);
    await until(() => last()?.at === 1);
    await yard.behave('E1', 'off');
    await until(() => line.closed.length > 0);
    expect(last()?.phase).toBe('running');
    line.master.tellProcedure('run', { kind: 'answer', said: 'on' });
    await yard.behave('E1', 'works');
    expect(await line.master.open()).toBeNull();
    await until(() => last()?.at === 3);
    // Nothing has told it that this time the line may go.
    await yard.behave('E1', 'off');
    await until(() => last()?.phase === 'over');
    expect(last()).toMatchObject({ end: 'lost', at: 3 });
  });

  it.each(['silent', 'vanished'] as const)('%s: the connection stands and nothing answers', async (behaviour) => {
    const line = await bench(PORTS.E1, 'modbus-tcp', 'curlew');
    expect((await line.ask(read(2089, 1), 1)).outcome).toBe('answered');
    await yard.behave('E1', behaviour);
    expect((await line.ask(read(2089, 1), 1)).outcome).toBe('timeout');
    expect(line.snapshot().open).toBe(true);
    await line.master.close();
  });

  it('off: refused', async () => {
    await yard.behave('E1', 'off');
    expect((await bench(PORTS.E1, 'modbus-tcp', 'curlew')).why?.kind).toBe('refused');
    await yard.behave('E1', 'works');
    expect((await bench(PORTS.E1, 'modbus-tcp', 'curlew')).why).toBeNull();
  });
});

it('a restart that is asked for over the network closes the connection and refuses new ones until the drive is up', async () => {
  const line = await bench(PORTS.E1, 'modbus-tcp', 'curlew');
  const restart = TCP.encode({ unit: 1, fc: 6, address: 2139, values: [1] }, 'request');
  expect((await line.ask(restart.ok ? restart.value : read(0, 1), 1)).outcome).toBe('answered');
  await until(() => line.closed.length > 0);
  expect((await bench(PORTS.E1, 'modbus-tcp', 'curlew')).why?.kind).toBe('refused');
  let up = false;
  for (let i = 0; i < 40 && !up; i++) {
    await new Promise((resolve) => setTimeout(resolve, 150));
    const again = await bench(PORTS.E1, 'modbus-tcp', 'curlew');
    up = again.why === null;
    await again.master.close();
  }
  expect(up).toBe(true);
});
