import { plainCrc } from './plain-crc';
import type { CapturePlan } from '../src/core/capture/capture-plan';
import { captureReader } from '../src/core/capture/read-capture';
import { pick, seededRandom } from '../src/core/random/random';
import { filterFrames } from '../src/core/capture/frame-filter';
import { frameIndexOf, nothingAgain } from '../tests/harness/frame-index';
import { exchangeOf } from '../tests/harness/streams';
import { claim, note, ratioOf } from './measure';

export const MB = 1 << 20;
const PLAN: CapturePlan = { form: 'binary', protocol: 'modbus-rtu', ports: [], gapUs: 0 };

/** A stream of exchanges of this size; 8 MB of them, over and over. */
export function streamOf(size: number): Uint8Array {
  const random = seededRandom(64);
  const stream = new Uint8Array(size);
  const part = Math.min(size, 8 * MB);
  let at = 0;
  while (at < part)
    for (const frame of exchangeOf(random)) {
      stream.set(frame.subarray(0, Math.max(0, part - at)), at);
      at = Math.min(part, at + frame.length);
    }
  for (let copied = part; copied < size; copied += part) stream.copyWithin(copied, 0, part);
  return stream;
}

function read(stream: Uint8Array): number {
  const reader = captureReader(PLAN, () => undefined);
  for (let at = 0; at < stream.length; at += MB) reader.push(stream.subarray(at, at + MB));
  return reader.end().index.count;
}

/** The shortest of some rounds, and what came of the last. */
export const best = (work: () => number, rounds = 3): { ms: number; value: number } => {
  let ms = Infinity;
  let value = 0;
  for (let i = 0; i < rounds; i++) {
    const start = performance.now();
    value = work();
    ms = Math.min(ms, performance.now() - start);
  }
  return { ms, value };
};

const repeated =
  (pattern: readonly number[], fill = 0, period = pattern.length) =>
  (at: number): number =>
    pattern[at % period] ?? fill;

/** The shortest frame of all, an exception with its check. */
const SHORTEST = [207, 144, 1, 236, 63];

/** Heads, one as close behind the other as can be, whose first object ends where one and the same list of others begins. */
function headsOfOneList(heads: number, tally: number, value: readonly number[]): readonly number[] {
  const head = (_: unknown, i: number): readonly number[] => {
    const behind = 9 * (heads - 1 - i);
    return [0x2b, 0x0e, 3, 1, 255, 255, tally + 1, 0, behind];
  };
  const objects = Array.from({ length: tally }, (_, i) => [i + 1, value.length, ...value]);
  return [...Array.from({ length: heads }, head), ...objects].flat();
}

/** Streams that cost most: in which every place looks as if a frame could begin there, and of frames and noise as short as can be. */
const WORST: Readonly<Record<string, (at: number) => number>> = {
  'echo tests without end': repeated([3, 8, 0, 0]),
  'another bus’s transport': repeated([0x2b, 0x0d]),
  'device identification with impossible tallies': repeated([3, 0x2b, 0x0e, 1, 1, 0, 0, 255, 0, 0]),
  'device identification with long lists': repeated([3, 0x2b, 0x0e, 1, 1, 0, 0, 90], 0, 22),
  'device identification among coils': repeated([3, 0x2b, 0x0e, 1, 1, 0, 0, 80], 1, 23),
  'a list every two bytes': repeated([0x2b, 0x0e]),
  'a list every three bytes': repeated([0x2b, 0x0e, 1]),
  'a list every five bytes': repeated([0x2b, 0x0e, 3, 1, 255]),
  'a list every six bytes': repeated([0x2b, 0x0e, 1, 4, 255, 1]),
  'a list every seven bytes': repeated([0x2b, 0x0e, 3, 1, 255, 2, 73]),
  'many heads of one list of empty objects': repeated(headsOfOneList(13, 60, [])),
  'many heads of one list of short objects': repeated(headsOfOneList(13, 41, [3])),
  'few heads of one list of short objects': repeated(headsOfOneList(5, 60, [3])),
  'the longest reads': (at) => (at % 3 === 2 ? 250 : 3),
  'one code everywhere': () => 16,
  zeros: () => 0,
  'user-defined codes': repeated([1, 65]),
  'the shortest frames': repeated(SHORTEST),
  'the shortest frames, each with a byte of noise': repeated([...SHORTEST, 0]),
  'the shortest frames, each with noise like reads': repeated([...SHORTEST, 3, 3, 3, 3]),
  'the shortest frames, each with a byte like a read': repeated([...SHORTEST, 3]),
  'the shortest frames, each with the head of a list': repeated([...SHORTEST, 1, 0x2b, 0x0e, 1, 1, 0, 0, 40]),
  'the shortest frames, each with noise like open ones': repeated([...SHORTEST, 23, 0x2b, 23, 255, 6, 1]),
  'the shortest frames, each with a head and noise': repeated([
    ...SHORTEST,
    ...[25, 0x2b, 0x0e, 1, 1, 255, 255, 45, 16, 18, 0, 0x2b, 23, 250],
  ]),
  'the shortest frames, each with heads of one list': repeated([...SHORTEST, ...headsOfOneList(3, 7, [250])]),
  'the shortest frames, each with a long list': repeated([...SHORTEST, 1, 0x2b, 0x0e, 0, 3, 1, 4, 82, 2, 1]),
};

export async function captureBench(): Promise<void> {
  worstBench();
  const stream = streamOf(64 * MB);
  const gc = (globalThis as { gc?: () => void }).gc;
  gc?.();
  const before = process.memoryUsage();
  read(stream);
  // What one capture takes: of several, the ones before linger until somebody needs the room.
  const after = process.memoryUsage();
  const { ms, value } = best(() => read(stream));
  const crc = best(() => plainCrc(stream));
  note(
    `64 MB: ${value} frames, split and decoded in ${Math.round(ms)} ms, one table-CRC pass ${Math.round(crc.ms)} ms`,
  );
  claim('split and decode of 64 MB of raw RTU against one table-CRC pass', ms / crc.ms, { atMost: 5 });
  claim('memory beside the stream, MB', (after.rss - before.rss) / MB, { atMost: 120 });
  const twice = streamOf(128 * MB);
  // In turns, so that a slow moment of the machine meets both.
  const rounds = Array.from({ length: 5 }, () => [best(() => read(stream), 1).ms, best(() => read(twice), 1).ms]);
  const [once = NaN, double = NaN] = [0, 1].map((i) => Math.min(...rounds.map((round) => round[i] ?? NaN)));
  claim('twice the input against its time', double / once, { atMost: 2.2 });
  await filterBench();
}

export function worstBench(): void {
  for (const [name, byteAt] of Object.entries(WORST)) {
    const bytes = Uint8Array.from({ length: 64 * 1024 }, (_, at) => byteAt(at));
    // Some times over, so that the clock sees it.
    const times = <T>(work: () => T) => Array.from({ length: 4 }, work).length;
    const ratio = ratioOf(
      () => times(() => read(bytes)),
      () => times(() => plainCrc(bytes)),
    );
    claim(`64 kB of the worst input: ${name}`, ratio, { atMost: 8 });
  }
}

/** A column filter against a plain scan of the same column. */
async function filterBench(): Promise<void> {
  const COUNT = 1_000_000;
  const random = seededRandom(9);
  const units = Uint8Array.from({ length: COUNT }, () => pick(random, 40));
  const index = frameIndexOf(
    Array.from(units, (unit, i) => ({
      offset: 8 * i,
      length: 8,
      timeUs: i,
      unit,
      fc: 3,
      direction: 'request' as const,
      fault: false,
      exception: false,
      tcp: false,
      address: 0,
      quantity: 1,
      partner: -1,
    })),
  );
  const scan = (): number => {
    const found = new Uint32Array(COUNT);
    let count = 0;
    for (let i = 0; i < COUNT; i++) if (units[i] === 7) found[count++] = i;
    return count;
  };
  const filter = async (): Promise<number> => (await filterFrames(index, { unit: 7 }, nothingAgain))?.count ?? NaN;
  if ((await filter()) !== scan()) throw new Error('the filter and a plain scan do not agree');
  const timeOf = async (work: () => number | Promise<number>): Promise<number> => {
    const start = performance.now();
    await work();
    return performance.now() - start;
  };
  let [scanMs, filterMs] = [Infinity, Infinity];
  for (let round = 0; round < 7; round++) {
    scanMs = Math.min(scanMs, await timeOf(scan));
    filterMs = Math.min(filterMs, await timeOf(filter));
  }
  claim('a column filter over 1,000,000 frames against a plain scan of the column', filterMs / scanMs, { atMost: 3 });
}
