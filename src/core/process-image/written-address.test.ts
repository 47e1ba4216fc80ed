import type { NamedItem } from './controller';
import type { ItemType } from './image';
import { writtenAddress } from './written-address';

const item = (type: ItemType, byte: number, bit?: number): NamedItem => ({
  name: 'speed, actual',
  what: '',
  type,
  byte,
  ...(bit === undefined ? {} : { bit }),
});
const INPUTS = { area: 'I', start: 256, counts: 'bytes' } as const;
const OUTPUTS = { area: 'Q', start: 0, counts: 'bytes' } as const;

/** References count registers from 1 behind the digit of their table (as the `notations` verb has them, which is checked by itself). */
it.each([
  [INPUTS, item('uint16', 0), '30129'],
  [INPUTS, item('int32', 2), '30130'],
  [INPUTS, item('bool', 0, 3), '30129.11'],
  [INPUTS, item('bool', 1, 3), '30129.3'],
  [INPUTS, item('uint8', 0), '30129 high byte'],
  [OUTPUTS, item('int8', 3), '40002 low byte'],
  [{ ...OUTPUTS, start: 19_998 }, item('uint16', 0), '410000'],
])('%j: %j is in register %s', (place, own, text) => {
  expect(writtenAddress('register', place, own, 'b')).toEqual({ ok: true, value: text });
});

it('says why a form cannot write an address, and each of them writes what it can', () => {
  expect(writtenAddress('register', INPUTS, item('uint16', 1), 'b')).toEqual({
    ok: false,
    error: 'byte 257 begins within a register',
  });
  expect(writtenAddress('register', { ...OUTPUTS, start: 131_072 }, item('uint16', 0), 'b')).toEqual({
    ok: false,
    error: 'byte 131072 lies behind the last register',
  });
  expect(writtenAddress('tag', INPUTS, item('uint16', 0), 'E2 gateway')).toEqual({
    ok: true,
    value: 'E2_gateway.speed_actual',
  });
  expect(writtenAddress('direct', INPUTS, item('bool', 1, 3), 'b')).toEqual({ ok: true, value: '%IX257.3' });
});
