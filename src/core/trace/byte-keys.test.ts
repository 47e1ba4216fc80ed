import { seededRandom, pick } from '../random/random';
import { ByteKeys } from './byte-keys';

const random = seededRandom(4);
const key = (): Uint8Array => Uint8Array.from({ length: pick(random, 5) }, () => pick(random, 9));

it('gives what a map of the keys written out gives', () => {
  const keys = new ByteKeys();
  const plain = new Map<string, number>();
  for (let i = 1; i <= 20_000; i++) {
    const bytes = key();
    const known = plain.get(bytes.join(' ')) ?? 0;
    expect(keys.find(bytes, bytes.length)).toBe(known);
    if (known > 0) continue;
    plain.set(bytes.join(' '), i);
    keys.keep(bytes, bytes.length, i);
  }
  expect(plain.size).toBeGreaterThan(3000);
});

it('keeps a copy: what it was taken from may change', () => {
  const keys = new ByteKeys();
  const bytes = Uint8Array.of(1, 2, 3, 4);
  expect(keys.find(bytes, 3)).toBe(0);
  keys.keep(bytes, 3, 7);
  bytes[0] = 9;
  expect(keys.find(bytes, 3)).toBe(0);
  expect(keys.find(Uint8Array.of(1, 2, 3), 3)).toBe(7);
  expect(keys.find(Uint8Array.of(1, 2, 3, 4), 4)).toBe(0);
});

it.each([
  ['keys', 4],
  ['bytes', 900],
])('keeps no more %s than there is room for, and still finds what it has', (_, length) => {
  const keys = new ByteKeys();
  const bytes = new Uint8Array(length);
  const view = new DataView(bytes.buffer);
  let kept = 0;
  for (let i = 0; i < 200_000; i++) {
    view.setUint32(0, i);
    if (keys.find(bytes, length) !== 0) throw new Error(`key ${i} was never kept`);
    keys.keep(bytes, length, i + 1);
    if (keys.find(bytes, length) === i + 1) kept++;
    else break;
  }
  expect(kept).toBeGreaterThan(10_000);
  expect(kept).toBeLessThan(200_000);
  view.setUint32(0, kept - 1);
  expect(keys.find(bytes, length)).toBe(kept);
});
