import fc from 'fast-check';
import { fromBase64, toBase64 } from './base64';

// RFC 4648, section 10: the test vectors.
it.each([
  ['', ''],
  ['f', 'Zg=='],
  ['fo', 'Zm8='],
  ['foo', 'Zm9v'],
  ['foob', 'Zm9vYg=='],
  ['fooba', 'Zm9vYmE='],
  ['foobar', 'Zm9vYmFy'],
])('“%s” is %s', (text, base64) => {
  const bytes = new TextEncoder().encode(text);
  expect(toBase64(bytes)).toBe(base64);
  expect([...fromBase64(base64)]).toEqual([...bytes]);
});

it('any bytes are as the platform’s own Buffer has them, and come back', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
      const text = toBase64(bytes);
      expect(text).toBe(Buffer.from(bytes).toString('base64'));
      expect([...fromBase64(text)]).toEqual([...bytes]);
    }),
  );
  const large = Uint8Array.from({ length: 100_000 }, (_, i) => (i * 7) % 256);
  expect(toBase64(large)).toBe(Buffer.from(large).toString('base64'));
});

it('what is no base64 holds nothing', () => {
  expect([...fromBase64('a b<')]).toEqual([]);
});
