import { shippedIndex } from '../../../tests/harness/sheets';
import type { LineTiming } from '../line/budget';
import { framingOf, RTU } from '../modbus/framing';
import { lineCycle } from './line-cycle';

const E81_19200: LineTiming = {
  kind: 'modbus-rtu',
  settings: { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 },
};
const fan = { station: 3, name: 'fan', index: shippedIndex('tern') };
const axis = { station: 9, name: 'axis', index: shippedIndex('curlew') };
const CHARACTER_US = (11 / 19200) * 1e6;
const GAP_US = 3.5 * CHARACTER_US;

// Modbus Application Protocol V1.1b3, 6.12, 6.3, 6.17: a write of n registers has 7 + 2 n bytes with address and check 9 + 2 n, its answer 8; a read 8, its answer
// 5 + 2 n; 23 has 13 + 2 n, its answer 5 + 2 n. Modbus over Serial Line V1.02, 2.5.1.1: 11 bits a character, 3.5 characters of silence.
it.each([
  ['two', [9 + 2 * 3, 8, 8, 5 + 2 * 5], 2],
  ['one', [13 + 2 * 3, 5 + 2 * 5], 1],
] as const)(
  'a drive’s share by %s: its bytes at their rate, its delay, the silence behind each answer',
  (way, bytes, exchanges) => {
    const { drives, us, own } = lineCycle(E81_19200, [fan], way, RTU, 5_000);
    const wire = bytes.reduce((sum, one) => sum + one, 0) * CHARACTER_US;
    expect(drives).toEqual([
      {
        station: 3,
        name: 'fan',
        out: 6,
        in: 10,
        exchanges,
        us: expect.closeTo(wire + exchanges * (5_000 + GAP_US), 3) as number,
      },
    ]);
    const requests = bytes.filter((_, i) => i % 2 === 0).reduce((sum, one) => sum + one, 0) * CHARACTER_US;
    expect(own).toBeCloseTo(requests / us, 9);
  },
);

it('a second drive adds what it takes itself; the order does not matter, and a drive without a sheet is named', () => {
  const of = (...drives: Parameters<typeof lineCycle>[1]) => lineCycle(E81_19200, drives, 'two', RTU, 5_000);
  expect(of(fan, axis).us).toBeCloseTo(of(fan).us + of(axis).us, 6);
  expect(of(axis, fan).us).toBeCloseTo(of(fan, axis).us, 6);
  const { left, us } = of(fan, { station: 12, name: 'flap', index: null });
  expect(left).toEqual([{ station: 12, name: 'flap', why: 'the bench has no sheet of it' }]);
  expect(us).toBeCloseTo(of(fan).us, 6);
  expect(of()).toEqual({ drives: [], us: 0, own: 0, left: [] });
});

it('over a network each exchange is a round trip; a USS telegram is as long as its answer', () => {
  const tcp = lineCycle({ kind: 'modbus-tcp', roundTripUs: 2_000 }, [fan], 'two', framingOf('modbus-tcp') ?? RTU, 0);
  expect([tcp.us, tcp.own]).toEqual([4_000, 0]);
  const settings = { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 } as const;
  const hoist = { station: 4, name: 'hoist', index: shippedIndex('dunlin') };
  const uss = lineCycle({ kind: 'uss', settings }, [hoist], 'two', RTU, 20_000);
  // Four words of channel and two of process data, with STX, LGE, ADR and BCC 16 bytes each way; two characters before a telegram (from memory).
  expect(uss.us).toBeCloseTo((2 * 16 + 2) * (11 / 38400) * 1e6 + 20_000, 3);
});
