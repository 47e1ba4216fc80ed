import fc from 'fast-check';
import linnetSheet from '../../../sheets/linnet.json';
import { ascii, hex } from '../../../tests/harness/bytes';
import { rtu } from '../../../tests/harness/line';
import { damagedStream, exchangeOf } from '../../../tests/harness/streams';
import { concatBytes } from '../bytes/concat';
import { bytesToHex } from '../bytes/hex';
import { crc16Window, isGoodStretch, loadWindow } from '../checksum/crc16-window';
import { crc16 } from '../checksum/crc16';
import { wrapAscii } from '../modbus/ascii';
import { encodeTcp } from '../modbus/encode';
import {
  FIRST_LOOKS,
  frameLengthAt,
  isListHead,
  MAY_LIST,
  requestLength,
  responseLength,
} from '../modbus/frame-length';
import { LRC_CHECK } from '../modbus/serial-check';
import { pick, seededRandom } from '../random/random';
import { loadSheet } from '../sheet/load-sheet';
import { encodeUss } from '../uss/encode';
import type { FrameSink, Splitter } from './frame-sink';
import { asciiSplitter, dialectSplitter, tcpSplitter, ussSplitter } from './split-framed';
import { RtuSplitter } from './split-rtu';

interface Found {
  readonly offset: number;
  readonly hex: string;
  readonly direction: string;
}

function cut(make: (sink: FrameSink) => Splitter, chunks: readonly Uint8Array[]): readonly Found[] {
  const found: Found[] = [];
  const splitter = make({
    take: (offset, bytes, finds) =>
      finds.each((start, end, direction) =>
        found.push({ offset: offset + start, hex: bytesToHex(bytes.subarray(start, end)), direction }),
      ),
  });
  for (const chunk of chunks) splitter.push(chunk);
  splitter.end();
  return found;
}
const rtuSplitter = (sink: FrameSink): Splitter => new RtuSplitter(sink);
const kinds = (found: readonly Found[]) => found.map(({ direction, hex: text }) => `${direction} ${text.length / 2}`);

it('a check over any stretch is the one that a plain CRC gives', () => {
  const window = crc16Window(1100);
  fc.assert(
    fc.property(fc.uint8Array({ minLength: 4, maxLength: 300 }), fc.nat(), fc.nat(), (bytes, a, b) => {
      const start = a % bytes.length;
      const end = Math.min(start + (b % 257), bytes.length);
      loadWindow(window, bytes, bytes.length);
      expect(isGoodStretch(window, start, end)).toBe(crc16(bytes, start, end) === 0);
      const sealed = rtu(bytesToHex(bytes.subarray(0, 100)));
      loadWindow(window, sealed, sealed.length);
      expect(isGoodStretch(window, 0, sealed.length)).toBe(true);
    }),
    { seed: 31, numRuns: 500 },
  );
});

it('a check is the same wherever the bytes lie in memory: two at a time, or one by one from an odd place on', () => {
  const random = seededRandom(22);
  for (const length of [4, 5, 255, 256, 257, 511, 512, 513, 1000]) {
    const shared = Uint8Array.from({ length: length + 1 }, () => pick(random, 256));
    const odd = shared.subarray(1);
    const [one, other] = [crc16Window(1100), crc16Window(1100)];
    loadWindow(one, odd, length);
    loadWindow(other, odd.slice(), length);
    expect(one).toEqual(other);
    for (let end = 2; end <= Math.min(length, 256); end++)
      expect(isGoodStretch(one, 0, end)).toBe(crc16(odd, 0, end) === 0);
  }
});

it('a good stretch is good wherever it lies in a buffer, and no longer with one byte changed', () => {
  const window = crc16Window(1100);
  fc.assert(
    fc.property(
      fc.uint8Array({ maxLength: 800 }),
      fc.uint8Array({ minLength: 2, maxLength: 254 }),
      fc.nat(),
      fc.integer({ min: 1, max: 255 }),
      (before, body, place, change) => {
        const bytes = concatBytes(before, rtu(bytesToHex(body)), Uint8Array.of(1, 2, 3));
        const [start, end] = [before.length, bytes.length - 3];
        loadWindow(window, bytes, bytes.length);
        expect(isGoodStretch(window, start, end)).toBe(true);
        const at = start + (place % (end - start));
        bytes[at] = (bytes[at] as number) ^ change;
        loadWindow(window, bytes, bytes.length);
        expect(isGoodStretch(window, start, end)).toBe(false);
      },
    ),
    { seed: 32, numRuns: 500 },
  );
});

it('the first look at a place misses no frame of known length', () => {
  const random = seededRandom(77);
  const missed: string[] = [];
  for (let i = 0; i < 3000; i++)
    for (const [way, frame] of exchangeOf(random).slice(0, 2).entries()) {
      const bytes = concatBytes(frame, new Uint8Array(256));
      const length = frameLengthAt(bytes, 0, frame.length, way === 0 ? 'request' : 'response');
      const look = FIRST_LOOKS[bytes[1] as number] as number;
      const first = (way === 0 ? requestLength : responseLength)(look, bytes, 0);
      const mayList = (look & MAY_LIST) !== 0 && isListHead(bytes, 0);
      if (length > 0 && first !== length && !mayList) missed.push(bytesToHex(frame));
    }
  expect(missed).toEqual([]);
});

describe('a raw RTU stream without times', () => {
  it.each([
    ['a read and its answer', ['03 03 0182 0004', '03 03 08 0001 0002 0003 0004'], ['request 8', 'response 13']],
    ['a write and its echo', ['03 06 02C3 0F45', '03 06 02C3 0F45'], ['request 8', 'response 8']],
    ['two writes to two stations', ['03 06 02C3 0F45', '04 06 02C3 0F45'], ['request 8', 'request 8']],
    ['coils that collide with their request', ['03 01 0300 0018', '03 01 03 CD6B05'], ['request 8', 'response 8']],
    ['a refusal', ['03 03 0182 0004', '03 83 02'], ['request 8', 'response 5']],
    ['a longer echo test', ['03 08 0000 0102 0304', '03 08 0000 0102 0304'], ['request 10', 'response 10']],
    [
      'a user-defined function between others',
      ['03 03 0182 0001', '03 41 010203', '03 06 0001 0002'],
      ['request 8', 'request 7', 'request 8'],
    ],
    [
      'two user-defined ones as long as a frame can be',
      ['03 03 0182 0001', `03 41 ${'55'.repeat(252)}`, `03 41 ${'AA'.repeat(252)}`, '03 06 0001 0002'],
      ['request 8', 'request 256', 'response 256', 'request 8'],
    ],
    ['an echo test that looks like a list', ['03 08 0E01 0100 0001 0000'], ['request 12']],
    ['device identification', ['03 2B 0E 01 00', '03 2B 0E 01 01 00 00 01 00 03 414243'], ['request 7', 'response 15']],
  ])('%s', (_, frames, expected) => {
    expect(kinds(cut(rtuSplitter, frames.map(rtu)))).toEqual(expected);
  });

  it('noise before, between and behind is told as such, and nothing is lost', () => {
    const [a, b] = [rtu('03 03 0182 0001'), rtu('03 03 02 0005')];
    const stream = concatBytes(hex('FF 00'), a, hex('AA'), b, hex('03 03'));
    const found = cut(rtuSplitter, [stream]);
    expect(kinds(found)).toEqual(['junk 2', 'request 8', 'junk 1', 'response 7', 'junk 2']);
    expect(found.map(({ hex: text }) => text).join('')).toBe(bytesToHex(stream));
  });

  it('chunks of any size give the same frames, over more than one buffer', () => {
    const random = seededRandom(5);
    const stream = concatBytes(...Array.from({ length: 6000 }, () => concatBytes(...exchangeOf(random))));
    expect(stream.length).toBeGreaterThan(2 * 65536);
    const whole = cut(rtuSplitter, [stream]);
    const bits: Uint8Array[] = [];
    for (let at = 0, step = 1; at < stream.length; at += step, step = (step * 7 + 3) % 701)
      bits.push(stream.subarray(at, at + step));
    expect(cut(rtuSplitter, bits)).toEqual(whole);
    expect(whole).toHaveLength(12_000);
  });
});

it('begins anew after damage: at least 99.9 % of the intact frames, at most 1 in 10,000 that is not there', () => {
  const SEED = 77;
  const { bytes, planted } = damagedStream(seededRandom(SEED), 60_000, 0.1);
  const found = cut(rtuSplitter, [bytes]).filter(({ direction }) => direction !== 'junk');
  const intact = new Set(planted.filter((one) => one.intact).map(({ offset, length }) => `${offset} ${length}`));
  const hits = found.filter(({ offset, hex: text }) => intact.has(`${offset} ${text.length / 2}`)).length;
  const wrong = found.length - hits;
  process.stdout.write(
    `resynchronising (seed ${SEED}): ${hits} of ${intact.size} intact frames found (${((100 * hits) / intact.size).toFixed(3)} %), ${wrong} that are not there\n`,
  );
  expect(hits / intact.size).toBeGreaterThanOrEqual(0.999);
  expect(wrong / found.length).toBeLessThanOrEqual(1 / 10_000);
});

describe('other streams', () => {
  it('Modbus ASCII', () => {
    const line = (text: string): Uint8Array => {
      const bytes = hex(text);
      return wrapAscii(concatBytes(bytes, LRC_CHECK.of(bytes, bytes.length)));
    };
    const stream = concatBytes(ascii('x'), line('030301820001'), ascii(':03'), line('0303020005'));
    expect(kinds(cut(asciiSplitter, [stream]))).toEqual(['junk 1', 'request 17', 'junk 3', 'response 15']);
  });

  it('Modbus TCP, two frames in a chunk and one over two', () => {
    const of = (transactionId: number): Uint8Array => {
      const built = encodeTcp({ transactionId, unit: 1, fc: 3, address: 7, quantity: 2 }, 'request');
      if (!built.ok) throw new Error('not built');
      return built.value;
    };
    const stream = concatBytes(of(1), of(2), of(3));
    expect(kinds(cut(tcpSplitter, [stream.subarray(0, 30), stream.subarray(30)]))).toEqual([
      'request 12',
      'request 12',
      'request 12',
    ]);
  });

  it('USS: master and station in turn, a find in noise only where another follows', () => {
    const of = (pzd: number[]): Uint8Array => {
      const built = encodeUss({ address: 4, pzd });
      if (!built.ok) throw new Error('not built');
      return built.value;
    };
    const noise = hex('02 02 07 07 55');
    const found = cut(ussSplitter, [concatBytes(noise, of([0x47e, 0]), of([0x231, 0]), of([0x47e, 1]))]);
    expect(kinds(found)).toEqual(['junk 5', 'request 8', 'response 8', 'request 8']);
  });

  it('lines of a dialect', () => {
    const loaded = loadSheet(linnetSheet);
    const dialect = loaded.ok ? loaded.value.dialect : undefined;
    const found = cut((sink) => dialectSplitter(dialect!, sink), [ascii('rate 5\r\ndone\r\nerr 3\r\n')]);
    expect(kinds(found)).toEqual(['request 8', 'response 6', 'response 7']);
  });
});

/** An identification with so many objects of this many bytes, between noise; what comes behind it decides how it is looked at. */
const listed = (tally: number, length: number, behind: number): readonly Uint8Array[] => {
  const objects = Array.from({ length: tally }, (_, id) => [id, length, ...Array<number>(length).fill(0x41)]).flat();
  const head = bytesToHex(Uint8Array.of(3, 0x2b, 0x0e, 1, 1, 0, 0, tally, ...objects));
  return [Uint8Array.of(0x55, 0x55), rtu(head), new Uint8Array(behind).fill(0x55)];
};

it.each([0, 600])('lists of any tally are found whole, with %s bytes behind them', (behind) => {
  for (let tally = 0; tally <= 123; tally++)
    for (const length of [0, 1, 2, 5, 40]) {
      const stream = listed(tally, length, behind);
      const size = stream[1]?.length ?? 0;
      const kept = kinds(cut(rtuSplitter, stream)).includes(`response ${size}`);
      // Limit of Modbus over Serial Line V1.02: 256 bytes a frame.
      expect([tally, length, kept]).toEqual([tally, length, size <= 256]);
    }
});

/** Heads of an identification with two objects; by V1.1b3, 6.21, the next object is 0 where no more follow. */
it.each([
  ['as it should be', '03 2B 0E 01 01 00 00 02 00 01 41 01 01 42', true],
  ['more follow', '03 2B 0E 01 01 FF 02 02 00 01 41 01 01 42', true],
  ['not in order', '03 2B 0E 01 01 00 00 02 01 01 41 00 01 42', false],
  ['one object twice', '03 2B 0E 01 01 00 00 02 01 01 41 01 01 42', false],
  ['a next object though none follows', '03 2B 0E 01 01 00 05 02 00 01 41 01 01 42', false],
  ['a flag that is neither', '03 2B 0E 01 01 01 00 02 00 01 41 01 01 42', false],
  ['a read code beyond 4', '03 2B 0E 05 01 00 00 02 00 01 41 01 01 42', false],
])('an identification in noise, %s', (_, frame, isTold) => {
  // Before the last 256 bytes of a stream and in them: two ways to look for it, one answer.
  for (const behind of [0, 600]) {
    const noise = Uint8Array.of(0x55, 0x55);
    const found = kinds(cut(rtuSplitter, [noise, rtu(frame), new Uint8Array(behind).fill(0x55)]));
    expect([behind, found.includes('response 16')]).toEqual([behind, isTold]);
    // Between frames nothing stands beside it: then its check alone tells it.
    const between = kinds(cut(rtuSplitter, [rtu('03 03 0182 0001'), rtu(frame), rtu('03 06 0001 0002')]));
    expect(between).toEqual(['request 8', isTold ? 'response 16' : 'request 16', 'request 8']);
  }
});

it.each([0, 600])('a response that counts more than a frame can have is none, with %s bytes behind it', (behind) => {
  for (const [count, fits] of [
    [250, true],
    [251, true],
    [252, false],
    [255, false],
  ] as const) {
    const stream = [
      rtu(bytesToHex(Uint8Array.of(3, 3, count, ...new Uint8Array(count)))),
      new Uint8Array(behind).fill(0xff),
    ];
    expect([count, kinds(cut(rtuSplitter, stream)).includes(`response ${count + 5}`)]).toEqual([count, fits]);
  }
});
