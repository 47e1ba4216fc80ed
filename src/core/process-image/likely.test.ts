import { pick, seededRandom } from '../random/random';
import { shippedIndex } from '../../../tests/harness/sheets';
import { blockOfList, TELEGRAM_BLOCKS, type Block } from './blocks';
import { buildImage, IMAGE_ORDERS, type ImageOrder } from './image';
import { knownItem, likelyReadings, windowOf, type KnownItem } from './likely';

const telegram = (id: string): Block => TELEGRAM_BLOCKS.find((block) => block.id === id)!;
const ORDERS = Object.keys(IMAGE_ORDERS) as ImageOrder[];

/** A drive that is enabled and turns at 37 %: S4 of PROFIdrive shows bits 0 to 2, with OFF2 and OFF3 not active (IEC 61800-7-203, from memory). */
const TURNING = { ZSW1: `${0x0237}`, NIST_B: '397284474', G1_XIST1: '74565', G1_XIST2: '0', ZSW2: '0' };

const made = (block: Block, order: ImageOrder, values: Readonly<Record<string, string>>): Uint8Array =>
  buildImage(block.items, block.size, order, new Map(Object.entries(values))).bytes;

const known = (block: Block, texts: Readonly<Record<string, string>>): ReadonlyMap<string, KnownItem> =>
  new Map(
    Object.entries(texts).map(([name, text]) => {
      const read = knownItem(
        null,
        block.items.find((item) => item.name === name)!,
        text,
      );
      if (!read.ok) throw new Error(read.error);
      return [name, read.value] as const;
    }),
  );

it('whatever order, shift or padding a block came with, it is found from the state and two values that the display shows', () => {
  const random = seededRandom(11);
  const block = telegram('telegram-3-in');
  for (let i = 0; i < 80; i++) {
    const order = ORDERS[pick(random, ORDERS.length)]!;
    const skip = pick(random, 7);
    const values = {
      ...TURNING,
      NIST_B: `${Math.round((pick(random, 199) - 99) * 0.01 * 0x4000_0000)}`,
      G1_XIST1: `${pick(random, 2 ** 31)}`,
    };
    const bytes = Uint8Array.from([
      ...new Uint8Array(skip),
      ...made(block, order, values),
      ...new Uint8Array(pick(random, 6)),
    ]);
    const percent = `${((100 * Number(values.NIST_B)) / 0x4000_0000).toFixed(1)} %`;
    const [best] = likelyReadings(
      null,
      { block, order: 'big', skip: 0 },
      telegram('telegram-3-out'),
      bytes,
      known(block, { NIST_B: percent, G1_XIST1: values.G1_XIST1 }),
    );
    expect([best!.order, best!.skip, best!.block.id]).toEqual([order, skip, block.id]);
  }
});

it('each mistake has its sentence, and the reading as it is has none', () => {
  const block = telegram('telegram-3-in');
  const saidOf = (bytes: Uint8Array): string | undefined =>
    likelyReadings(
      null,
      { block, order: 'big', skip: 0 },
      telegram('telegram-3-out'),
      bytes,
      known(block, { NIST_B: '37 %' }),
    )[0]?.mistake;
  expect(saidOf(made(block, 'big', TURNING))).toBe('');
  expect(saidOf(made(block, 'little', TURNING))).toBe(
    'the two bytes of each word are swapped; the two words of each value of 32 bits are swapped',
  );
  expect(saidOf(made(block, 'big-swapped-words', TURNING))).toBe('the two words of each value of 32 bits are swapped');
  expect(saidOf(made(block, 'little-swapped-words', TURNING))).toBe('the two bytes of each word are swapped');
  expect(saidOf(Uint8Array.from([0, 0, 0, 0, ...made(block, 'big', TURNING)]))).toBe(
    'everything stands 4 bytes further on, as behind a head of a slot',
  );
  expect(saidOf(made(block, 'big', TURNING).subarray(2))).toBe(
    'everything stands 2 bytes too early: the first 2 bytes were not copied',
  );
});

it('bytes of the other side are taken for that', () => {
  const [out, back] = [telegram('telegram-1-out'), telegram('telegram-1-in')];
  // The control word with which it runs is no state of the status word: bit 0 without bit 9 and no OFF3.
  const bytes = made(back, 'big', { ZSW1: `${0x0237}`, NIST_A: `${0x2000}` });
  const [best] = likelyReadings(null, { block: out, order: 'big', skip: 0 }, back, bytes, new Map());
  expect(best).toMatchObject({
    block: { id: 'telegram-1-in' },
    mistake: expect.stringMatching(/^the sides are exchanged/) as string,
  });
});

it('where nothing is known, nothing else is put before what is read now', () => {
  const block = telegram('telegram-1-out');
  const bytes = made(block, 'big', { STW1: `${0x047f}`, NSOLL_A: `${0x1000}` });
  const [best, ...others] = likelyReadings(null, { block, order: 'big', skip: 0 }, null, bytes, new Map());
  expect(best).toMatchObject({ order: 'big', skip: 0, mistake: '', evidence: [] });
  expect(others.length).toBeGreaterThan(3);
});

it('two drives in one block of a gateway, one position with its words swapped: the position that the display shows finds it', () => {
  // Curlew's list: status and position, twice; 24 bytes, the rest unused.
  const index = shippedIndex('curlew');
  const status = index.byRole.get('status-word')!;
  const position = index.byRole.get('actual-position')!;
  const list = blockOfList(index, `${status.number} ${position.number} 0 0`, 'from-drive');
  if (!list.ok) throw new Error(list.error);
  const { value: block } = list;
  expect(block.size).toBe(10);
  // CiA 402: operation enabled is xxxx xxxx x01x 0111 (CiA 402-2, table of states).
  const values = { [status.number]: `${0x0637}`, [position.number]: '123456' };
  const swapped = Uint8Array.from([...made(block, 'big-swapped-words', values), ...new Uint8Array(14)]);
  const wanted = knownItem(index, block.items[1]!, '123456');
  const exact: KnownItem = wanted.ok ? wanted.value : { low: 123_456, high: 123_456, said: '123456' };
  const [best, next] = likelyReadings(
    index,
    { block, order: 'big', skip: 0 },
    null,
    swapped,
    new Map([[position.number, { ...exact, low: 123_000, high: 124_000 }]]),
  );
  expect(best).toMatchObject({
    order: 'big-swapped-words',
    skip: 0,
    mistake: 'the two words of each value of 32 bits are swapped',
  });
  expect(best!.evidence.map(({ text }) => text)).toEqual([
    expect.stringMatching(/^\S+ would be “Operation enabled”$/i),
    expect.stringMatching(/^\S+ would be 123456, which is the /),
    'the 14 bytes that would be no part of it are 0',
  ]);
  expect(best!.score).toBeGreaterThan(next!.score);
});

it('what was not copied says nothing, and bytes that are too few are read as far as they go', () => {
  const block = telegram('telegram-3-in');
  expect([...windowOf(Uint8Array.of(1, 2, 3), 4, 1)]).toEqual([2, 3, 0, 0]);
  expect([...windowOf(Uint8Array.of(1, 2, 3), 4, -1)]).toEqual([0, 1, 2, 3]);
  for (const { evidence } of likelyReadings(
    null,
    { block, order: 'big', skip: 0 },
    null,
    new Uint8Array(0),
    known(block, { NIST_B: '5 %' }),
  ))
    expect(evidence).toEqual([]);
});

it('a value that is known is typed in percent, by the sheet, or as counts; anything else is said', () => {
  const [item] = telegram('telegram-1-in').items.slice(1);
  expect(knownItem(null, item!, '50 %')).toEqual({
    ok: true,
    value: { low: 8192 * 0.98, high: 8192 * 1.02, said: '50 %' },
  });
  expect(knownItem(null, item!, 'fast')).toMatchObject({ ok: false });
  const index = shippedIndex('dunlin');
  const setting = index.parameters.find(({ choices, cells }) => choices && cells.length === 1)!;
  const named = setting.choices![1]!;
  expect(knownItem(index, { name: setting.number, what: '', type: 'uint16', byte: 0 }, named.name)).toMatchObject({
    ok: true,
    value: { said: named.name },
  });
});

it('a list of values says which number is wrong', () => {
  const index = shippedIndex('curlew');
  expect(blockOfList(index, '', 'to-drive')).toMatchObject({ ok: false });
  expect(blockOfList(index, 'nothing', 'to-drive')).toEqual({ ok: false, error: 'the sheet has no nothing' });
  const number = index.byRole.get('control-word')!.number;
  const twice = blockOfList(index, `${number}, 0; ${number}`, 'to-drive');
  expect(twice.ok && twice.value.items.map(({ name, byte }) => [name, byte])).toEqual([
    [number, 0],
    [`${number} (2)`, 4],
  ]);
  expect(blockOfList(index, Array.from({ length: 65 }, () => number).join(' '), 'to-drive')).toMatchObject({
    ok: false,
  });
});
