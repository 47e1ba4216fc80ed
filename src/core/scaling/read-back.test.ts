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
  ['another byte order', 0x0102_0304n, 0x0403_0201n, 'differs', /the order DCBA/],
  ['bytes swapped in both words', 0x0102_0304n, 0x0201_0403n, 'differs', /the order BADC/],
  ['sign and magnitude', -5n, 0x8000_0005n, 'differs', /sign and magnitude/],
  ['a clamp', 40_000n, 32_767n, 'differs', /clamped/],
  ['ten times', 1750n, 17_500n, 'differs', /^10 times as much/],
  ['a tenth, cut', 1758n, 175n, 'differs', /^a 10th of it/],
  ['another full scale', 5_000n, 8_192n, 'differs', /as 10000 is to 16384/],
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
