/** @jest-environment node */
import { EventEmitter } from 'node:events';
import ModbusRTU from 'modbus-serial';
import { bytesToHex } from '../src/core/bytes/hex';
import { encodeRtu } from '../src/core/modbus/encode';
import type { ModbusMessage } from '../src/core/modbus/message';
import { readRtu } from '../src/core/modbus/rtu';

/**
 * An independent library asks, and what it writes must be what this program would write and read; what this program answers, the library must
 * understand. Every function that it supports.
 */
class Line extends EventEmitter {
  isOpen = true;
  _transactionIdWrite = 1;
  _transactionIdRead = 1;
  readonly asked: Uint8Array[] = [];
  reply: Uint8Array = new Uint8Array(0);

  open(done: () => void): void {
    done();
  }

  close(done: () => void): void {
    done();
  }

  write(bytes: Uint8Array): void {
    this.asked.push(Uint8Array.from(bytes));
    setImmediate(() => this.emit('data', Buffer.from(this.reply)));
  }
}

const built = (message: ModbusMessage, direction: 'request' | 'response'): Uint8Array => {
  const bytes = encodeRtu(message, direction);
  if (!bytes.ok) throw new Error(bytes.error[0]?.text);
  return bytes.value;
};

type Done = (error: Error | null, data?: unknown) => void;

/** Functions that its typed interface leaves out, or has for itself only. */
interface Hidden {
  open(done: () => void): void;
  writeFC17(unit: number, address: number, length: number, done: Done): void;
  writeFC22(unit: number, address: number, and: number, or: number, done: Done): void;
  writeFC23(unit: number, from: number, count: number, to: number, many: number, values: number[], done: Done): void;
}
type Client = Omit<ModbusRTU, keyof Hidden> & Hidden;

const told = (ask: (done: Done) => void): Promise<unknown> =>
  new Promise((resolve, reject) => ask((error, data) => (error ? reject(error) : resolve(data))));

async function exchange(
  ask: (client: Client) => Promise<unknown>,
  reply: ModbusMessage,
): Promise<{ readonly asked: Uint8Array; readonly told: unknown }> {
  const line = new Line();
  line.reply = built(reply, 'response');
  const client = new ModbusRTU(line) as unknown as Client;
  await new Promise<void>((resolve) => client.open(resolve));
  client.setID(9);
  client.setTimeout(500);
  const answer = await ask(client).catch((error: unknown) => error);
  return { asked: line.asked[0] ?? new Uint8Array(0), told: answer };
}

const bits = [1, 0, 1, 1, 0, 0, 1, 0];

it.each<[string, (client: Client) => Promise<unknown>, ModbusMessage, ModbusMessage, object]>([
  [
    '01',
    (c) => c.readCoils(19, 8),
    { unit: 9, fc: 1, address: 19, quantity: 8 },
    { unit: 9, fc: 1, coils: bits },
    { data: bits.map((bit) => bit === 1) },
  ],
  [
    '02',
    (c) => c.readDiscreteInputs(19, 8),
    { unit: 9, fc: 2, address: 19, quantity: 8 },
    { unit: 9, fc: 2, coils: bits },
    { data: bits.map((bit) => bit === 1) },
  ],
  [
    '03',
    (c) => c.readHoldingRegisters(7, 2),
    { unit: 9, fc: 3, address: 7, quantity: 2 },
    { unit: 9, fc: 3, values: [1, 65535] },
    { data: [1, 65535] },
  ],
  [
    '04',
    (c) => c.readInputRegisters(7, 2),
    { unit: 9, fc: 4, address: 7, quantity: 2 },
    { unit: 9, fc: 4, values: [1, 65535] },
    { data: [1, 65535] },
  ],
  [
    '05',
    (c) => c.writeCoil(172, true),
    { unit: 9, fc: 5, address: 172, coils: [1] },
    { unit: 9, fc: 5, address: 172, coils: [1] },
    { address: 172, state: true },
  ],
  [
    '06',
    (c) => c.writeRegister(7, 258),
    { unit: 9, fc: 6, address: 7, values: [258] },
    { unit: 9, fc: 6, address: 7, values: [258] },
    { address: 7, value: 258 },
  ],
  [
    '0F',
    (c) => c.writeCoils(19, bits.map(Boolean)),
    { unit: 9, fc: 15, address: 19, coils: bits },
    { unit: 9, fc: 15, address: 19, quantity: 8 },
    { address: 19, length: 8 },
  ],
  [
    '10',
    (c) => c.writeRegisters(7, [1, 2]),
    { unit: 9, fc: 16, address: 7, values: [1, 2] },
    { unit: 9, fc: 16, address: 7, quantity: 2 },
    { address: 7, length: 2 },
  ],
  [
    '2B/0E',
    (c) => c.readDeviceIdentification(1, 0),
    { unit: 9, fc: 43, meiType: 14, readCode: 1, objectId: 0 },
    {
      unit: 9,
      fc: 43,
      meiType: 14,
      readCode: 1,
      conformity: 1,
      moreFollows: false,
      nextObjectId: 0,
      objects: [{ id: 0, hex: '414243' }],
    },
    { data: { 0: 'ABC' } },
  ],
  [
    '11',
    (c) => told((done) => c.writeFC17(9, 0, 0, done)),
    { unit: 9, fc: 17 },
    { unit: 9, fc: 17, serverIdHex: '2aff', running: true },
    { serverId: 0x2a, running: true },
  ],
  [
    '16',
    (c) => told((done) => c.writeFC22(9, 4, 0xf2, 0x25, done)),
    { unit: 9, fc: 22, address: 4, andMask: 0xf2, orMask: 0x25 },
    { unit: 9, fc: 22, address: 4, andMask: 0xf2, orMask: 0x25 },
    { address: 4, andMask: 0xf2, orMask: 0x25 },
  ],
  [
    '17',
    (c) => told((done) => c.writeFC23(9, 3, 2, 14, 2, [255, 1], done)),
    { unit: 9, fc: 23, readAddress: 3, readQuantity: 2, writeAddress: 14, values: [255, 1] },
    { unit: 9, fc: 23, values: [254, 2765] },
    { data: [254, 2765] },
  ],
])(
  '%s: what the library asks is what is built here, and it understands the answer',
  async (_, ask, request, reply, wanted) => {
    const exchanged = await exchange(ask, reply);
    expect(bytesToHex(exchanged.asked)).toBe(bytesToHex(built(request, 'request')));
    expect(readRtu(exchanged.asked, 'request').faults).toEqual([]);
    expect(exchanged.told).toMatchObject(wanted);
  },
);

it('a refusal is an error to the library, with the same code', async () => {
  const { told: answer } = await exchange((client) => client.readHoldingRegisters(7, 2), {
    unit: 9,
    fc: 3,
    exception: 2,
  });
  expect(answer).toMatchObject({ modbusCode: 2 });
});
