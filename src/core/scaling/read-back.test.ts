import type { ScalingChain } from './chain';
import { ratio } from './rational';
import { asSingle, readBack } from './read-back';

const chain: ScalingChain = {
  unit: 'rpm',
  steps: [{ kind: 'resolution', value: '1' }],
  rounding: 'nearestHalfUp',
  word: { bits: 32, signed: true },
};

it('a single-precision float is what IEEE 754 makes of it', () => {
  for (const value of [16_777_217, 104_857_600, 123_456_789, -16_777_217, 2_147_483_647, 5])
    expect(asSingle(BigInt(value))).toBe(BigInt(Math.fround(value)));
});

it.each<[string, bigint, bigint, 'same' | 'within-resolution' | 'differs', RegExp]>([
  ['nothing', 100n, 100n, 'same', /^$/],
  // Both from common practice, no source.
  ['a float', 16_777_217n, 16_777_216n, 'within-resolution', /single-precision/],
  ['a grain of 8', 104_857_600n, 104_857_592n, 'within-resolution', /multiples of 8 /],
  ['one count', 3909n, 3908n, 'within-resolution', /one count/],
  ['a lost sign', -5n, 65_531n, 'differs', /another sign/],
  ['swapped halves', 0x0001_0002n, 0x0002_0001n, 'differs', /halves are swapped/],
  ['a turned sign', 1200n, -1200n, 'differs', /sign is turned round/],
  ['something else', 1200n, 777n, 'differs', /no rounding explains 777/],
])('%s', (_, written, read, verdict, text) => {
  const found = readBack(chain, BigInt.asUintN(32, written), BigInt.asUintN(32, read));
  expect(found.verdict).toBe(verdict);
  expect(found.text).toMatch(text);
});

it('does not cry mismatch within the drive’s own resolution', () => {
  expect(readBack(chain, 3909n, 3897n, ratio(12n))).toMatchObject({
    verdict: 'within-resolution',
    text: /12 rpm/,
  });
  expect(readBack(chain, 3909n, 3890n, ratio(12n)).verdict).toBe('differs');
});
