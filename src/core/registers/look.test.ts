import fc from 'fast-check';
import {
  afterReply,
  beginLook,
  lookAgain,
  MOST_SILENCES,
  movedBetween,
  nextAsk,
  progressOf,
  type Look,
  type LookReply,
} from './look';

/** A drive that has these registers, and refuses some of them for another reason. */
const answerOf =
  (words: ReadonlyMap<number, number>, locked: ReadonlySet<number> = new Set()) =>
  (first: number, quantity: number): LookReply => {
    const wanted = Array.from({ length: quantity }, (_, i) => first + i);
    if (wanted.some((address) => !words.has(address) && !locked.has(address))) return { kind: 'exception', code: 2 };
    if (wanted.some((address) => locked.has(address))) return { kind: 'exception', code: 4 };
    return { kind: 'words', words: wanted.map((address) => words.get(address)!) };
  };

function finish(look: Look, answer: ReturnType<typeof answerOf>): Look {
  let own = look;
  for (let ask = nextAsk(own); ask; ask = nextAsk(own)) {
    own = afterReply(own, answer(ask.first, ask.quantity));
    if (own.requests > 10_000) throw new Error('a look that never ends');
  }
  return own;
}

it('every address of the range is known at the end: there, missing or refused', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 0, max: 300 }), { maxLength: 120 }),
      fc.uniqueArray(fc.integer({ min: 0, max: 300 }), { maxLength: 10 }),
      (there, refused) => {
        const words = new Map(
          there.filter((address) => !refused.includes(address)).map((address) => [address, address * 7]),
        );
        const look = finish(beginLook('holding-register', 0, 300), answerOf(words, new Set(refused)));
        expect(progressOf(look)).toEqual({ known: 301, of: 301 });
        for (let address = 0; address <= 300; address++)
          expect(look.found.get(address)).toEqual(
            words.has(address)
              ? { kind: 'there', word: address * 7 }
              : refused.includes(address)
                ? { kind: 'refused', code: 4 }
                : { kind: 'missing' },
          );
      },
    ),
    { seed: 17, numRuns: 60 },
  );
});

it('a full table costs one request a block; one hole costs a few more', () => {
  const all = new Map(Array.from({ length: 256 }, (_, i) => [i, i]));
  expect(finish(beginLook('input-register', 0, 255), answerOf(all)).requests).toBe(8);
  all.delete(100);
  expect(finish(beginLook('input-register', 0, 255), answerOf(all)).requests).toBe(8 + 2 * 5);
});

it('a silence asks the same again, and counts', () => {
  let look = beginLook('coil', 5, 9);
  for (let i = 0; i < MOST_SILENCES; i++) look = afterReply(look, { kind: 'silent' });
  expect(look.silences).toBe(MOST_SILENCES);
  expect(nextAsk(look)).toEqual({ first: 5, quantity: 5 });
  expect(afterReply(look, { kind: 'words', words: [1, 0, 1, 0, 1] }).silences).toBe(0);
});

it('a range is taken either way round and stays within a table', () => {
  expect(beginLook('holding-register', 9, 3)).toMatchObject({ from: 3, to: 9 });
  expect(beginLook('holding-register', 65_530, 90_000)).toMatchObject({ from: 65_530, to: 65_535 });
});

it('what moved is told as words and, with its neighbour, as values of 32 bits in both orders', () => {
  const words = new Map([
    [4, 0],
    [5, 100],
    [8, 0x4148],
    [9, 0],
    [12, 7],
  ]);
  const before = finish(beginLook('holding-register', 0, 20), answerOf(words));
  words.set(5, 140).set(8, 0x4150);
  const after = finish(lookAgain(before), answerOf(words));
  expect(after.requests).toBe(3);
  const moved = movedBetween(before, after);
  expect(moved.map(({ address, before: was, after: is }) => [address, was, is])).toEqual([
    [5, 100, 140],
    [8, 0x4148, 0x4150],
  ]);
  // 41480000 is 12.5, 41500000 is 13 (IEEE 754).
  expect(moved[1]?.wide).toContainEqual({ as: 'float32 ABCD', before: 12.5, after: 13 });
});

it('a function that the drive does not know ends a look at once: halving would ask 131,071 times', () => {
  const look = afterReply(beginLook('input-register', 0, 0xffff), { kind: 'exception', code: 1 });
  expect(nextAsk(look)).toBeNull();
  expect(look.requests).toBe(1);
  expect(progressOf(look)).toEqual({ known: 65536, of: 65536 });
  expect(look.found.get(40000)).toEqual({ kind: 'refused', code: 1 });
});
