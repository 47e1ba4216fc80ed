import fc from 'fast-check';
import { rtu } from '../../../tests/harness/line';
import { bytesToHex } from '../bytes/hex';
import { concatBytes } from '../bytes/concat';
import { RtuStream } from './stream';

const REPLIES = ['03 03 08 2A0D 0000 001C 0F43', '03 06 02C3 0F45', '07 83 02', '11 10 0001 0002', '03 03 02 0001'].map(
  rtu,
);

function cut(chunks: readonly Uint8Array[]): { readonly frames: readonly string[]; readonly skipped: number } {
  const frames: string[] = [];
  const stream = new RtuStream('response', (bytes, start, end) => frames.push(bytesToHex(bytes.subarray(start, end))));
  for (const chunk of chunks) stream.push(chunk);
  return { frames, skipped: stream.skipped };
}

const whole = REPLIES.map((reply) => bytesToHex(reply));

it('finds the same frames however the stream is cut', () => {
  const all = concatBytes(...REPLIES);
  for (let size = 1; size <= all.length; size++) {
    const chunks = Array.from({ length: Math.ceil(all.length / size) }, (_, i) =>
      all.subarray(i * size, (i + 1) * size),
    );
    expect(cut(chunks)).toEqual({ frames: whole, skipped: 0 });
  }
});

it('takes what is larger than its buffer in one chunk', () => {
  const many = concatBytes(...Array.from({ length: 400 }, (_, i) => REPLIES[i % REPLIES.length]!));
  expect(cut([many]).frames).toHaveLength(400);
});

it('goes on after junk, whatever the junk and the chunks', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 12 }), fc.integer({ min: 1, max: 9 }), (junk, size) => {
      // The long tail lets a junk beginning that looks like a frame run out of hope.
      const all = concatBytes(junk, REPLIES[0]!, ...Array.from({ length: 40 }, () => REPLIES[1]!));
      const chunks = Array.from({ length: Math.ceil(all.length / size) }, (_, i) =>
        all.subarray(i * size, (i + 1) * size),
      );
      const { frames } = cut(chunks);
      expect(frames.filter((frame) => frame === whole[1]).length).toBeGreaterThanOrEqual(5);
      expect(frames).toContain(whole[0]);
    }),
    { seed: 31, numRuns: 300 },
  );
});
