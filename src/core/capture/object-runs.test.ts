import { RTU_MAX } from '../modbus/rtu';
import { pick, seededRandom } from '../random/random';
import { ObjectRuns } from './object-runs';

/** The same by a plain walk. */
function plainEnd(bytes: Uint8Array, start: number, tally: number, most: number): number {
  let at = start;
  for (let left = tally, before = -1; left > 0; left--) {
    const [id = 256, length = 256] = bytes.subarray(at, at + 2);
    if (id <= before) return 0;
    before = id;
    at += 2 + length;
  }
  return at <= most ? at : 0;
}

/** Asks at many places of `bytes`; the places where the answer differs from a plain walk. */
function wrongPlaces(bytes: Uint8Array, tallies: readonly number[]): readonly string[] {
  const runs = new ObjectRuns(bytes.length);
  const wrong: string[] = [];
  for (let at = 0; at < bytes.length; at++)
    for (const tally of tallies) {
      const most = Math.min(bytes.length, at + RTU_MAX);
      if (runs.endOf(bytes, at, bytes.length, tally, most) !== plainEnd(bytes, at, tally, most))
        wrong.push(`${tally} objects at ${at}`);
    }
  return wrong;
}

const TALLIES = [1, 2, 3, 4, 5, 6, 14, 43, 90, 127, 128, 255];

describe('lists of objects, walked over once', () => {
  it.each([
    ['nothing but empty objects', () => 0],
    ['objects of one byte', () => 1],
    ['objects that leap over each other', (at: number) => [0x2b, 0x0e][at % 2] as number],
    ['paths that never meet for long', (at: number) => [0x2b, 0x0e, 1, 1, 0][at % 5] as number],
    ['paths that meet at once', (at: number) => [0x2b, 0x0e, 1, 1, 0, 2, 73][at % 7] as number],
    ['the longest objects', () => 255],
    ['empty objects in order', (at: number) => (at % 2 === 0 ? (at >> 1) % 120 : 0)],
    ['objects in order, on three paths that meet', (at: number) => (at % 2 === 0 ? (at >> 1) % 120 : 2 * (at % 3))],
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
      const isOrdered = round % 3 > 0;
      const bytes = Uint8Array.from({ length: 400 + pick(random, 400) }, (_, at) =>
        isOrdered && at % 2 === 0 ? (at >> 1) % 128 : pick(random, most),
      );
      const tallies = [1 + pick(random, 255), 1 + pick(random, 20), 1 + pick(random, 4)];
      expect([round, wrongPlaces(bytes, tallies)]).toEqual([round, []]);
    }
  });

  it('are forgotten with the bytes', () => {
    const runs = new ObjectRuns(600);
    const random = seededRandom(5);
    for (let round = 0; round < 5; round++) {
      const bytes = Uint8Array.from({ length: 600 }, (_, at) => (at % 2 === 0 ? at >> 1 : 2 * pick(random, 4)));
      expect(runs.endOf(bytes, 10, 600, 14, 600)).toBe(plainEnd(bytes, 10, 14, 600));
      runs.forget();
    }
  });
});
