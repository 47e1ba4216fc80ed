import type { PlacedText } from '../../../core/tables/page-lines';
import { nextPageWith, piecesWith } from './find-text';
import type { Manual } from './pdf-document';

const at = (x: number, text: string): PlacedText => ({ text, x, y: 10, width: text.length * 5, height: 10 });
/** A manual of pages that each hold one line. */
const manualOf = (...pages: readonly string[]): Manual => ({
  name: 'm.pdf',
  digest: '',
  file: new Blob([]),
  pages: pages.length,
  size: () => Promise.resolve({ width: 600, height: 800 }),
  text: (page) => Promise.resolve([at(40, pages[page - 1] ?? '')]),
  draw: () => ({ done: Promise.resolve(), cancel: () => undefined }),
  close: () => undefined,
});
const always = (): boolean => true;

it('finds words that the file holds one by one, capitals aside', () => {
  expect(piecesWith([at(40, 'Ramp'), at(63, 'UP'), at(76, 'time'), at(300, 's')], 'ramp up').map(({ x }) => x)).toEqual(
    [40],
  );
  expect(piecesWith([at(40, 'Ramp')], '  ')).toEqual([]);
});

it('goes round the manual from the page behind the one that is looked at, and ends where none has it', async () => {
  const manual = manualOf('ramp', 'fault list', 'ramp down');
  await expect(nextPageWith(manual, 'ramp', 2, always)).resolves.toBe(3);
  await expect(nextPageWith(manual, 'ramp', 4, always)).resolves.toBe(1);
  await expect(nextPageWith(manual, 'brake', 1, always)).resolves.toBeNull();
});

it('ends when it is told to', async () => {
  const looked: number[] = [];
  const found = await nextPageWith(manualOf('a', 'b', 'c', 'd'), 'd', 1, (count) => looked.push(count) < 3);
  expect(found).toBeNull();
  expect(looked).toEqual([0, 1, 2]);
});
