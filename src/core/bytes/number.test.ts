import fc from 'fast-check';
import { hex } from '../../../tests/harness/bytes';
import { bytesToHex } from './hex';
import { decodeNumber, encodeNumber, NUMBER_TYPES, ordersOf, sizeOfNumber, type NumberType } from './number';

const encoded = (type: NumberType, order: string, text: string): string => {
  const bytes = encodeNumber(type, order, text);
  return bytes.ok ? bytesToHex(bytes.value) : bytes.error.text;
};
const decoded = (type: NumberType, order: string, text: string) => {
  const value = decodeNumber(type, order, hex(text));
  return value.ok ? value.value : value.error.text;
};

it.each<[NumberType, string, string, string]>([
  ['uint16', 'AB', '258', '0102'],
  ['uint16', 'BA', '258', '0201'],
  ['int16', 'AB', '-2', 'fffe'],
  ['uint32', 'ABCD', '16909060', '01020304'],
  ['uint32', 'CDAB', '16909060', '03040102'],
  ['uint32', 'BADC', '16909060', '02010403'],
  ['uint32', 'DCBA', '16909060', '04030201'],
  ['int32', 'ABCD', '-2147483648', '80000000'],
  ['uint64', 'ABCDEFGH', '72623859790382856', '0102030405060708'],
  ['uint64', 'GHEFCDAB', '72623859790382856', '0708050603040102'],
  ['uint64', 'BADCFEHG', '72623859790382856', '0201040306050807'],
  ['uint64', 'HGFEDCBA', '72623859790382856', '0807060504030201'],
  ['int64', 'ABCDEFGH', '-1', 'ffffffffffffffff'],
])('%s %s: %s is %s', (type, order, value, bytes) => {
  expect(encoded(type, order, value)).toBe(bytes);
  expect(decoded(type, order, bytes)).toEqual({ value });
});

/** IEEE 754: the formats' own constants, and single precision’s first whole number that it cannot hold (common practice, no source). */
it.each<[NumberType, string, string, string, string]>([
  ['float32', '1', '3f800000', '1', '1'],
  ['float32', '-2.5', 'c0200000', '-2.5', '-2.5'],
  ['float32', '0.1', '3dcccccd', '0.100000001490116119384765625', '0.1'],
  ['float32', '16777217', '4b800000', '16777216', '16777216'],
  ['float32', '3.4028234663852886e38', '7f7fffff', '340282346638528859811704183484516925440', '3.4028235e+38'],
  [
    'float32',
    '1e-45',
    '00000001',
    '0.00000000000000000000000000000000000000000000140129846432481707092372958328991613128026194187651577175706828388979108268586060148663818836212158203125',
    '1e-45',
  ],
  ['float64', '0.1', '3fb999999999999a', '0.1000000000000000055511151231257827021181583404541015625', '0.1'],
  ['float64', '-0', '8000000000000000', '-0', '-0'],
  ['float32', 'NaN', '7fc00000', 'NaN', 'NaN'],
  ['float32', '-Infinity', 'ff800000', '-Infinity', '-Infinity'],
])('%s: %s', (type, text, bytes, value, short) => {
  const order = ordersOf(type)[0]!;
  expect(encoded(type, order, text)).toBe(bytes);
  expect(decoded(type, order, bytes)).toEqual({ value, short });
});

it('a decimal is rounded once: just above the middle of two floats it goes up, though the double is the middle', () => {
  // 1 + 2^-24 lies between 1 and the next float; the double of the text is exactly that, the text a little more.
  expect(encoded('float32', 'ABCD', '1.00000005960464477539062500000000001')).toBe('3f800001');
  expect(encoded('float32', 'ABCD', '1.000000059604644775390625')).toBe('3f800000');
  expect(encoded('float32', 'ABCD', '1.00000005960464477539062499999999999')).toBe('3f800000');
});

it.each<[NumberType, string, string]>([
  ['int16', 'AB', '32768'],
  ['uint16', 'AB', '-1'],
  ['uint16', 'AB', '1.5'],
  ['uint32', 'AB', '1'],
  ['float32', 'ABCD', 'two'],
])('%s %s refuses %s with a sentence', (type, order, text) => {
  const bytes = encodeNumber(type, order, text);
  expect(bytes.ok ? '' : bytes.error.code).toBe('value-out-of-range');
});

it('any bytes in any type and order come back, and floats agree with the machine’s own', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...NUMBER_TYPES),
      fc.nat(3),
      fc.uint8Array({ minLength: 8, maxLength: 8 }),
      (type, which, all) => {
        const order = ordersOf(type)[which % ordersOf(type).length]!;
        const bytes = all.slice(0, sizeOfNumber(type));
        const value = decodeNumber(type, order, bytes);
        if (!value.ok) throw new Error(value.error.text);
        if (value.value.value === 'NaN') return;
        expect(encoded(type, order, value.value.value)).toBe(bytesToHex(bytes));
        if (value.value.short !== undefined) expect(encoded(type, order, value.value.short)).toBe(bytesToHex(bytes));
      },
    ),
    { seed: 41, numRuns: 1000 },
  );
});
