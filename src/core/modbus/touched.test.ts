import { rtu } from '../../../tests/harness/line';
import { ternIndex } from '../../../tests/harness/sheets';
import { effectOf, mayTurn } from '../drive/request-effect';
import type { PlaceOf } from '../sheet/place';
import { objectionsTo } from '../drive/limits';
import { encodeRtu } from './encode';
import type { ModbusMessage } from './message';
import { readRtu } from './rtu';
import { readBy, writtenBy } from './touched';

const index = ternIndex();
const control = (index.byRole.get('control-word')!.place as PlaceOf<'register'>).address;
const RUN = index.sheet.commands!.words.find(({ id }) => id.includes('run'))!.word;

it.each<[string, ModbusMessage, object | null, object | null]>([
  ['03', { unit: 3, fc: 3, address: 7, quantity: 2 }, { table: 'holding-register', first: 7, quantity: 2 }, null],
  [
    '04 reads another table',
    { unit: 3, fc: 4, address: 7, quantity: 2 },
    { table: 'input-register', first: 7, quantity: 2 },
    null,
  ],
  ['06', { unit: 3, fc: 6, address: 7, values: [1] }, null, { table: 'holding-register', first: 7, words: [1] }],
  [
    '17',
    { unit: 3, fc: 23, readAddress: 1, readQuantity: 2, writeAddress: 7, values: [4] },
    { table: 'holding-register', first: 1, quantity: 2 },
    { table: 'holding-register', first: 7, words: [4] },
  ],
  [
    '16',
    { unit: 3, fc: 22, address: 7, andMask: 0xf0, orMask: 3 },
    null,
    { table: 'holding-register', first: 7, words: [0xf3] },
  ],
  ['coils', { unit: 3, fc: 1, address: 7, quantity: 8 }, { table: 'coil', first: 7, quantity: 8 }, null],
  ['05', { unit: 3, fc: 5, address: 7, coils: [1] }, null, { table: 'coil', first: 7, words: [1] }],
  ['a queue is no row of registers', { unit: 3, fc: 24, address: 7 }, null, null],
])('%s', (_, message, reads, writes) => {
  expect(readBy(message)).toEqual(reads);
  expect(writtenBy(message)).toEqual(writes);
});

it.each<[string, ModbusMessage]>([
  [
    '17 with a run word',
    { unit: 3, fc: 23, readAddress: control, readQuantity: 1, writeAddress: control, values: [RUN] },
  ],
  ['16 that may set the run bit', { unit: 3, fc: 22, address: control, andMask: 0, orMask: RUN }],
  ['16 that may leave it set', { unit: 3, fc: 22, address: control, andMask: 0xffff, orMask: 0 }],
])('%s counts as a press that may turn the shaft', (_, message) => {
  const built = encodeRtu(message, 'request');
  const read = built.ok ? readRtu(built.value, 'request').message : null;
  expect(read && mayTurn(effectOf(read, index), index)).toBe(true);
});

it('coils beside registers of the same number are not judged by the sheet', () => {
  const read = readRtu(rtu('03 01 0182 0008'), 'request').message!;
  expect(objectionsTo(read, index, false)).toEqual([]);
});
