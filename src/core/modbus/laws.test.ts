import fc from 'fast-check';
import { leavesOf, spliceField } from '../bytes/field';
import { ALL_MESSAGES, USER_DEFINED } from '../../../tests/harness/modbus-messages';
import { bitwiseCrc } from '../../standin/rtu-server';
import { textToBytes } from '../bytes/text';
import { seededRandom, pick, type Random } from '../random/random';
import { anatomyRtu } from './anatomy';
import { encodeRtu } from './encode';
import { MODBUS_FRAMINGS } from './framing';
import type { Direction } from '../direction';
import type { ModbusMessage } from './message';
import { decodeRtu, readRtu } from './rtu';
import { NEED_MORE, probeRtu } from './scan';

const messages = ALL_MESSAGES;

const build = (message: ModbusMessage, direction: Direction): Uint8Array => {
  const built = encodeRtu(message, direction);
  if (!built.ok) throw new Error(built.error[0]?.text);
  return built.value;
};

/** All frames of one direction that the probe finds in `bytes[0, end)`; from `pendingFrom` on more bytes are needed to tell. */
function framesIn(bytes: Uint8Array, direction: Direction, end = bytes.length) {
  const starts: number[] = [];
  let pendingFrom = -1;
  for (let at = 0; at < end;) {
    const found = probeRtu(bytes, at, end, direction);
    if (found > 0) starts.push(at);
    if (found > 0) pendingFrom = -1;
    else if (found === NEED_MORE && pendingFrom < 0) pendingFrom = at;
    at += found > 0 ? found : 1;
  }
  return { starts, count: starts.length, pendingFrom: pendingFrom < 0 ? end : pendingFrom };
}

it('decode(encode(m)) is m, and the check is the one that the stand-in’s own CRC gives', () => {
  fc.assert(
    fc.property(messages, ([direction, message]) => {
      const bytes = build(message, direction);
      expect(readRtu(bytes, direction)).toMatchObject({ faults: [], message });
      expect(bitwiseCrc([...bytes])).toBe(0);
    }),
    { seed: 3, numRuns: 1000 },
  );
});

it.each(MODBUS_FRAMINGS)(
  '$name: decode(encode(m)) is m, for every function and both directions',
  ({ read, encode, id, probe }) => {
    fc.assert(
      fc.property(fc.oneof({ weight: 9, arbitrary: messages }, USER_DEFINED), ([direction, message]) => {
        const sent = id === 'modbus-tcp' ? { transactionId: 7, ...message } : message;
        const built = encode(sent, direction);
        if (!built.ok) throw new Error(built.error[0]?.text);
        const reading = read(built.value, direction);
        expect(reading.message).toEqual(sent);
        expect(reading.faults.filter(({ code }) => code !== 'unknown-function')).toEqual([]);
        if (message.fc < 65 || message.exception)
          expect(probe(built.value, 0, built.value.length, direction)).toBe(built.value.length);
      }),
      { seed: 4, numRuns: 1000 },
    );
  },
);

it.each(MODBUS_FRAMINGS)(
  '$name: leaves cover every byte exactly once, in any frame or junk, read either way',
  ({ read, encode, anatomy }) => {
    const frames = fc.oneof(messages, USER_DEFINED).map(([direction, message]) => {
      const built = encode(message, direction);
      if (!built.ok) throw new Error(built.error[0]?.text);
      return built.value;
    });
    const damaged = fc
      .tuple(frames, fc.nat(300), fc.uint8Array({ maxLength: 5 }))
      .map(([bytes, cut, more]) => Uint8Array.from([...bytes.slice(0, cut), ...more]));
    const flipped = fc.tuple(frames, fc.nat(), fc.integer({ min: 0, max: 255 })).map(([bytes, at, value]) => {
      const bad = bytes.slice();
      bad[at % bad.length] = value;
      return bad;
    });
    fc.assert(
      fc.property(
        fc.oneof(frames, damaged, flipped, fc.uint8Array({ maxLength: 300 })),
        fc.constantFrom<Direction>('request', 'response'),
        (bytes, direction) => {
          const leaves = leavesOf(anatomy(bytes, read(bytes, direction)));
          expect(leaves.flatMap(({ start, end }) => Array.from({ length: end - start }, (_, i) => start + i))).toEqual([
            ...bytes.keys(),
          ]);
          expect(new Set(leaves.map(({ path }) => path)).size).toBe(leaves.length);
        },
      ),
      { seed: 5, numRuns: 1000 },
    );
  },
);

it('writing a leaf’s own value back changes nothing', () => {
  fc.assert(
    fc.property(messages, ([direction, message]) => {
      const bytes = build(message, direction);
      for (const leaf of leavesOf(anatomyRtu(bytes, readRtu(bytes, direction)))) {
        if (leaf.codec === 'bytes') continue;
        const spliced = spliceField(bytes, leaf, leaf.value as number);
        expect(spliced.ok && [...spliced.value]).toEqual([...bytes]);
      }
    }),
    { seed: 6, numRuns: 300 },
  );
});

describe('damage (CRC-16: up to 3 flipped bits, one burst up to 16, appended zeros: always reported)', () => {
  const RUNS = 10_000;
  const random = seededRandom(20260);
  const samples = fc.sample(messages, { seed: 8, numRuns: 400 });
  const sample = (): Uint8Array => {
    const [direction, message] = samples[pick(random, samples.length)]!;
    return build(message, direction);
  };
  const reported = (bytes: Uint8Array): boolean => {
    const { faults, readings = [] } = decodeRtu(bytes);
    return faults.length > 0 || readings.some((reading) => reading.faults.length > 0);
  };
  const flip = (bytes: Uint8Array, bit: number): void => {
    bytes[bit >> 3] = (bytes[bit >> 3] ?? 0) ^ (1 << (bit & 7));
  };

  it('flipped bits', () => {
    for (let i = 0; i < RUNS; i++) {
      const bytes = sample();
      const bits = new Set<number>();
      while (bits.size < 1 + (i % 3)) bits.add(pick(random, 8 * bytes.length));
      for (const bit of bits) flip(bytes, bit);
      if (!reported(bytes)) throw new Error(`run ${i}: ${[...bytes].join(' ')} was taken for good`);
    }
    expect(reported(sample())).toBe(false);
  });

  it('bursts', () => {
    for (let i = 0; i < RUNS; i++) {
      const bytes = sample();
      // Bit order on the wire is low bit first, so a burst is a stretch in exactly this numbering.
      const start = pick(random, 8 * bytes.length - 16);
      const pattern = 1 + pick(random, 0xffff);
      for (let bit = 0; bit < 16; bit++) if (pattern & (1 << bit)) flip(bytes, start + bit);
      if (!reported(bytes)) throw new Error(`run ${i}: ${[...bytes].join(' ')} was taken for good`);
    }
  });

  it('appended zeros', () => {
    for (let i = 0; i < RUNS; i++) {
      const [direction, message] = samples[pick(random, samples.length)]!;
      const frame = build(message, direction);
      // Behind a body of which only the check tells the length, a single zero may as well be the check's high byte.
      const least = frame[1] === 43 && frame[2] === 13 ? 2 : 1;
      const bytes = Uint8Array.from([...frame, ...new Uint8Array(least + (i % 9))]);
      // Without the direction a read request with zeros behind it can be a whole reply with the check 0000.
      if (readRtu(bytes, direction).faults.length === 0)
        throw new Error(`run ${i}: ${[...bytes].join(' ')} was taken for good`);
    }
  });

  it('heavy damage is taken for good in less than 1.5 × 2^-16 of the cases', () => {
    const HEAVY = 100_000;
    let accepted = 0;
    for (let i = 0; i < HEAVY; i++) {
      const bytes = sample();
      for (let k = 0; k < bytes.length; k++) if (k > 1) bytes[k] = pick(random, 256);
      if (!reported(bytes)) accepted++;
    }
    process.stdout.write(`heavy damage taken for good: ${accepted} of ${HEAVY}\n`);
    expect(accepted / HEAVY).toBeLessThan(1.5 / 65536);
  });
});

/** Bytes that look like a frame at their beginning, so that every function's reader sees its share of nonsense. */
function nonsense(random: Random, id: string): Uint8Array {
  const bytes = Uint8Array.from({ length: pick(random, 60) }, () => pick(random, 256));
  const codes = [1, 3, 5, 7, 8, 11, 12, 15, 16, 17, 20, 21, 22, 23, 24, 43, 131, pick(random, 256)];
  const code = codes[pick(random, codes.length)] ?? 0;
  if (id === 'modbus-rtu') bytes.set([3, code].slice(0, bytes.length));
  if (id === 'modbus-tcp') bytes.set([0, 1, 0, 0, 0, bytes.length - 6, 1, code].slice(0, bytes.length));
  if (id !== 'modbus-ascii') return bytes;
  const text = `:03${code.toString(16).padStart(2, '0')}${Array.from(bytes, (byte) => (byte % 23 ? (byte & 15).toString(16) : '~')).join('')}\r\n`;
  return textToBytes(text.slice(0, text.length - (pick(random, 4) ? 0 : 1)));
}

it.each(MODBUS_FRAMINGS)(
  '$name: 100,000 damaged inputs: nothing throws, every fault has its place',
  ({ read, probe, id }) => {
    const SEED = 99;
    const random = seededRandom(SEED);
    for (let i = 0; i < 100_000; i++) {
      const bytes = nonsense(random, id);
      for (const direction of ['request', 'response'] as const) {
        probe(bytes, 0, bytes.length, direction);
        for (const { start, end, text } of read(bytes, direction).faults)
          if (start < 0 || end < start || end > bytes.length || !text)
            throw new Error(`seed ${SEED}, run ${i}: ${[...bytes].join(' ')} has a fault at ${start} to ${end}`);
      }
    }
  },
);

describe('scan', () => {
  it('finds frames cut out of any place, two in a chunk, and tells where more is needed', () => {
    fc.assert(
      fc.property(fc.array(messages, { minLength: 1, maxLength: 4 }), fc.nat(), (list, cutAt) => {
        const replies = list
          .filter(([direction]) => direction === 'response')
          .map(([direction, message]) => build(message, direction));
        const stream = Uint8Array.from(replies.flatMap((frame) => [...frame]));
        const whole = framesIn(stream, 'response');
        expect(whole.count).toBe(replies.length);
        expect(whole.pendingFrom).toBe(stream.length);
        const cut = stream.length === 0 ? 0 : cutAt % stream.length;
        const first = framesIn(stream, 'response', cut);
        const rest = framesIn(stream.slice(first.pendingFrom), 'response');
        expect(first.count + rest.count).toBe(replies.length);
      }),
      { seed: 12, numRuns: 400 },
    );
  });

  it('skips junk between frames', () => {
    const reply = build({ unit: 3, fc: 3, values: [1, 2] }, 'response');
    const stream = Uint8Array.from([0xff, 0x00, ...reply, 0x55, ...reply]);
    const found = framesIn(stream, 'response');
    expect([...found.starts]).toEqual([2, 2 + reply.length + 1]);
  });
});
