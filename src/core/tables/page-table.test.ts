import fc from 'fast-check';
import { linesOfPage, type PlacedText } from './page-lines';
import { tableOfPages } from './page-table';

const PAGE = { x: 0, y: 0, width: 600, height: 800 };

/** Text at a place, in letters of ten points that are five wide. */
const at = (x: number, y: number, text: string): PlacedText => ({ text, x, y, width: text.length * 5, height: 10 });
const table = (placed: readonly PlacedText[], columns?: readonly number[]) =>
  tableOfPages([{ page: 7, placed, frame: PAGE }], columns);

it('joins letters to words, words to pieces, and takes what stands a little higher into the line', () => {
  const lines = linesOfPage(
    [at(40, 100, 'Ra'), at(50, 100, 'mp'), at(64, 100, 'up'), at(74, 97, '1'), at(200, 100, 's')],
    PAGE,
  );
  expect(lines.map(({ pieces }) => pieces.map(({ text }) => text))).toEqual([['Ramp up1', 's']]);
});

it('parts columns at gutters that one long cell may not close, and leaves out what is not framed', () => {
  const placed = Array.from({ length: 40 }, (_, i) => [
    at(40, 20 * i, `${100 + i}`),
    at(120, 20 * i, 'Speed'),
    at(220, 20 * i, 'Hz'),
  ]).flat();
  const { columns, text } = table([...placed, at(40, 790, '400'), at(120, 790, 'A name that runs far to the right')]);
  expect(columns).toEqual([40, 120, 220]);
  expect(text.split('\n')).toHaveLength(41);
  const framed = tableOfPages([{ page: 1, placed, frame: { x: 100, y: 95, width: 400, height: 30 } }]);
  expect(framed.text).toBe('Speed\tHz\nSpeed\tHz');
});

it('deals lines without a key to the row that they are nearer to: above where it wraps, below where the key stands in the middle', () => {
  const rows = [at(40, 200, '103'), at(120, 200, 'Current')];
  const top = [at(40, 0, '101'), at(120, 0, 'Speed'), at(120, 12, 'limit'), at(40, 40, '102'), at(120, 40, 'Torque')];
  expect(table([...top, ...rows]).text).toBe('101\tSpeed\n\tlimit\n102\tTorque\n103\tCurrent');
  const middle = [
    at(40, 6, '101'),
    at(120, 0, 'Speed'),
    at(120, 12, 'limit'),
    at(40, 40, '102'),
    at(120, 34, 'Torque'),
    at(120, 46, 'now'),
  ];
  expect(table([...middle, ...rows]).text).toBe('101\tSpeed\n\tlimit\n102\tTorque\n\tnow\n103\tCurrent');
});

it('knows the page and the place of every line', () => {
  const row = [at(40, 50, '101'), at(120, 50, 'Speed')];
  const { places, text } = tableOfPages([
    { page: 3, placed: row, frame: PAGE },
    { page: 4, placed: [at(40, 90, '102'), at(120, 90, 'Torque')], frame: PAGE },
  ]);
  expect(text).toBe('101\tSpeed\n102\tTorque');
  expect(places).toEqual([
    { page: 3, frame: { x: 40, y: 50, width: 105, height: 10 } },
    { page: 4, frame: { x: 40, y: 90, width: 110, height: 10 } },
  ]);
});

it('takes columns that are given', () => {
  const row = [at(40, 0, '101'), at(80, 0, 'Speed'), at(120, 0, 'Hz')];
  expect(table(row, [40, 110]).text).toBe('101 Speed\tHz');
});

it('takes any pieces: no letter is lost or made up, whatever their places', () => {
  const piece = fc.record({
    text: fc.string({ minLength: 1, maxLength: 12 }).map((text) => text.replace(/\s/g, '') || 'x'),
    x: fc.double({ min: 0, max: 600, noNaN: true }),
    y: fc.double({ min: 0, max: 800, noNaN: true }),
    width: fc.double({ min: 0, max: 300, noNaN: true }),
    height: fc.double({ min: 1, max: 40, noNaN: true }),
  });
  const letters = (text: string): string => [...text.replace(/\s/g, '')].sort().join('');
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 40 }), (placed) => {
      const { text, places } = tableOfPages([{ page: 1, placed, frame: { x: -1, y: -1, width: 2000, height: 2000 } }]);
      expect(letters(text)).toBe(letters(placed.map((one) => one.text).join('')));
      expect(places).toHaveLength(text === '' ? 0 : text.split('\n').length);
    }),
  );
});

it.each<[string, (i: number) => PlacedText]>([
  ['all over each other', (i) => at(i % 500, 10, '1')],
  ['a line each', (i) => at(i % 7, i * 11, 'word')],
  ['columns without end', (i) => ({ ...at((i % 5000) * 6, Math.floor(i / 5000) * 20, 'x'), width: 3 })],
])('takes a page of 130,000 pieces, %s', (_, piece) => {
  const placed = Array.from({ length: 130_000 }, (__, i) => piece(i));
  const frame = { x: -1, y: -1, width: 1e7, height: 1e7 };
  const { text, columns } = tableOfPages([{ page: 1, placed, frame }]);
  expect(text.replace(/\s/g, '')).toHaveLength(placed.reduce((sum, one) => sum + one.text.length, 0));
  expect(columns.length).toBeLessThanOrEqual(80);
});

it('leaves out what has no place', () => {
  const lost = [NaN, Infinity, -Infinity].flatMap((x) => [
    { ...at(1, 1, 'lost'), x },
    { ...at(1, 1, 'lost'), width: x },
  ]);
  expect(table([...lost, { ...at(1, 1, 'flat'), height: 0 }, at(40, 0, '101')]).text).toBe('101');
});
