import { hex } from '../../../tests/harness/bytes';
import { rtu } from '../../../tests/harness/line';
import { encodeRtu, encodeTcp } from './encode';
import { RTU } from './framing';
import { readRtu } from './rtu';
import type { ModbusMessage } from './message';
import { frameLengthAt } from './frame-length';

/** Limits of Modbus Application Protocol V1.1b3, section 6, at the edge and one beyond. */
const coils = (count: number) => Array.from({ length: count }, (_, i) => i % 2);
const words = (count: number) => Array.from({ length: count }, (_, i) => i);
const refs = (count: number) => Array.from({ length: count }, (_, i) => ({ file: 1, record: i, length: 1 }));

it.each<[string, ModbusMessage, 'request' | 'response', string | null]>([
  ['01: 2000 coils', { unit: 1, fc: 1, address: 0, quantity: 2000 }, 'request', null],
  ['01: 2001 coils', { unit: 1, fc: 1, address: 0, quantity: 2001 }, 'request', 'quantity-out-of-range'],
  ['02: no input', { unit: 1, fc: 2, address: 0, quantity: 0 }, 'request', 'quantity-out-of-range'],
  ['02: the last input', { unit: 1, fc: 2, address: 65535, quantity: 1 }, 'request', null],
  ['02: past the last input', { unit: 1, fc: 2, address: 65535, quantity: 2 }, 'request', 'address-overflow'],
  ['01 reply: 2000 coils', { unit: 1, fc: 1, coils: coils(2000) }, 'response', null],
  ['01 reply: 2001 coils', { unit: 1, fc: 1, coils: coils(2001) }, 'response', 'quantity-out-of-range'],
  ['03 reply: 125', { unit: 1, fc: 3, values: words(125) }, 'response', null],
  ['03 reply: 126', { unit: 1, fc: 3, values: words(126) }, 'response', 'quantity-out-of-range'],
  ['05: 0xFF00', { unit: 1, fc: 5, address: 0, rawValue: 0xff00 }, 'request', null],
  ['05: 0x0001', { unit: 1, fc: 5, address: 0, rawValue: 1 }, 'request', 'value-out-of-range'],
  ['05: two coils', { unit: 1, fc: 5, address: 0, coils: [1, 0] }, 'request', 'missing-field'],
  ['08/05 is reserved', { unit: 1, fc: 8, subFunction: 5, values: [0] }, 'request', 'value-out-of-range'],
  ['08/0B with data', { unit: 1, fc: 8, subFunction: 11, values: [1] }, 'request', 'value-out-of-range'],
  ['08/0B answered', { unit: 1, fc: 8, subFunction: 11, values: [1] }, 'response', null],
  ['08/01 with 0x0100', { unit: 1, fc: 8, subFunction: 1, values: [0x100] }, 'request', 'value-out-of-range'],
  ['08/03 with a low byte', { unit: 1, fc: 8, subFunction: 3, values: [0x0a01] }, 'request', 'value-out-of-range'],
  [
    '0C reply: 64 events',
    { unit: 1, fc: 12, status: 0, eventCount: 0, messageCount: 0, events: words(64) },
    'response',
    null,
  ],
  [
    '0C reply: 65 events',
    { unit: 1, fc: 12, status: 0, eventCount: 0, messageCount: 0, events: words(65) },
    'response',
    'quantity-out-of-range',
  ],
  ['0F: 1968 coils', { unit: 1, fc: 15, address: 0, coils: coils(1968) }, 'request', null],
  ['0F: 1969 coils', { unit: 1, fc: 15, address: 0, coils: coils(1969) }, 'request', 'quantity-out-of-range'],
  [
    '0F: a quantity that its coils do not have',
    { unit: 1, fc: 15, address: 0, quantity: 20, coils: coils(10) },
    'request',
    'byte-count-mismatch',
  ],
  ['0F: a coil of 2', { unit: 1, fc: 15, address: 0, coils: [2] }, 'request', 'value-out-of-range'],
  ['14: 35 references', { unit: 1, fc: 20, records: refs(35) }, 'request', null],
  ['14: 36 references', { unit: 1, fc: 20, records: refs(36) }, 'request', 'quantity-out-of-range'],
  ['14: none', { unit: 1, fc: 20, records: [] }, 'request', 'quantity-out-of-range'],
  ['14: file 0', { unit: 1, fc: 20, records: [{ file: 0, record: 1, length: 1 }] }, 'request', 'value-out-of-range'],
  ['14: record 9999', { unit: 1, fc: 20, records: [{ file: 1, record: 9999, length: 1 }] }, 'request', null],
  [
    '14: record 10000',
    { unit: 1, fc: 20, records: [{ file: 1, record: 10000, length: 1 }] },
    'request',
    'value-out-of-range',
  ],
  ['15: 122 registers', { unit: 1, fc: 21, records: [{ file: 1, record: 0, values: words(122) }] }, 'request', null],
  [
    '15: 123 registers',
    { unit: 1, fc: 21, records: [{ file: 1, record: 0, values: words(123) }] },
    'request',
    'quantity-out-of-range',
  ],
  [
    '17: 121 written',
    { unit: 1, fc: 23, readAddress: 0, readQuantity: 125, writeAddress: 0, values: words(121) },
    'request',
    null,
  ],
  [
    '17: 122 written',
    { unit: 1, fc: 23, readAddress: 0, readQuantity: 125, writeAddress: 0, values: words(122) },
    'request',
    'quantity-out-of-range',
  ],
  [
    '17: 126 read',
    { unit: 1, fc: 23, readAddress: 0, readQuantity: 126, writeAddress: 0, values: [1] },
    'request',
    'quantity-out-of-range',
  ],
  ['18 reply: 31 in the queue', { unit: 1, fc: 24, values: words(31) }, 'response', null],
  ['18 reply: 32 in the queue', { unit: 1, fc: 24, values: words(32) }, 'response', 'quantity-out-of-range'],
  ['2B/0E: read code 4', { unit: 1, fc: 43, meiType: 14, readCode: 4, objectId: 0x80 }, 'request', null],
  ['2B/0E: read code 5', { unit: 1, fc: 43, meiType: 14, readCode: 5, objectId: 0 }, 'request', 'value-out-of-range'],
  ['2B/01: no such transport', { unit: 1, fc: 43, meiType: 1, dataHex: '' }, 'request', 'value-out-of-range'],
  ['user-defined: a PDU of 253 bytes', { unit: 1, fc: 65, dataHex: '00'.repeat(252) }, 'request', null],
  ['user-defined: a PDU of 254 bytes', { unit: 1, fc: 65, dataHex: '00'.repeat(253) }, 'request', 'too-long'],
])('building %s', (_, message, direction, code) => {
  const built = encodeRtu(message, direction);
  expect(built.ok ? null : built.error[0]?.code).toBe(code);
});

it('a Modbus TCP frame of 260 bytes is built, one of 261 is not', () => {
  expect(encodeTcp({ unit: 1, fc: 65, dataHex: '00'.repeat(252) }, 'request').ok).toBe(true);
  expect(encodeTcp({ unit: 1, fc: 65, dataHex: '00'.repeat(253) }, 'request').ok).toBe(false);
});

describe('reading what breaks a limit', () => {
  it.each([
    ['01 request for 2001', '01 01 0000 07D1', 'request', 'quantity-out-of-range', 4, 6],
    ['05 with another word', '01 05 0000 FF01', 'request', 'value-out-of-range', 4, 6],
    ['0F whose count is one too many', '01 0F 0000 0008 02 0000', 'request', 'byte-count-mismatch', 6, 7],
    ['14 with a reference type of 7', '01 14 07 07 0001 0000 0001', 'request', 'value-out-of-range', 3, 4],
    ['14 reply with an odd record', '01 14 07 04 06 000001 01 06', 'response', 'byte-count-mismatch', 3, 4],
    ['11 with a run byte of 5', '01 11 02 2A 05', 'response', 'value-out-of-range', 4, 5],
    [
      '18 with a queue that its bytes do not have',
      '01 18 0006 0003 0001 0002',
      'response',
      'byte-count-mismatch',
      4,
      6,
    ],
    ['2B/0E with a flag of 1', '01 2B 0E 01 01 01 00 00', 'response', 'value-out-of-range', 5, 6],
    ['08/00 with half a word', '01 08 0000 A5', 'request', 'trailing-bytes', 4, 5],
  ] as const)('%s', (_, frame, direction, code, start, end) => {
    expect(readRtu(rtu(frame), direction).faults).toEqual([expect.objectContaining({ code, start, end })]);
  });

  it('a coil that is neither on nor off is still shown', () => {
    expect(readRtu(rtu('01 05 0007 1234'), 'request').message).toEqual({
      unit: 1,
      fc: 5,
      address: 7,
      rawValue: 0x1234,
    });
  });
});

describe('lengths before the frame is whole', () => {
  it.each([
    ['17 needs its count', '01 17 0003 0006 000E 0003', 'request', 11],
    ['17 with its count', '01 17 0003 0006 000E 0003 06', 'request', 19],
    ['18 counts in a word', '01 18 00', 'response', 4],
    ['18 with its count', '01 18 0006', 'response', 12],
    ['2B/0E walks over its objects', '01 2B 0E 01 01 00 00 01 00 03', 'response', 15],
    ['an exception of any known function', '01 AB', 'response', 5],
    ['a longer one than RTU allows', '01 18 0200', 'response', -1],
    ['no such function', '01 19', 'request', -1],
  ] as const)('%s', (_, bytes, direction, length) => {
    const there = hex(bytes);
    expect(frameLengthAt(there, 0, there.length, direction)).toBe(length);
  });

  it('08/00 ends where its check is good', () => {
    const echo = rtu('01 08 0000 A537 0001');
    expect(RTU.probe(echo, 0, echo.length, 'request')).toBe(echo.length);
    expect(RTU.probe(echo, 0, echo.length - 1, 'request')).toBe(0);
  });
});

it('zeros behind a frame of unknown length cost one look each, however many there are', () => {
  const frame = (zeros: number): Uint8Array => {
    const bytes = new Uint8Array(4 + zeros);
    bytes.set([0xff, 0xff]);
    return bytes;
  };
  // Two bytes of FF are their own good check; the law is that what is read does not depend on how many zeros follow.
  for (const zeros of [2, 3, 200, 200_000]) {
    const { shape } = readRtu(frame(zeros), 'request');
    expect([zeros, shape.checkGood, shape.end]).toEqual([zeros, true, 4]);
  }
}, 20_000);
