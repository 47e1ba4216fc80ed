import { shippedIndex } from '../../tests/harness/sheets';
import { indexSheet } from '../core/sheet/index-sheet';
import type { ScalingStep } from '../core/scaling/chain';
import { inputsAt, plantOf, turnOf } from './plant';

/** 480 mm of the drum for 12 turns of a motor of 65536 counts. */
const PER_MM = (12 * 65_536) / 480;

it('the ends of a machine in counts, by drum, gear and encoder', () => {
  const lift = shippedIndex('curlew');
  expect(plantOf(lift)).toMatchObject({ low: -20 * PER_MM, high: 2430 * PER_MM, perTurn: 65_536 });
  expect(inputsAt(plantOf(lift)!, 2430 * PER_MM)).toBe(6);
  expect(plantOf(shippedIndex('tern'))).toBeNull();
});

it('behind a gear that turns it round the upper end of the machine is the lower one of the counter', () => {
  const { sheet } = shippedIndex('curlew');
  const turned = (step: ScalingStep): ScalingStep => (step.kind === 'gear' ? { ...step, inverted: true } : step);
  const index = indexSheet({
    ...sheet,
    scalings: (sheet.scalings ?? []).map((one) => ({
      ...one,
      chain: { ...one.chain, steps: one.chain.steps.map(turned) },
    })),
  });
  expect(plantOf(index)).toMatchObject({ low: -2430 * PER_MM, high: 20 * PER_MM });
});

it('a table has no ends, and comes round after 90 turns of its motor', () => {
  const table = shippedIndex('curlew-table');
  expect([plantOf(table), turnOf(table), turnOf(shippedIndex('curlew'))]).toEqual([null, 90 * 65_536, null]);
});
