import { pick, seededRandom } from '../random/random';
import { KeptTexts } from './kept-texts';

const random = seededRandom(22);
const LETTERS = ['a', 'b', 'ab', ' ', 'µ', '“', '→', '🛑', '\n', ''];
const text = (most: number): string =>
  Array.from({ length: pick(random, most) }, () => LETTERS[pick(random, 10)]).join('');

it('finds in each text what it has in it, and in no text what begins in the one before', () => {
  const kept = new KeptTexts();
  const texts = Array.from({ length: 40_000 }, () => text(12));
  const numbers = texts.map((one) => kept.add(one));
  expect(new Set(numbers).size).toBe(texts.length);
  for (const words of ['a', 'ab', 'ba', 'aab', 'µ', '“→', '🛑', ' \n', 'aba b', '', 'nowhere']) {
    const has = kept.having(words);
    const wrong = texts.filter((one, i) => has(numbers[i]!) !== one.includes(words));
    expect(wrong).toEqual([]);
  }
});

it('looks through what is kept later too', () => {
  const kept = new KeptTexts();
  const has = kept.having('late');
  const texts = ['late', 'in time', 'too late', 'la', 'te'];
  expect(texts.map((one) => has(kept.add(one)))).toEqual([true, false, true, false, false]);
});

it('keeps no text that has no room, and says so', () => {
  const kept = new KeptTexts();
  expect(kept.add('x'.repeat(400_000))).toBe(0);
  const long = 'y'.repeat(300_000);
  const numbers = Array.from({ length: 400 }, () => kept.add(long));
  const first = numbers.indexOf(0);
  expect(first).toBeGreaterThan(100);
  expect(numbers.slice(first).every((number) => number === 0)).toBe(true);
  expect(numbers.slice(0, first).every(kept.having('yyy'))).toBe(true);
});
