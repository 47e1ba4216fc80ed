import fc from 'fast-check';
import { leavesOf, spliceField } from '../bytes/field';
import { bitwiseCrc } from '../../standin/rtu-server';
import { seededRandom, pick } from '../random/random';
import { anatomyRtu } from './anatomy';
import { encodeRtu } from './encode';
import type { Direction } from './layout';
import type { ModbusMessage } from './message';
import { decodeRtu, readRtu } from './rtu';
import { scanRtu } from './scan';

const word = fc.integer({ min: 0, max: 0xffff });
const unit = fc.integer({ min: 0, max: 247 });
const words = (max: number) => fc.array(word, { minLength: 1, maxLength: max });

/** Messages that the standard allows, by direction. */
const messages: fc.Arbitrary<readonly [Direction, ModbusMessage]> = fc.oneof(
  fc
    .record({
      unit,
      fc: fc.constantFrom(3, 4),
      address: fc.integer({ min: 0, max: 65000 }),
      quantity: fc.integer({ min: 1, max: 125 }),
    })
    .map((m) => ['request', m] as const),
  fc.record({ unit, fc: fc.constantFrom(3, 4), values: words(125) }).map((m) => ['response', m] as const),
  fc
    .tuple(unit, word, word, fc.constantFrom<Direction>('request', 'response'))
    .map(([u, address, value, direction]) => [direction, { unit: u, fc: 6, address, values: [value] }] as const),
  fc
    .tuple(unit, fc.integer({ min: 0, max: 65000 }), words(123))
    .map(([u, address, values]) => ['request', { unit: u, fc: 16, address, quantity: values.length, values }] as const),
  fc
    .record({
      unit,
      fc: fc.constant(16),
      address: fc.integer({ min: 0, max: 65000 }),
      quantity: fc.integer({ min: 1, max: 123 }),
    })
    .map((m) => ['response', m] as const),
  fc
    .record({ unit, fc: fc.constantFrom(3, 4, 6, 16), exception: fc.constantFrom(1, 2, 3, 4, 5, 6, 8, 10, 11) })
    .map((m) => ['response', m] as const),
);

const build = (message: ModbusMessage, direction: Direction): Uint8Array => {
  const built = encodeRtu(message, direction);
  if (!built.ok) throw new Error(built.error[0]?.text);
  return built.value;
};

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

it('leaves cover every byte exactly once, in any frame or junk, read either way', () => {
  const frames = messages.map(([direction, message]) => build(message, direction));
  const damaged = fc
    .tuple(frames, fc.nat(300), fc.uint8Array({ maxLength: 5 }))
    .map(([bytes, cut, more]) => Uint8Array.from([...bytes.slice(0, cut), ...more]));
  fc.assert(
    fc.property(
      fc.oneof(frames, damaged, fc.uint8Array({ maxLength: 300 })),
      fc.constantFrom<Direction>('request', 'response'),
      (bytes, direction) => {
        const leaves = leavesOf(anatomyRtu(bytes, readRtu(bytes, direction)));
        expect(leaves.flatMap(({ start, end }) => Array.from({ length: end - start }, (_, i) => start + i))).toEqual([
          ...bytes.keys(),
        ]);
        expect(new Set(leaves.map(({ path }) => path)).size).toBe(leaves.length);
      },
    ),
    { seed: 5, numRuns: 1000 },
  );
});

it('writing a leaf’s own value back changes nothing', () => {
  fc.assert(
    fc.property(messages, ([direction, message]) => {
      const bytes = build(message, direction);
      for (const leaf of leavesOf(anatomyRtu(bytes, readRtu(bytes, direction)))) {
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
      const bytes = Uint8Array.from([...sample(), ...new Uint8Array(1 + (i % 9))]);
      if (!reported(bytes)) throw new Error(`run ${i}: ${[...bytes].join(' ')} was taken for good`);
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

it('10,000 random byte strings: nothing throws, and whatever is understood has its place', () => {
  const random = seededRandom(99);
  for (let i = 0; i < 10_000; i++) {
    const bytes = Uint8Array.from({ length: pick(random, 300) }, () => pick(random, 256));
    const decoded = decodeRtu(bytes);
    for (const { start, end } of decoded.faults)
      expect(start >= 0 && end >= start && end <= Math.max(bytes.length, 0)).toBe(true);
    scanRtu(bytes, 'response');
    scanRtu(bytes, 'request');
  }
});

describe('scan', () => {
  it('finds frames cut out of any place, two in a chunk, and tells where more is needed', () => {
    fc.assert(
      fc.property(fc.array(messages, { minLength: 1, maxLength: 4 }), fc.nat(), (list, cutAt) => {
        const replies = list
          .filter(([direction]) => direction === 'response')
          .map(([direction, message]) => build(message, direction));
        const stream = Uint8Array.from(replies.flatMap((frame) => [...frame]));
        const whole = scanRtu(stream, 'response');
        expect(whole.count).toBe(replies.length);
        expect(whole.pendingFrom).toBe(stream.length);
        const cut = stream.length === 0 ? 0 : cutAt % stream.length;
        const first = scanRtu(stream, 'response', cut);
        const rest = scanRtu(stream.slice(first.pendingFrom), 'response');
        expect(first.count + rest.count).toBe(replies.length);
      }),
      { seed: 12, numRuns: 400 },
    );
  });

  it('skips junk between frames', () => {
    const reply = build({ unit: 3, fc: 3, values: [1, 2] }, 'response');
    const stream = Uint8Array.from([0xff, 0x00, ...reply, 0x55, ...reply]);
    const found = scanRtu(stream, 'response');
    expect([...found.starts]).toEqual([2, 2 + reply.length + 1]);
  });
});
