import { cellsText } from './cells-text';
import { emptySheet } from '../sheet/empty-sheet';
import { indexSheet } from '../sheet/index-sheet';
import type { Parameter } from '../sheet/parameter-section';

const text = (
  entry: Partial<Parameter>,
  words: readonly number[],
  known?: (number: string) => number | undefined,
): string => {
  const at = [{ kind: 'register' as const, table: 'holding-register' as const, address: 10 }];
  const index = indexSheet({
    ...emptySheet('a', 'A'),
    parameters: [{ number: '1', name: 'entry', type: 'uint16', at, ...entry }],
  });
  const [parameter] = index.parameters;
  if (!parameter) throw new Error('not placed');
  return cellsText(index, parameter, words, known);
};

// Patterns of IEEE 754-2019 binary64 (1.5 = 3FF8…, 0.1 = 3FB999999999999A) and of two's complement.
it.each<[Partial<Parameter>, readonly number[], string]>([
  [{ type: 'uint64' }, [0xffff, 0xffff, 0xffff, 0xffff], '18446744073709551615'],
  [{ type: 'int64', unit: 'counts' }, [0xffff, 0xffff, 0xffff, 0xfffe], '−2 counts'],
  [{ type: 'uint64', order: 'GHEFCDAB' }, [1, 0, 0, 0], '1'],
  [{ type: 'float64', unit: 's' }, [0x3ff8, 0, 0, 0], '1.5 s'],
  [{ type: 'float64' }, [0x3fb9, 0x9999, 0x9999, 0x999a], '0.1'],
  [{ type: 'text', size: 3 }, [0x4142, 0x430a, 0], '“ABC·”'],
  [{ type: 'bytes', size: 2 }, [0x00ff, 0x1200], '00 ff 12 00'],
  [{ type: 'int32', order: 'CDAB' }, [0xfffe, 0xffff], '−2'],
  [{ type: 'uint16', unit: 'V' }, [400], '400 V'],
])('%j of %j is %s', (entry, words, shown) => {
  expect(text(entry, words)).toBe(shown);
});

const BY_DECIMALS = {
  unit: 'Hz',
  scale: {
    kind: 'by' as const,
    parameter: '2',
    cases: [
      { value: 0, one: '1' },
      { value: 2, one: '0.01' },
    ],
  },
};

it.each<[number | undefined, string]>([
  [2, '1234 = 12.34 Hz'],
  [0, '1234 Hz'],
  [7, '1234 counts of a size that 2 sets'],
  [undefined, '1234 counts of a size that 2 sets'],
])('what a count is hangs on another entry: where that is %s, 1234 is %s', (decimals, shown) => {
  expect(text(BY_DECIMALS, [1234], (number) => (number === '2' ? decimals : undefined))).toBe(shown);
});

it('tells each field of a word', () => {
  const fields = [
    { name: 'left', bit: 8, bits: 8 },
    { name: 'right', bit: 0, bits: 8, choices: [{ value: 5, name: 'stop' }] },
  ];
  expect(text({ fields }, [0x0305])).toBe('773 = 0x0305: left 3, right stop');
});
