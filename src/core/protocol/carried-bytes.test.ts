import { RTU } from '../modbus/framing';
import type { ModbusMessage } from '../modbus/message';
import { encodeUss } from '../uss/encode';
import { carriedBytes } from './carried-bytes';
import { modbusProtocol } from './modbus-protocol';
import { ussProtocol } from './uss-protocol';

const modbus = modbusProtocol(RTU);
const made = (message: ModbusMessage, direction: 'request' | 'response'): Uint8Array => {
  const frame = RTU.encode(message, direction);
  if (!frame.ok) throw new Error(frame.error[0]!.text);
  return frame.value;
};
const carried = (asked: ModbusMessage, said: ModbusMessage | null) => {
  const { out, in: back } = carriedBytes(modbus, made(asked, 'request'), said && made(said, 'response'));
  return [out && Array.from(out), back && Array.from(back)];
};

// Modbus Application Protocol V1.1b3: 6.3, 6.6, 6.12, 6.16, 6.17, 6.11.
it.each<[string, ModbusMessage, ModbusMessage | null, readonly (readonly number[] | null)[]]>([
  ['a read', { unit: 1, fc: 3, address: 0, quantity: 1 }, { unit: 1, fc: 3, values: [0x1234] }, [null, [0x12, 0x34]]],
  ['a read of no answer', { unit: 1, fc: 3, address: 0, quantity: 1 }, null, [null, null]],
  ['a refused one', { unit: 1, fc: 3, address: 0, quantity: 1 }, { unit: 1, fc: 3, exception: 2 }, [null, null]],
  [
    'a write',
    { unit: 1, fc: 16, address: 0, quantity: 2, values: [1, 0x0203] },
    { unit: 1, fc: 16, address: 0, quantity: 2 },
    [[0, 1, 2, 3], null],
  ],
  [
    'both at once',
    { unit: 1, fc: 23, readAddress: 0, readQuantity: 1, writeAddress: 5, values: [7] },
    { unit: 1, fc: 23, values: [8] },
    [
      [0, 7],
      [0, 8],
    ],
  ],
  [
    'a mask write, whose word nobody knows',
    { unit: 1, fc: 22, address: 4, andMask: 0xf2, orMask: 0x25 },
    { unit: 1, fc: 22, address: 4, andMask: 0xf2, orMask: 0x25 },
    [null, null],
  ],
  [
    'coils, which are no words',
    { unit: 1, fc: 15, address: 0, quantity: 3, coils: [1, 0, 1] },
    { unit: 1, fc: 15, address: 0, quantity: 3 },
    [null, null],
  ],
])('%s', (_, asked, said, bytes) => {
  expect(carried(asked, said)).toEqual(bytes);
});

it('of USS the process data, without the parameter channel', () => {
  const telegram = encodeUss({ address: 3, pkwWords: 4, pzd: [0x047f, 0x1000] });
  if (!telegram.ok) throw new Error('not built');
  const { out } = carriedBytes(ussProtocol(null), telegram.value, null);
  expect(out && Array.from(out)).toEqual([0x04, 0x7f, 0x10, 0x00]);
});
