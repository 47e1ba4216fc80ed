import { shippedIndex } from '../../../tests/harness/sheets';
import { blockOfList, blocksOfSheet, STANDARD_BLOCKS } from './blocks';
import { carriedBy, carriedText } from './carried';

const telegram = (id: string) =>
  STANDARD_BLOCKS.find((block) => block.id === (id.startsWith('cia') ? id : `telegram-${id}`))!;

/** By the titles of the telegrams in IEC 61800-7-203, from memory. */
it.each([
  ['1-out', ['speed']],
  ['1-in', ['speed']],
  ['3-in', ['speed', 'position']],
  ['4-in', ['speed', 'position', 'a second encoder']],
  ['4-out', ['speed', 'a second encoder']],
  ['7-out', []],
  ['9-out', ['speed', 'position']],
  ['9-in', ['position']],
  ['cia402-1-out', []],
  ['cia402-3-out', ['position']],
  ['cia402-4-in', ['speed']],
  ['cia402-5-in', ['torque']],
  ['cia402-6-out', ['speed']],
  ['20-in', ['speed', 'torque', 'current', 'a fault code']],
] as const)('telegram %s', (id, has) => {
  const carried = carriedBy(telegram(id), null);
  expect(carried?.has).toEqual(has);
  expect([...carried!.has, ...carried!.lacks].sort()).toEqual([
    'a fault code',
    'a second encoder',
    'current',
    'position',
    'speed',
    'torque',
  ]);
});

it('says it in a sentence', () => {
  expect(carriedText(telegram('1-in'), null)).toBe(
    'Speed comes from it in this block; no position, no torque, no current, no fault code and no second encoder: such values go by parameters, or in another block.',
  );
  expect(carriedText(telegram('7-out'), null)).toMatch(/^Nothing of speed, position or torque goes to the drive/);
});

it('goes by roles where a sheet lists the block, and says nothing of one of the user’s own', () => {
  const index = shippedIndex('tern');
  const numbers = (['status-word', 'actual-speed', 'current'] as const).map((role) => index.byRole.get(role)!.number);
  const made = blockOfList(index, numbers.join(' '), 'from-drive');
  if (!made.ok) throw new Error(made.error);
  expect(carriedBy(made.value, index)).toEqual({
    has: ['speed', 'current'],
    lacks: ['position', 'torque', 'a fault code'],
  });
  const dunlin = shippedIndex('dunlin');
  for (const block of blocksOfSheet(dunlin)) expect(carriedBy(block, dunlin)?.has).toContain('speed');
  expect(carriedBy({ ...made.value, id: 'own' }, index)).toBeNull();
});
