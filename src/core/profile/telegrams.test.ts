import { placed, TELEGRAMS, wordsIn } from './telegrams';

/** Words to the drive and from it (IEC 61800-7-203, from memory). */
it.each([
  [1, 2, 2],
  [2, 4, 4],
  [3, 5, 9],
  [4, 6, 14],
  [5, 9, 9],
  [6, 10, 14],
  [7, 2, 2],
  [8, 5, 3],
  [9, 10, 5],
  [20, 2, 6],
])('telegram %i has %i words out and %i in', (number, out, back) => {
  const telegram = TELEGRAMS.find((known) => known.number === number)!;
  expect([wordsIn(telegram.out), wordsIn(telegram.in)]).toEqual([out, back]);
});

it('says of the one that is not sure that it is not', () => {
  expect(TELEGRAMS.filter(({ isUnsure }) => isUnsure).map(({ number }) => number)).toEqual([8]);
});

it('every telegram begins with control word 1 and status word 1, and no two items overlap', () => {
  for (const { out, in: back } of TELEGRAMS) {
    expect([out[0]?.signal, back[0]?.signal]).toEqual(['STW1', 'ZSW1']);
    for (const items of [placed(out), placed(back)])
      items.forEach(({ at, words }, i) => expect(items[i + 1]?.at ?? at + words).toBe(at + words));
  }
});
