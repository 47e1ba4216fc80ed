import { deflateSync } from 'node:zlib';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { pictureSize } from './picture-size';

const bytes = (hex: string): Uint8Array => Uint8Array.from(Buffer.from(hex.replace(/\s/g, ''), 'hex'));

it('a PNG says it in its header (ISO/IEC 15948, 11.2.2), one of our own screenshots among them', () => {
  const png = bytes('89504E47 0D0A1A0A 0000000D 49484452 00007530 00009C40 08 06 00 00 00');
  expect(pictureSize(png)).toEqual({ width: 30_000, height: 40_000 });
  expect(pictureSize(new Uint8Array(readFileSync('docs/screenshots/trials.png')))).toEqual({
    width: 1280,
    height: 800,
  });
});

it('a JPEG says it in its frame, behind other segments and fill bytes (ITU-T T.81, B.1.1.2 and B.2.2)', () => {
  const frame = '0011 08 0BB8 0FA0 03 012200 021101 031101';
  const app = `FFE0 0010 4A46494600 0101 00 0001 0001 00 00`;
  for (const marker of ['FFC0', 'FFC2', 'FF FFC1'])
    expect(pictureSize(bytes(`FFD8 ${app} FFDB 0004 0000 ${marker} ${frame}`))).toEqual({ width: 4000, height: 3000 });
  // A table of codes is no frame, though its marker lies among theirs.
  expect(pictureSize(bytes(`FFD8 FFC4 0004 0000 FFC0 ${frame}`))).toEqual({ width: 4000, height: 3000 });
  expect(pictureSize(bytes(`FFD8 ${app} 0011`))).toBeNull();
});

it('a WebP says it in its first chunk, in three ways (RFC 9649, 2.5 to 2.7)', () => {
  const riff = '52494646 00000000 57454250';
  expect(pictureSize(bytes(`${riff} 56503858 0A000000 00000000 3F0600 AF0400`))).toEqual({ width: 1600, height: 1200 });
  // 14 bits each, less one: 1600 and 1200.
  const packed = (1599 + 1199 * 0x4000).toString(16).padStart(8, '0');
  const turned = packed.match(/../g)!.reverse().join('');
  expect(pictureSize(bytes(`${riff} 5650384C 00000000 2F ${turned}`))).toEqual({ width: 1600, height: 1200 });
  expect(pictureSize(bytes(`${riff} 56503820 00000000 000000 9D012A 4006 B004`))).toEqual({
    width: 1600,
    height: 1200,
  });
});

it('never throws, and says nothing of what is no picture', () => {
  expect(pictureSize(new Uint8Array(deflateSync(Buffer.from('no picture'))))).toBeNull();
  expect(pictureSize(new Uint8Array(0))).toBeNull();
  fc.assert(
    fc.property(
      fc.constantFrom('FFD8', '89504E470D0A1A0A', '524946460000000057454250'),
      fc.uint8Array({ maxLength: 200 }),
      (head, tail) => {
        const found = pictureSize(Uint8Array.from([...bytes(head), ...tail]));
        expect(found === null || (Number.isInteger(found.width) && Number.isInteger(found.height))).toBe(true);
      },
    ),
    { numRuns: 500, seed: 21 },
  );
});
