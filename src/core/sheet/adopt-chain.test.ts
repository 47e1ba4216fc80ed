import { shippedSheets } from '../../../tests/harness/shipped';
import type { ScalingChain } from '../scaling/chain';
import type { ParameterRole } from './parameter-section';
import { sharesChain, withChain } from './adopt-chain';
import { chainOf } from '../drive/describe';
import { indexSheet } from './index-sheet';
import { loadSheet } from './load-sheet';
import { ownCopy } from './own-copy';
import { sheetFile } from './sheet-file';
import type { Sheet } from './sheet';

const CHAIN: ScalingChain = {
  unit: 'Hz',
  steps: [{ kind: 'full-scale', value: '60', raw: '16384' }],
  rounding: 'nearestHalfUp',
  word: { bits: 16, signed: true },
};

const indexOf = (slug: string) => indexSheet(shippedSheets().find((sheet) => sheet.slug === slug)!);

/** The sheet after the place of a role is scaled by `CHAIN`, kept as one's own and read again. */
function changed(slug: string, role: ParameterRole) {
  const index = indexOf(slug);
  const place = index.byRole.get(role)!;
  const change = withChain(index.sheet, place, CHAIN);
  if (!change.ok) return change.error;
  const loaded = loadSheet(sheetFile({ ...ownCopy(index.sheet, () => 4), ...change.value } as unknown as Sheet));
  if (!loaded.ok) return loaded.error;
  const after = indexSheet(loaded.value);
  return { sheet: loaded.value, chain: chainOf(loaded.value, after.byRole.get(role)!), before: index.sheet };
}

it('another chain in the place of the sheet’s, for all that it scales', () => {
  const index = indexOf('tern');
  expect(sharesChain(index, index.byRole.get('speed-reference')!)).toContain('6.05 actual speed');
  const made = changed('tern', 'speed-reference');
  expect(made).toMatchObject({ chain: CHAIN, sheet: { slug: 'tern-mine', revision: 5, base: { slug: 'tern' } } });
  if (typeof made !== 'object' || !('sheet' in made)) throw new Error('not made');
  expect(chainOf(made.sheet, indexSheet(made.sheet).byRole.get('actual-speed')!)).toEqual(CHAIN);
  expect(made.sheet.scalings).toHaveLength(made.before.scalings?.length ?? 0);
});

it.each(
  shippedSheets()
    .filter((sheet) => indexSheet(sheet).byRole.get('speed-reference')?.scale)
    .map(({ slug }) => slug)
    .filter((slug) => slug !== 'pipit'),
)('%s takes another chain for its speed reference', (slug) => {
  expect(changed(slug, 'speed-reference')).toMatchObject({ chain: CHAIN });
});

it('a chain of its own where only the size of a count was known', () => {
  const index = indexOf('tern');
  const place = index.byRole.get('current')!;
  expect([place.scale?.kind, sharesChain(index, place)]).toEqual(['resolution', []]);
  const made = changed('tern', 'current');
  expect(made).toMatchObject({ chain: CHAIN });
  if (typeof made !== 'object' || !('sheet' in made)) throw new Error('not made');
  expect(made.sheet.scalings).toHaveLength((made.before.scalings?.length ?? 0) + 1);
  const speed = indexSheet(made.sheet).byRole.get('speed-reference')!;
  expect(chainOf(made.sheet, speed)).not.toEqual(CHAIN);
});

it('says where a scale stands that is no chain', () => {
  expect(changed('pipit', 'speed-reference')).toContain('stands in the description of its commands');
});

it('one’s own sheet goes on under its name with the next revision', () => {
  const { sheet } = indexOf('wren');
  const first = ownCopy(sheet, () => 0);
  expect([first.slug, first.name, first.revision]).toEqual(['wren-mine', 'Wren (mine)', 1]);
  const second = ownCopy(first, () => 1);
  expect([second.slug, second.name, second.revision, second.base]).toEqual(['wren-mine', 'Wren (mine)', 2, first.base]);
});
