import published from '../../../tests/published/modbus.json';
import { hex } from '../../../tests/harness/bytes';
import { rtu } from '../../../tests/harness/line';
import { bytesToHex } from '../bytes/hex';
import { encodeRtu } from './encode';
import type { Direction } from '../direction';
import { decodeWith } from './reading';
import { decodeRtu, readRtu, sealRtu } from './rtu';

const codes = (bytes: Uint8Array, direction?: Direction) => decodeRtu(bytes, direction).faults.map(({ code }) => code);

describe(published.source, () => {
  it.each(published.cases)('$name', ({ direction, pdu, message }) => {
    const bytes = rtu(`11 ${pdu}`);
    const reading = readRtu(bytes, direction as Direction);
    expect(reading.faults).toEqual([]);
    expect(reading.message).toEqual({ unit: 0x11, ...message });
    const built = encodeRtu({ unit: 0x11, ...message }, direction as Direction);
    expect(built.ok && bytesToHex(built.value)).toBe(bytesToHex(bytes));
  });
});

describe('direction of a sniffed frame', () => {
  it.each([
    ['03 read request', '03 03 0182 0004', 'request'],
    ['03 reply', '03 03 02 0001', 'response'],
    ['16 request', '03 10 02C1 0001 02 000D', 'request'],
    ['16 reply', '03 10 02C1 0001', 'response'],
    ['exception', '03 83 02', 'response'],
    ['06, which echoes', '03 06 02C3 0F45', 'either'],
  ])('%s', (_, frame, direction) => {
    expect(decodeRtu(rtu(frame)).direction).toBe(direction);
  });

  it('gives both readings where bytes leave it open', () => {
    expect(decodeRtu(rtu('03 06 02C3 0F45')).readings?.map((reading) => reading.direction)).toEqual([
      'request',
      'response',
    ]);
  });
});

describe('faults stand where they are', () => {
  it.each([
    ['nothing', '', 'request', 'too-short', 0, 0],
    ['three bytes', '030302', 'response', 'too-short', 0, 3],
    ['a wrong check', '0306 02C3 0F45 BDB0', 'request', 'checksum-mismatch', 6, 8],
    ['a reply cut in its values', '0303 08 2A0D 0000 001C', 'response', 'truncated', 3, 9],
    ['a reply cut before its check', '0303 02 2A0D', 'response', 'truncated', 5, 5],
    ['a reply cut inside its check', '0303 02 2A0D 5F', 'response', 'truncated', 5, 6],
    ['a request cut short', '0306 02C3', 'request', 'truncated', 4, 4],
  ] as const)('%s', (_, bytes, direction, code, start, end) => {
    const { faults } = readRtu(hex(bytes), direction);
    expect(faults).toHaveLength(1);
    expect(faults[0]).toMatchObject({ code, start, end });
  });

  it.each([
    ['bytes after the check', () => Uint8Array.from([...rtu('03 06 02C3 0F45'), 0, 0]), 'request', ['trailing-bytes']],
    ['a byte count that lies, with a good check', () => rtu('03 03 04 0001'), 'response', ['byte-count-mismatch']],
    ['an odd byte count', () => rtu('03 03 03 000102'), 'response', ['byte-count-mismatch']],
    ['a body too long for its function', () => rtu('03 06 02C3 0F45 00'), 'request', ['trailing-bytes']],
    [
      'a count that is not twice the quantity',
      () => rtu('03 10 0001 0002 02 0001'),
      'request',
      ['byte-count-mismatch'],
    ],
    ['quantity 0', () => rtu('03 03 0000 0000'), 'request', ['quantity-out-of-range']],
    ['quantity 126', () => rtu('03 03 0000 007E'), 'request', ['quantity-out-of-range']],
    ['the last register and one more', () => rtu('03 03 FFFF 0002'), 'request', ['address-overflow']],
    ['station 248', () => rtu('F8 03 0000 0001'), 'request', ['value-out-of-range']],
    ['a function that is not in the table', () => rtu('03 2A 0102'), 'request', ['unknown-function']],
    ['an exception bit in a request', () => rtu('03 83 02'), 'request', ['unknown-function']],
    ['257 bytes', () => rtu(`03 2A ${'00'.repeat(253)}`), 'request', ['unknown-function', 'too-long']],
  ] as const)('%s', (_, bytes, direction, expected) => {
    expect(codes(bytes(), direction)).toEqual([...expected]);
  });

  it('still tells what a damaged frame says', () => {
    expect(readRtu(hex('0306 02C3 0F45 0000'), 'request').message).toEqual({
      unit: 3,
      fc: 6,
      address: 0x2c3,
      values: [0x0f45],
    });
    expect(readRtu(hex('0303 08 2A0D 0000 001C'), 'response').message).toEqual({
      unit: 3,
      fc: 3,
      values: [0x2a0d, 0, 0x1c],
    });
  });

  it('names the check that the bytes give', () => {
    expect(readRtu(hex('0306 02C3 0F45 BDB0'), 'request').faults[0]?.text).toContain('these bytes give BD AF');
  });
});

describe('building keeps the limits of the standard', () => {
  it.each([
    ['125 registers', { unit: 1, fc: 3, address: 0, quantity: 125 }, null],
    ['126 registers', { unit: 1, fc: 3, address: 0, quantity: 126 }, 'quantity-out-of-range'],
    ['123 written', { unit: 1, fc: 16, address: 0, values: Array.from({ length: 123 }, () => 1) }, null],
    [
      '124 written',
      { unit: 1, fc: 16, address: 0, values: Array.from({ length: 124 }, () => 1) },
      'quantity-out-of-range',
    ],
    ['the last register', { unit: 1, fc: 3, address: 65535, quantity: 1 }, null],
    ['past the last register', { unit: 1, fc: 3, address: 65535, quantity: 2 }, 'address-overflow'],
    ['a value of 17 bits', { unit: 1, fc: 6, address: 0, values: [65536] }, 'value-out-of-range'],
    ['a negative value', { unit: 1, fc: 6, address: 0, values: [-1] }, 'value-out-of-range'],
    ['two values for one register', { unit: 1, fc: 6, address: 0, values: [1, 2] }, 'value-out-of-range'],
    ['no address', { unit: 1, fc: 3, quantity: 1 }, 'missing-field'],
    ['station 300', { unit: 300, fc: 3, address: 0, quantity: 1 }, 'value-out-of-range'],
    ['function 0', { unit: 1, fc: 0, dataHex: '' }, 'value-out-of-range'],
    ['an unknown function with its body', { unit: 1, fc: 100, dataHex: '0102' }, null],
    ['an unknown function without one', { unit: 1, fc: 100 }, 'missing-field'],
  ])('%s', (_, message, code) => {
    const built = encodeRtu(message, 'request');
    expect(built.ok ? null : built.error[0]?.code).toBe(code);
  });
});

it('sealing puts the right check behind any frame', () => {
  expect(bytesToHex(sealRtu(hex('0306 02C3 0F45 0000')), ' ')).toBe('03 06 02 c3 0f 45 bd af');
});

describe('a sniffed frame in its context', () => {
  const echo = rtu('03 06 02C3 0F45');
  const write = readRtu(echo, 'request').message!;
  const settle = (context: Parameters<typeof decodeWith>[3]) => decodeWith(readRtu, echo, undefined, context);

  it('without one it is either, both alike', () => {
    const { direction, readings } = settle(undefined);
    expect(direction).toBe('either');
    expect(readings?.map(({ likelihood }) => likelihood)).toEqual([0.5, 0.5]);
  });

  it('behind an open request of the same function it is the response', () => {
    const { direction, readings } = settle({ previous: { direction: 'request', message: write } });
    expect(direction).toBe('response');
    expect(readings?.[0]?.likelihood).toBeGreaterThan(0.9);
    expect(readings?.[0]?.because).toContain('stands open before it');
  });

  it('behind a response it is a request', () => {
    expect(settle({ previous: { direction: 'response', message: write } }).direction).toBe('request');
  });

  it('registers that the sheet knows speak for the request', () => {
    const coils = rtu('03 01 0300 0018');
    const known = decodeWith(readRtu, coils, undefined, { knows: (address) => address === 0x300 });
    expect(known.readings?.map(({ direction, likelihood }) => [direction, likelihood])).toEqual([
      ['request', 0.75],
      ['response', 0.25],
    ]);
  });
});
