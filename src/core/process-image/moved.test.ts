import { shippedIndex } from '../../../tests/harness/sheets';
import type { Told } from '../places/place-link';
import type { ParameterRole } from '../sheet/parameter-section';
import { cycleBlocks } from './cycle-blocks';
import { putBetween, whatMoved } from './moved';
import { itemsOf, outputBlock } from './output-block';

const index = shippedIndex('curlew');
const made = cycleBlocks(index);
if (!made.ok) throw new Error(made.error);
const blocks = made.value[1]!;
const inputs = itemsOf(blocks.in);

const output = (texts: Partial<Record<ParameterRole, string>>) =>
  outputBlock(
    index,
    blocks.out,
    ({ parameter }) => texts[parameter?.role ?? 'control-word'],
    () => 0,
  ).items;
/** The inputs with these words by role, 0 elsewhere. */
const told = (words: Partial<Record<ParameterRole, number>>): Told =>
  inputs.flatMap(({ parameter, cells }) =>
    cells.flatMap((cell, i) => {
      const word = i === cells.length - 1 ? (words[parameter?.role ?? 'control-word'] ?? 0) : 0;
      const own = parameter?.cells[i];
      return [[cell, word] as const, ...(own ? [[own, word] as const] : [])];
    }),
  );

it('tells bits by their names and numbers in their unit, and what each has to do with what was put in', () => {
  const put = putBetween(
    output({ 'control-word': '6', 'speed-reference': '0 rpm' }),
    output({ 'control-word': '7', 'speed-reference': '1500 rpm' }),
  );
  const {
    put: said,
    moved,
    wrong,
  } = whatMoved(
    index,
    put,
    inputs,
    told({ 'status-word': 0x0231, 'fault-code': 0 }),
    told({ 'status-word': 0x0233, 'actual-speed': 8192, 'fault-code': 17 }),
  );
  expect(said).toEqual([
    { name: '50 control word', text: 'bit 0 switch on rose' },
    { name: '51 target speed', text: expect.stringMatching(/0 rpm → 8192 = 1500 rpm$/) as string },
  ]);
  expect(moved).toEqual([
    { name: '41 status word', text: 'bit 1 switched on rose', why: 'as is expected of 50 control word' },
    {
      name: '45 actual speed',
      text: expect.stringMatching(/1500 rpm$/) as string,
      why: 'as is expected of 51 target speed',
    },
    { name: '40 fault code', text: expect.any(String) as string, why: 'nobody expects it of what was put in' },
  ]);
  expect(wrong).toEqual([]);
});

it('names what nothing followed, what came back turned round, and what stands in another word', () => {
  const before = told({});
  const sign = putBetween(output({ 'life-sign': '0' }), output({ 'life-sign': '0x1234' }));
  expect(whatMoved(index, sign, inputs, before, before).wrong).toEqual([
    'nothing followed 103 sign of life of the controller',
  ]);
  expect(whatMoved(index, sign, inputs, before, told({ 'life-sign-back': 0x3412 })).wrong).toEqual([
    '103 sign of life of the controller went out as 0x1234 and came back as 0x3412: the two bytes of a word are swapped',
  ]);
  expect(whatMoved(index, sign, inputs, before, told({ 'fault-code': 0x1234 })).wrong).toEqual([
    'what was put into 103 sign of life of the controller, 0x1234, now stands in 40 fault code: the words are exchanged or shifted',
  ]);
  expect(whatMoved(index, sign, inputs, before, told({ 'life-sign-back': 0x1234 })).wrong).toEqual([]);
});

it('a speed that is reached is no exchanged word, and a small number found elsewhere is chance', () => {
  const speed = putBetween(output({ 'speed-reference': '0 rpm' }), output({ 'speed-reference': '1500 rpm' }));
  expect(whatMoved(index, speed, inputs, told({}), told({ 'actual-speed': 8192 })).wrong).toEqual([]);
  const mode = putBetween(output({ mode: '2' }), output({ mode: '1' }));
  expect(
    whatMoved(index, mode, inputs, told({ 'mode-display': 2 }), told({ 'mode-display': 2, current: 1 })).wrong,
  ).toEqual(['nothing followed 52 mode of operation']);
});

it('words that were not told before are no change', () => {
  const put = putBetween(output({ 'control-word': '6' }), output({ 'control-word': '7' }));
  expect(whatMoved(index, put, inputs, [], told({ 'status-word': 0x0233 })).moved).toEqual([]);
});
