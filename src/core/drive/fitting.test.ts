import { shippedIndex, ternIndex } from '../../../tests/harness/sheets';
import { fittingSheets, fitText } from './fitting';
import type { SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Cell } from '../sheet/place';

const SHEETS = ['wren', 'tern'].map((slug) => shippedIndex(slug));

/** A drive that tells these numbers of itself, where the fan's sheet has them. */
const telling = (words: Partial<Record<ParameterRole, number>>) => {
  const seen = new Map(
    Object.entries(words).flatMap(([role, word]) =>
      (ternIndex().byRole.get(role as ParameterRole)?.cells ?? []).map((cell) => [cell, { word, atUs: 0 }] as const),
    ),
  );
  return (_: SheetIndex) => (cell: Cell) => seen.get(cell);
};

it('puts the sheet first of which all is as the drive says, and says why', () => {
  const [first, ...others] = fittingSheets(SHEETS, telling({ 'type-code': 4107, firmware: 212 }));
  expect(first).toMatchObject({ verdict: 'fits' });
  expect(first?.index.sheet.slug).toBe('tern');
  expect(first && fitText(first)).toBe('type code 4107, as the sheet has it; firmware 212, as the sheet has it');
  expect(others.map(({ verdict }) => verdict)).toEqual(['silent']);
  expect(others[0] && fitText(others[0])).toBe('it tells nothing where this sheet has its identity');
});

it.each<[Partial<Record<ParameterRole, number>>, string]>([
  [{ 'type-code': 4107, firmware: 300 }, 'part'],
  [{ 'type-code': 1, firmware: 2 }, 'other'],
  [{}, 'silent'],
])('a drive that tells %j: %s', (words, verdict) => {
  expect(fittingSheets([ternIndex()], telling(words))[0]?.verdict).toBe(verdict);
});
