import { rtu } from '../../../tests/harness/line';
import { pairModbus } from './pairing';
import { readRtu } from './rtu';

const pair = (request: string, reply: string) =>
  pairModbus(readRtu(rtu(request), 'request').message!, readRtu(rtu(reply), 'response').message!);

it.each([
  ['03 03 0182 0002', '03 03 04 0001 0002', 'answer'],
  ['03 04 0182 0001', '03 04 02 0001', 'answer'],
  ['03 06 02C3 0F45', '03 06 02C3 0F45', 'answer'],
  ['03 10 0001 0002 04 000A 0102', '03 10 0001 0002', 'answer'],
  ['03 03 0182 0002', '03 83 02', 'exception'],
  ['03 06 02C3 0F45', '03 86 03', 'exception'],
  ['03 03 0182 0002', '07 03 04 0001 0002', 'other'],
  ['03 03 0182 0002', '03 04 04 0001 0002', 'other'],
  ['03 03 0182 0002', '03 03 02 0001', 'other'],
  ['03 03 0182 0002', '03 86 02', 'other'],
  ['03 06 02C3 0F45', '03 06 02C3 0F44', 'other'],
  ['03 06 02C3 0F45', '03 06 02C2 0F45', 'other'],
  ['03 10 0001 0002 04 000A 0102', '03 10 0001 0001', 'other'],
])('%s and %s: %s', (request, reply, kind) => {
  expect(pair(request, reply).kind).toBe(kind);
});

it('names what does not fit, and the code of an exception', () => {
  expect(pair('03 03 0182 0002', '07 03 04 0001 0002')).toEqual({
    kind: 'other',
    why: 'station 7 answered, 3 was asked',
  });
  expect(pair('03 03 0182 0002', '03 03 02 0001')).toEqual({
    kind: 'other',
    why: '1 register came, 2 were asked for',
  });
  expect(pair('03 03 0182 0002', '03 83 02')).toEqual({ kind: 'exception', code: 2 });
});
