import { objectsSize } from '../modbus/objects';
import { RTU_MAX } from '../modbus/rtu';
import { pick, seededRandom } from '../random/random';
import { ObjectRuns } from './object-runs';

/** A list that does not end in the bytes, or not in a frame, may be said to be of any length that is too long. */
const ended = (size: number, left: number): number => (size > RTU_MAX || size > left ? Infinity : size);

/** Asks at many places of `bytes`; the places where the answer differs from a plain walk. */
function wrongPlaces(bytes: Uint8Array, tallies: readonly number[]): readonly string[] {
  const runs = new ObjectRuns(bytes.length);
  const wrong: string[] = [];
  for (let at = 0; at < bytes.length; at++)
    for (const tally of tallies) {
      const left = bytes.length - at;
      const found = ended(runs.sizeOf(bytes, at, bytes.length, tally), left);
      if (found !== ended(objectsSize(bytes, at, bytes.length, tally), left)) wrong.push(`${tally} objects at ${at}`);
    }
  return wrong;
}

const TALLIES = [0, 1, 2, 3, 4, 5, 6, 14, 43, 90, 127, 128, 255];

describe('lists of objects, walked over once', () => {
  it.each([
    ['nothing but empty objects', () => 0],
    ['objects of one byte', () => 1],
    ['objects that leap over each other', (at: number) => [0x2b, 0x0e][at % 2] as number],
    ['paths that never meet for long', (at: number) => [0x2b, 0x0e, 1, 1, 0][at % 5] as number],
    ['paths that meet at once', (at: number) => [0x2b, 0x0e, 1, 1, 0, 2, 73][at % 7] as number],
    ['the longest objects', () => 255],
  ])('%s', (_, byteAt) => {
    expect(
      wrongPlaces(
        Uint8Array.from({ length: 700 }, (_none, at) => byteAt(at)),
        TALLIES,
      ),
    ).toEqual([]);
  });

  it('are as long as a plain walk says, wherever they begin and whatever was asked before', () => {
    const random = seededRandom(91);
    for (let round = 0; round < 40; round++) {
      const most = 1 + pick(random, round % 2 === 0 ? 6 : 256);
      const bytes = Uint8Array.from({ length: 400 + pick(random, 400) }, () => pick(random, most));
      expect([round, wrongPlaces(bytes, [pick(random, 256), pick(random, 20)])]).toEqual([round, []]);
    }
  });

  it('are forgotten with the bytes', () => {
    const runs = new ObjectRuns(600);
    const random = seededRandom(5);
    for (let round = 0; round < 5; round++) {
      const bytes = Uint8Array.from({ length: 600 }, () => pick(random, 7));
      expect(runs.sizeOf(bytes, 10, 600, 30)).toBe(objectsSize(bytes, 10, 600, 30));
      runs.forget();
    }
  });
});
