import fc from 'fast-check';
import { bytesToHex, hexToBytes } from './hex';
import { parseBytes } from './notation';

const READ = '03 06 02 43 0f 45';

it.each([
  ['hex pairs', '03 06 02 43 0F 45', 'hex'],
  ['one run of hex', '030602430F45', 'hex'],
  ['words of hex', '0306 0243 0F45', 'hex'],
  ['0x with commas', '0x03,0x06,0x02,0x43,0x0F,0x45', 'prefixed'],
  ['long 0x', '0x030602430F45', 'prefixed'],
  ['trailing h', '03h 06h 02h 43h 0Fh 45h', 'suffixed'],
  ['16# of IEC 61131-3', '16#03 16#06 16#02 16#43 16#0F 16#45', 'prefixed'],
  ['colons', '03:06:02:43:0F:45', 'hex'],
  ['dashes', '03-06-02-43-0f-45', 'hex'],
  ['decimal', '3, 6, 2, 67, 15, 69', 'decimal'],
  ['a C array', 'const uint8_t frame[6] = { 0x03, 0x06, 0x02, 0x43, 0x0F, 0x45 };', 'prefixed'],
  ['brackets', '[03 06 02 43 0F 45]', 'hex'],
  ['escapes', '\\x03\\x06\\x02\\x43\\x0F\\x45', 'text'],
  ['quoted text', '"\\x03\\x06\\x02C\\x0FE"', 'text'],
  ['line breaks', '03 06\n02 43\r\n0F 45', 'hex'],
])('reads %s', (_, text, notation) => {
  const parsed = parseBytes(text);
  expect(parsed.ok && [bytesToHex(parsed.value.bytes, ' '), parsed.value.notation]).toEqual([READ, notation]);
});

it.each([
  ['"P1\\r\\n"', [0x50, 0x31, 13, 10]],
  ["'a' 0D", [0x61, 13]],
  ['"\\t\\0\\\\"', [9, 0, 92]],
])('reads text with escapes: %s', (text, bytes) => {
  const parsed = parseBytes(text);
  expect(parsed.ok && [...parsed.value.bytes]).toEqual(bytes);
});

it.each([
  ['01 03 0G 6B', 'bad-hex-digit', 7, 8],
  ['01 03 006', 'odd-hex-digits', 6, 9],
  ['1, 3, 0, 256', 'odd-hex-digits', 9, 12],
  ['"open', 'unclosed-text', 0, 5],
  ['"a\\q"', 'bad-token', 2, 4],
  ['0x', 'bad-token', 0, 2],
  ['"€"', 'value-out-of-range', 1, 2],
  ['   ', 'empty', 0, 3],
  ['-1 2', 'bad-hex-digit', 0, 1],
])('names where %s goes wrong', (text, code, start, end) => {
  const parsed = parseBytes(text);
  expect(!parsed.ok && parsed.error).toMatchObject({ code, start, end });
});

it('names a decimal that does not fit a byte when decimal is asked for', () => {
  const parsed = parseBytes('1, 3, 0, 256', 'decimal');
  expect(!parsed.ok && parsed.error).toMatchObject({ code: 'value-out-of-range', start: 9, end: 12 });
});

it('gives back what was written, in any of three notations', () => {
  const write = [
    (bytes: Uint8Array) => bytesToHex(bytes, ' '),
    (bytes: Uint8Array) => Array.from(bytes, (byte) => `0x${byte.toString(16)}`).join(', '),
    (bytes: Uint8Array) => `"${Array.from(bytes, (byte) => `\\x${byte.toString(16).padStart(2, '0')}`).join('')}"`,
  ];
  fc.assert(
    fc.property(fc.uint8Array({ minLength: 1, maxLength: 40 }), fc.constantFrom(...write), (bytes, how) => {
      const parsed = parseBytes(how(bytes));
      expect(parsed.ok && [...parsed.value.bytes]).toEqual([...bytes]);
    }),
    { seed: 7, numRuns: 500 },
  );
});

it('never throws, and every fault lies within the text', () => {
  fc.assert(
    fc.property(
      fc.oneof(fc.string({ maxLength: 60 }), fc.stringMatching(/^[0-9a-fxhXH'"\\,{}=:\- ]{0,40}$/)),
      (text) => {
        for (const parsed of [parseBytes(text), hexToBytes(text)])
          if (!parsed.ok) {
            expect(parsed.error.start).toBeGreaterThanOrEqual(0);
            expect(parsed.error.end).toBeLessThanOrEqual(text.length);
            expect(parsed.error.text).not.toBe('');
          }
      },
    ),
    { seed: 11, numRuns: 1000 },
  );
});
