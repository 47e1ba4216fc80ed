import { shippedSheets } from '../../tests/harness/shipped';
import { sheetFile } from '../core/sheet/sheet-file';
import { readOwnSheets } from './own-sheets';

/** As many entries as a sheet may have. */
const MANY = 5000;

it('a revision in which everything is wrong is told by its first faults and their number, and the next one is read', async () => {
  const good = sheetFile(shippedSheets()[0]!) as object;
  const parameters = Array.from({ length: MANY }, () => ({
    number: '1.01',
    name: 'one',
    type: 'uint16',
    order: 'CDAB',
    min: 5,
    max: 4,
    default: 9,
  }));
  const rows = [
    { slug: 'wrong', revision: 2, sheet: { ...good, slug: 'wrong', parameters } },
    { slug: 'mine', revision: 1, sheet: { ...good, slug: 'mine' } },
  ];
  const { own, faults } = await readOwnSheets(rows);
  expect(own.map(({ slug }) => slug)).toEqual(['mine']);
  expect(faults).toHaveLength(1);
  expect(faults[0]).toMatch(/^sheet wrong, revision 2: parameters\[1\]\.number: parameter 1\.01 is listed twice; /);
  const more = Number(/; and (\d+) more$/.exec(faults[0] ?? '')?.[1]);
  // Limits, default and order of each, and the number of all but the first.
  expect(more).toBeGreaterThan(3.9 * MANY);
});
