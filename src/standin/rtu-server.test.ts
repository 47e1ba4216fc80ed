import published from '../../tests/published/modbus.json';
import { ascii, hex } from '../../tests/harness/bytes';
import { rtu } from '../../tests/harness/line';
import { bytesToHex } from '../core/bytes/hex';
import { RtuServices } from './rtu-services';
import { bitwiseCrc, impersonate, serveFunction, serveRtu, type RegisterBank } from './rtu-server';

/** The registers that the standard's worked examples speak of. */
function bank(): RegisterBank & { readonly words: Map<number, number> } {
  const words = new Map([
    [107, 555],
    [108, 0],
    [109, 100],
    [8, 10],
    [1, 0],
    [2, 0],
    [4, 0x12],
  ]);
  return {
    words,
    read: (address) => words.get(address) ?? null,
    write: (address, values) => {
      if (values.some((_, i) => !words.has(address + i))) return 2;
      values.forEach((value, i) => words.set(address + i, value));
      return 0;
    },
  };
}

const serve = (frame: Uint8Array, station = 0x11): string | null => {
  const reply = serveRtu([...frame], station, bank());
  return reply && bytesToHex(reply);
};

it('its own CRC gives the catalogue’s check value 0x4B37', () => {
  expect(bitwiseCrc([...ascii('123456789')])).toBe(0x4b37);
});

/** What a drive with registers and nothing else answers; 17 has a test of its own, since its example wants another value at 8. */
const SERVED: ReadonlySet<number> = new Set([3, 4, 6, 8, 16, 22]);

const pairs = published.cases.flatMap(({ direction, name, pdu, message }, i) => {
  const next = published.cases[i + 1];
  return direction === 'request' && next && SERVED.has(message.fc) ? [{ name, request: pdu, response: next.pdu }] : [];
});

it.each(pairs)('answers the standard’s example: $name', ({ request, response }) => {
  expect(serve(rtu(`11 ${request}`))).toBe(bytesToHex(rtu(`11 ${response}`)));
});

it.each([
  ['an unknown function', '11 2A 0000', '11 AA 01'],
  ['a register that is not there', '11 03 0005 0001', '11 83 02'],
  ['a range that runs out', '11 03 FFFF 0002', '11 83 02'],
  ['quantity 0', '11 03 006B 0000', '11 83 03'],
  ['quantity 126', '11 03 006B 007E', '11 83 03'],
  ['a byte count that lies', '11 10 0001 0002 03 000A01', '11 90 03'],
  ['a write where no register is', '11 06 0009 0001', '11 86 02'],
])('refuses %s with the standard’s exception', (_, request, reply) => {
  expect(serve(rtu(request))).toBe(bytesToHex(rtu(reply)));
});

it.each([
  ['another station', rtu('12 03 006B 0003')],
  ['a wrong check', hex('1103006B00030000')],
  ['a stub', hex('1103')],
  ['a broadcast', rtu('00 06 0001 0003')],
])('says nothing to %s', (_, frame) => {
  expect(serve(frame)).toBeNull();
});

it('obeys a broadcast all the same', () => {
  const registers = bank();
  serveRtu([...rtu('00 06 0001 0003')], 0x11, registers);
  expect(registers.words.get(1)).toBe(3);
});

it('a foreign answer has a good check in the other’s name', () => {
  const reply = impersonate(rtu('11 03 02 000A'), 5);
  expect([reply[0], bitwiseCrc([...reply])]).toEqual([5, 0]);
});

describe('functions beside reading and writing registers', () => {
  const bankOf = (words: Record<number, number>) => ({
    read: (address: number) => words[address] ?? null,
    write: (address: number, list: readonly number[]) => {
      list.forEach((value, i) => (words[address + i] = value));
      return 0;
    },
  });

  it('16: AND F2 and OR 25 make 0x17 of 0x12 (Modbus Application Protocol V1.1b3, 6.16)', () => {
    const words = { 4: 0x12 };
    expect(serveFunction([0x16, 0, 4, 0, 0xf2, 0, 0x25], bankOf(words))).toEqual([0x16, 0, 4, 0, 0xf2, 0, 0x25]);
    expect(words[4]).toBe(0x17);
  });

  it('17 writes before it reads', () => {
    const words = { 3: 1, 4: 2 };
    expect(serveFunction([0x17, 0, 3, 0, 2, 0, 4, 0, 1, 2, 0, 9], bankOf(words))).toEqual([0x17, 4, 0, 1, 0, 9]);
  });

  it.each([
    ['08/00 echoes', [8, 0, 0, 0xa5, 0x37], [8, 0, 0, 0xa5, 0x37]],
    ['08/0B is refused', [8, 0, 11, 0, 0], [0x88, 1]],
    ['16 of no register', [0x16, 0, 9, 0, 0, 0, 0], [0x96, 2]],
    ['17 with a byte count that lies', [0x17, 0, 3, 0, 1, 0, 4, 0, 1, 4, 0, 9], [0x97, 3]],
  ])('%s', (_, pdu, reply) => {
    expect(serveFunction(pdu, bankOf({ 3: 1, 4: 2 }))).toEqual(reply);
  });
});

describe('services beside the registers', () => {
  const line = () => {
    const services = new RtuServices({ vendor: 'stand-in', product: 'Tern', revision: '212' });
    const own = bank();
    return (text: string): string | null => {
      const reply = serveRtu([...rtu(`11 ${text}`)], 0x11, own, services);
      return reply && bytesToHex(reply.slice(1, -2));
    };
  };

  it('exception status, counters, event counter and log as the standard tells them', () => {
    const ask = line();
    expect(ask('07')).toBe('0700');
    expect(ask('03 006B 0001')).toBe('0302022b');
    expect(ask('03 0FFF 0001')).toBe('8302');
    // 11: messages on the line; 13: exceptions; 14: answered by this station.
    expect([ask('08 000B 0000'), ask('08 000D 0000'), ask('08 000E 0000')]).toEqual([
      '08000b0004',
      '08000d0001',
      '08000e0005',
    ]);
    // Completed are 07, one read and three counters: neither the refusal nor polls of the event counter.
    expect([ask('0B'), ask('0B')]).toEqual(['0b00000005', '0b00000005']);
    expect(ask('0C')).toMatch(/^0c0f000000050009(?:80){8}00$/);
    expect(ask('08 000A 0000')).toBe('08000a0000');
    expect(ask('08 000D 0000')).toBe('08000d0000');
    expect([ask('08 0004 0000'), ask('08 000B 0001')]).toEqual(['8801', '8803']);
  });

  it('identity by 17 and by 43/14, all of it or one object', () => {
    const ask = line();
    expect(ask('11')).toBe(`110e${Buffer.from('stand-in Tern').toString('hex')}ff`);
    const objects = ['stand-in', 'Tern', '212'].map(
      (value, i) => `0${i}0${value.length.toString(16)}${Buffer.from(value).toString('hex')}`,
    );
    expect(ask('2B 0E 01 00')).toBe(`2b0e0181000003${objects.join('')}`);
    expect(ask('2B 0E 04 01')).toBe(`2b0e0481000001${objects[1]}`);
    expect([ask('2B 0E 04 07'), ask('2B 0D 00 00'), ask('2B 0E 05 00')]).toEqual(['ab02', 'ab01', 'ab03']);
  });
});
