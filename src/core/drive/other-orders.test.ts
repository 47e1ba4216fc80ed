import { indexSheet } from '../sheet/index-sheet';
import { emptySheet } from '../sheet/empty-sheet';
import type { Parameter } from '../sheet/parameter-section';
import { otherOrders } from './other-orders';

function readings(parameter: Partial<Parameter>, words: readonly number[], shows: string) {
  const entry: Parameter = {
    number: '1',
    name: 'value',
    type: 'int32',
    at: [{ kind: 'register', table: 'holding-register', address: 100 }],
    ...parameter,
  };
  const index = indexSheet({ ...emptySheet('x', 'X'), parameters: [entry] });
  return otherOrders(index, index.byNumber.get('1')!, words, shows);
}
const told = (list: ReturnType<typeof readings>) => list.map(({ order, agrees }) => [order, agrees]);

// IEEE 754: 49.98 as binary32 is 4247EB85h.
it('the order that makes of the words what the display shows comes first', () => {
  const [best, ...others] = readings({ type: 'float32', unit: 'Hz' }, [0xeb85, 0x4247], '50.0');
  expect(best).toMatchObject({ order: 'CDAB', text: '49.98 Hz', agrees: true, isPlausible: true, isNow: false });
  expect(others.map(({ agrees }) => agrees)).toEqual([false, false, false]);
  expect(others.find(({ order }) => order === 'ABCD')?.isNow).toBe(true);
});

it('the scale of the entry counts, and the places that the display shows', () => {
  const scale = { kind: 'resolution', value: '0.01' } as const;
  expect(told(readings({ scale, unit: 'A' }, [0x0000, 0x3039], '123.5 A'))[0]).toEqual(['ABCD', true]);
  expect(told(readings({ scale, unit: 'A' }, [0x0000, 0x3039], '123.3 A'))[0]).toEqual(['ABCD', false]);
  expect(told(readings({ scale, unit: 'A' }, [0x3039, 0x0000], '123.45'))[0]).toEqual(['CDAB', true]);
});

it('without a display the plausible come first, and nothing is said to agree', () => {
  const list = readings({ type: 'float32' }, [0x0000, 0x4248], '');
  expect(list[0]).toMatchObject({ order: 'CDAB', text: '50', agrees: null, isPlausible: true });
  expect(list.find(({ order }) => order === 'ABCD')).toMatchObject({ isPlausible: false });
});

it('64 bits have their own orders; one register, texts and half values have none', () => {
  expect(told(readings({ type: 'int64' }, [0, 0, 1, 0xe240], '123456'))[0]).toEqual(['ABCDEFGH', true]);
  expect(readings({ type: 'uint16' }, [1], '1')).toEqual([]);
  expect(readings({ type: 'text', size: 2 }, [0x4142, 0x4344], 'AB')).toEqual([]);
  expect(readings({ type: 'int32' }, [1], '1')).toEqual([]);
  expect(told(readings({ type: 'bcd32' }, [0x5678, 0x1234], '12345678'))[0]).toEqual(['CDAB', true]);
});
