import { shippedIndex } from '../../../tests/harness/sheets';
import { meaningOf } from '../drive/describe';
import { indexSheet, type SheetIndex } from '../sheet/index-sheet';
import { loadSheet } from '../sheet/load-sheet';
import { registerCell } from '../sheet/place';
import { sheetFile } from '../sheet/sheet-file';
import type { Sheet } from '../sheet/sheet';
import { blockIntoSheet, type BlockAt } from './block-into-sheet';
import { blocksName, cycleBlocks } from './cycle-blocks';
import { readImage } from './image';
import type { OwnBlock } from './own-block-schema';
import { lengthOf } from './pack';

type Item = OwnBlock['items'][number];
const item = (name: string, type: Item['type'], byte: number, what = ''): Item => ({ name, what, type, byte });
const block = (direction: OwnBlock['direction'], items: Item[], order: OwnBlock['order'] = 'big'): OwnBlock => ({
  id: 'b',
  name: 'B',
  direction,
  order,
  start: 100,
  counts: 'bytes',
  size: lengthOf(items),
  items,
});
const registers = (first: number, table: 'holding-register' | 'input-register' = 'holding-register'): BlockAt => ({
  kind: 'registers',
  table,
  first,
});

/** The sheet as it is read again with the block in it. */
function withBlock(index: SheetIndex, own: OwnBlock, at: BlockAt): SheetIndex {
  const { parameters } = blockIntoSheet(index, own, at);
  const loaded = loadSheet(sheetFile({ ...index.sheet, parameters } as Sheet));
  expect(loaded.ok ? '' : loaded.error).toBe('');
  return indexSheet((loaded as { value: Sheet }).value);
}

it('a block over the values of a drive is a further way to each, and the controller is played over it', () => {
  const tern = shippedIndex('tern');
  const number = (role: Parameters<typeof tern.byRole.get>[0]): string => tern.byRole.get(role)?.number ?? '';
  const out = block('to-drive', [item(number('control-word'), 'uint16', 0), item('speed reference', 'int16', 2)]);
  const into = block('from-drive', [
    item(number('status-word'), 'uint16', 0),
    item(number('actual-speed'), 'int16', 2),
  ]);
  const both = withBlock(withBlock(tern, out, registers(4200)), into, registers(4300));
  const made = cycleBlocks(both);
  expect(made.ok && made.value.map(blocksName)).toContain('4200 to 4201 out, 4300 to 4301 in');
  // One value, by whichever way it is reached; the usual way stays the first.
  const control = both.byRole.get('control-word');
  expect(both.byCell.get(registerCell(4200))).toBe(control);
  expect(control?.place).toEqual(tern.byRole.get('control-word')?.place);
  // A second time the sheet has nothing to gain.
  expect(blockIntoSheet(both, out, registers(4200))).toMatchObject({ further: [], fresh: [], left: [] });
});

it('what the sheet does not know becomes an entry; what comes from the drive is never written', () => {
  const tern = shippedIndex('tern');
  const own = block('from-drive', [item('torque now', 'float32', 0, 'at the shaft'), item('life', 'uint16', 4)]);
  const index = withBlock(tern, own, registers(700, 'input-register'));
  expect(index.byNumber.get('torque now')).toMatchObject({
    name: 'at the shaft',
    type: 'float32',
    write: 'never',
    place: { kind: 'register', table: 'input-register', address: 700 },
  });
  expect(index.byNumber.get('life')?.place).toMatchObject({ address: 702 });
});

it('an order of bytes is kept by an entry of its own, and keeps a further way out where it is another one', () => {
  const curlew = shippedIndex('curlew');
  const wide = [...curlew.byNumber.values()].find(({ type, place }) => type === 'int32' && place.kind === 'register')!;
  const swapped = block('from-drive', [item('own', 'int32', 0), item(wide.number, 'int32', 4)], 'big-swapped-words');
  const made = blockIntoSheet(curlew, swapped, registers(60_000));
  expect(made.parameters.at(-1)).toMatchObject({ number: 'own', order: 'CDAB' });
  expect(made.left).toEqual([
    `${wide.number}: its bytes come CDAB here and the highest first at ${wide.number}: an entry has one order`,
  ]);
});

it('an item that comes otherwise than its block keeps that in its entry', () => {
  const own = block('from-drive', [{ ...item('place', 'int32', 0), order: 'little' }, item('rest', 'int32', 4)]);
  const made = blockIntoSheet(shippedIndex('tern'), own, registers(60_000)).parameters;
  expect(made.slice(-2).map(({ number, order }) => [number, order])).toEqual([
    ['place', 'DCBA'],
    ['rest', undefined],
  ]);
});

it('what is no word of its own, or lies over another value, is left out with its reason', () => {
  const tern = shippedIndex('tern');
  const control = tern.byRole.get('control-word')!;
  const first = control.place.kind === 'register' ? control.place.address : 0;
  const own = block('to-drive', [
    { ...item('flag', 'bool', 6), bit: 3 },
    item('odd', 'int16', 3),
    item('over', 'int32', 4),
    item(control.number, 'int32', 12),
  ]);
  const { left, fresh, further } = blockIntoSheet(tern, own, registers(first - 3));
  expect(left).toEqual([
    'odd: it begins in byte 3, within a word',
    `over: the sheet has ${control.number} ${control.name} there`,
    expect.stringMatching(new RegExp(`^${control.number}: `)),
    `flag: the sheet has ${control.number} ${control.name} there`,
  ]);
  expect([fresh, further]).toEqual([[], []]);
  expect(blockIntoSheet(tern, block('to-drive', [item('last', 'int32', 0)]), registers(0xffff)).left).toEqual([
    'last: it would lie behind register 65535',
  ]);
});

it('bits and single bytes of one word are an entry with a field for each, the first byte the high one', () => {
  const tern = shippedIndex('tern');
  const own = block('from-drive', [
    item('state', 'uint8', 0),
    item('ready', 'bool', 1),
    { ...item('fault', 'bool', 1), bit: 7 },
    item('load', 'uint16', 2),
    item('spare', 'uint8', 5),
    item('trim', 'int8', 4),
  ]);
  const index = withBlock(tern, own, registers(700));
  expect(index.byNumber.get('word 700')).toMatchObject({
    name: 'B, word 0',
    write: 'never',
    place: { kind: 'register', address: 700 },
    fields: [
      { name: 'state', bit: 8, bits: 8 },
      { name: 'ready', bit: 0, bits: 1 },
      { name: 'fault', bit: 7, bits: 1 },
    ],
  });
  // The same word by both: byte 0 is 0x12, byte 1 has its highest and its lowest bit.
  const { values } = readImage(own.items, own.size, own.order, Uint8Array.of(0x12, 0x81, 0, 0, 0xfe, 0x05));
  const read = ['state', 'ready', 'fault', 'trim'].map((name) => values.get(name));
  expect(read).toEqual(['18', '1', '1', '-2']);
  expect(meaningOf(index, index.byNumber.get('word 700')!, 0x1281)).toBe('0x1281: state 18, ready 1, fault 1');
  expect(meaningOf(index, index.byNumber.get('word 702')!, 0xfe05)).toBe('0xFE05: spare 5, trim -2');
  expect(blockIntoSheet(index, own, registers(700))).toMatchObject({ fresh: [], left: [] });
  const lamp = blockIntoSheet(shippedIndex('dunlin'), block('to-drive', [item('lamp', 'bool', 28)]), {
    kind: 'process-data',
  });
  expect(lamp.parameters.at(-1)).toMatchObject({
    number: 'PZD word 14 out',
    fields: [{ name: 'lamp', bit: 8, bits: 1 }],
  });
});

it('on a line of USS a block lies in the words of the process data', () => {
  const dunlin = shippedIndex('dunlin');
  const own = block('from-drive', [item('far', 'uint16', 0), item('further', 'int32', 30)]);
  const made = blockIntoSheet(dunlin, own, { kind: 'process-data' });
  expect(made.left.at(-1)).toBe('further: the process data has 16 words at most');
  const free = block('from-drive', [item('spare', 'uint16', 28)]);
  expect(blockIntoSheet(dunlin, free, { kind: 'process-data' }).parameters.at(-1)?.at).toEqual([
    { kind: 'process', direction: 'in', word: 14 },
  ]);
});

it('what two entries are called names neither of them', () => {
  const tern = shippedIndex('tern');
  const [first, second] = (tern.sheet.parameters ?? []).slice(0, 2);
  const sheet = {
    ...tern.sheet,
    parameters: [{ ...first!, name: 'twin' }, { ...second!, name: 'Twin' }, ...(tern.sheet.parameters ?? []).slice(2)],
  } as Sheet;
  const own = block('to-drive', [item('TWIN', 'uint16', 0)]);
  expect(blockIntoSheet(indexSheet(sheet), own, registers(60_000))).toMatchObject({ further: [], fresh: ['TWIN'] });
});
