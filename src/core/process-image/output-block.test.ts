import { shippedIndex } from '../../../tests/harness/sheets';
import { cycleBlocks } from './cycle-blocks';
import { itemName, itemsOf, outputBlock } from './output-block';

const index = shippedIndex('tern');
const made = cycleBlocks(index);
if (!made.ok) throw new Error(made.error);
const { out } = made.value[0]!;
const nothing = (): undefined => undefined;

it('begins with the word of rest and what the drive holds; what was not read keeps it from going out', () => {
  const empty = outputBlock(index, out, nothing, nothing);
  expect(empty.words).toBeNull();
  expect(empty.why).toBe('what 11.02 ramp time holds was not read, and nothing is typed for it');
  const held = outputBlock(index, out, nothing, ({ role }) =>
    role === 'ramp-time' ? 50 : role === 'speed-reference' ? 0 : 9999,
  );
  // The last stop word of Tern's sheet, whatever the drive holds now: nothing that runs is taken over unseen.
  const { words } = index.sheet.commands!.stop;
  expect(held).toMatchObject({ words: [words[words.length - 1], 50, 0], why: '', control: words[words.length - 1] });
});

it('takes values as people type them, and says which one is none', () => {
  const typed = (texts: Readonly<Record<string, string>>) =>
    outputBlock(
      index,
      out,
      ({ parameter }) => texts[parameter?.number ?? ''],
      () => 0,
    );
  expect(typed({ '11.01': '0x000D', '11.02': '2 s', '11.03': '-17.5 Hz' })).toMatchObject({
    // -17.5 / 55 × 12287 = -3909.5, rounded down; backward as the complement (Tern's sheet).
    words: [13, 20, 0x10000 - 3910],
    control: 13,
    why: '',
  });
  expect(typed({ '11.02': 'soon' })).toMatchObject({
    words: null,
    why: expect.stringMatching(/^11\.02 ramp time: /) as string,
  });
  expect(typed({ '11.03': '99999' })).toMatchObject({ words: null });
  expect(typed({ '11.02': '   ' })).toMatchObject({
    words: null,
    why: expect.stringMatching(/nothing is typed for it$/) as string,
  });
});

it('a word that the sheet does not know is a plain number, and values over several words are one item', () => {
  const curlew = shippedIndex('curlew');
  const target = curlew.byRole.get('target-position')!;
  const words = [{ cell: out[0]!.cell, parameter: null }, ...target.cells.map((cell) => ({ cell, parameter: target }))];
  expect(itemsOf(words).map(({ at, cells }) => [at, cells.length])).toEqual([
    [0, 1],
    [1, 2],
  ]);
  expect(itemName(itemsOf(words)[0]!)).toBe('word 0');
  const typed = (first: string) =>
    outputBlock(curlew, words, ({ parameter }) => (parameter ? '0x00012345' : first), nothing);
  expect(typed('65535').words).toEqual([65_535, 1, 0x2345]);
  expect(typed('65536')).toMatchObject({ words: null, why: 'word 0: a word from 0 to 65535' });
});
