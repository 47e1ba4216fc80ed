import fc from 'fast-check';
import { hex } from '../../../tests/harness/bytes';
import { byteText, COPY_FORMS } from './copy-forms';
import { bytesToHex } from './hex';
import { parseBytes } from './notation';
import { selectionValues } from './selection-values';

it.each([
  ['hex', '02 4F 22 0D'],
  ['array', '{ 0x02, 0x4F, 0x22, 0x0D }'],
  ['decimal words', '591 8717'],
  ['quoted text', '"\\x02O\\"\\r"'],
])('as %s', (name, text) => {
  expect(COPY_FORMS.find((form) => form.name === name)?.of(hex('02 4F 22 0D'))).toBe(text);
});

it('hex, array and quoted text are read back as the same bytes', () => {
  fc.assert(
    fc.property(
      fc.uint8Array({ minLength: 1, maxLength: 40 }),
      fc.constantFrom('hex', 'array', 'quoted text'),
      (bytes, name) => {
        const text = COPY_FORMS.find((form) => form.name === name)?.of(bytes) ?? '';
        const parsed = parseBytes(text);
        expect(parsed.ok && bytesToHex(parsed.value.bytes)).toBe(bytesToHex(bytes));
      },
    ),
    { seed: 51, numRuns: 500 },
  );
});

it.each([
  ['hex', 0x4f, '4F'],
  ['decimal', 0x4f, '79'],
  ['binary', 0x4f, '01001111'],
  ['text', 0x4f, 'O'],
  ['text', 0x0d, '\\r'],
  ['text', 0x9c, '9C'],
] as const)('a byte as %s', (base, byte, text) => {
  expect(byteText(byte, base)).toBe(text);
});

it('a selection in every type and order of its size', () => {
  expect(selectionValues(hex('FF'))).toEqual([
    { type: 'uint8', order: '', value: '255' },
    { type: 'int8', order: '', value: '-1' },
  ]);
  expect(selectionValues(hex('FF00')).map(({ value }) => value)).toEqual(['-256', '255', '65280', '255']);
  expect(
    selectionValues(hex('418C0000')).find(({ type, order }) => type === 'float32' && order === 'ABCD')?.value,
  ).toBe('17.5');
  expect(
    selectionValues(hex('0000418C')).find(({ type, order }) => type === 'float32' && order === 'CDAB')?.value,
  ).toBe('17.5');
  expect(selectionValues(hex('0102030405060708'))).toHaveLength(12);
  expect(selectionValues(hex('010203'))).toEqual([]);
});
