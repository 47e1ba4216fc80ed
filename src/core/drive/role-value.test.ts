import { ratio } from '../scaling/rational';
import { emptySheet } from '../sheet/empty-sheet';
import { indexSheet } from '../sheet/index-sheet';
import type { Parameter } from '../sheet/parameter-section';
import { referenceCautions } from './reference-cautions';
import { rolePattern, roleValue } from './role-value';

const at = (address: number) => [{ kind: 'register' as const, table: 'holding-register' as const, address }];

/** A drive whose reference counts hundredths of a hertz, with one more entry. */
const withEntry = (entry: Omit<Parameter, 'number' | 'name' | 'at'>) =>
  indexSheet({
    ...emptySheet('a', 'A'),
    parameters: [
      {
        number: '1',
        name: 'reference',
        role: 'speed-reference',
        type: 'uint16',
        unit: 'Hz',
        scale: { kind: 'resolution', value: '0.01' },
        at: at(1),
      },
      { number: '2', name: 'other', at: at(2), ...entry },
    ],
  });

const ONE_HZ = { kind: 'resolution', value: '1' } as const;

// Counts by hand: 50 Hz is 5000 hundredths, 50 of one hertz, 0x0500 as decimal digits of tenths.
it.each<[string, Omit<Parameter, 'number' | 'name' | 'at'>, number, number | null]>([
  ['counted as the reference where it says no scale', { role: 'maximum-speed', type: 'uint16' }, 5000, 50],
  ['by its own scale', { role: 'maximum-speed', type: 'uint16', unit: 'Hz', scale: ONE_HZ }, 50, 50],
  [
    'by its own digits',
    { role: 'maximum-speed', type: 'bcd16', unit: 'Hz', scale: { kind: 'resolution', value: '0.1' } },
    0x0500,
    50,
  ],
  ['not held against another unit', { role: 'maximum-speed', type: 'uint16', unit: 'rpm', scale: ONE_HZ }, 1500, null],
  ['a time in its own unit', { role: 'ramp-time', type: 'uint16', unit: 's', scale: ONE_HZ }, 7, 7],
  ['digits that are none', { role: 'ramp-time', type: 'bcd16', unit: 's', scale: ONE_HZ }, 0x0a00, null],
])('%s', (_, entry, pattern, value) => {
  const index = withEntry(entry);
  expect(roleValue(index, entry.role ?? 'actual-speed', pattern)).toEqual(value === null ? null : ratio(BigInt(value)));
});

it('what was seen goes before what leaves the factory, and a default is a pattern of its type', () => {
  const index = withEntry({ role: 'maximum-speed', type: 'int16', default: -2 });
  expect(rolePattern(index, 'maximum-speed', 7)).toBe(7);
  expect(rolePattern(index, 'maximum-speed', undefined)).toBe(0xfffe);
  expect(rolePattern(index, 'minimum-speed', undefined)).toBeUndefined();
});

it('a limit with a scale of its own is not taken for one in counts of the reference', () => {
  const index = withEntry({ role: 'maximum-speed', type: 'uint16', unit: 'Hz', scale: ONE_HZ, default: 50 });
  const cautions = (hz: bigint): readonly string[] => referenceCautions(index, ratio(hz), () => undefined);
  expect(cautions(49n)).toEqual([]);
  expect(cautions(51n)).toEqual([expect.stringContaining('Above the drive’s maximum speed: it turns at 50 Hz')]);
});
