import { onceFor } from '../once-for';
import { numberOfPattern, patternOfNumber } from '../values/pattern';
import { meaningOf } from './describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { Cell } from '../sheet/place';
import { seenIn, type SeenWord } from './seen';

/** One thing that tells a drive from another: what the sheet was written for, and what this drive says. */
export interface IdentityRow {
  readonly parameter: PlacedParameter;
  readonly expected: string;
  readonly actual: string | null;
  readonly verdict: 'same' | 'differs' | 'unknown';
}

/** What makes a drive another one than the sheet describes; the rated current belongs to its size. */
const identities = onceFor(({ parameters }: SheetIndex): readonly PlacedParameter[] =>
  parameters.filter(
    ({ role, sizeBound, write }) =>
      role === 'type-code' || role === 'firmware' || (sizeBound === true && write === 'never'),
  ),
);

/** Type, firmware and size as the sheet has them against what was read. */
export function identityOf(index: SheetIndex, seen: (cell: Cell) => SeenWord | undefined): readonly IdentityRow[] {
  return identities(index).map((parameter) => {
    const found = seenIn(parameter, seen);
    return {
      parameter,
      expected:
        parameter.default === undefined
          ? 'not said by the sheet'
          : meaningOf(index, parameter, patternOfNumber(parameter.type, parameter.default)),
      actual: found ? meaningOf(index, parameter, found.word) : null,
      verdict:
        !found || parameter.default === undefined
          ? 'unknown'
          : numberOfPattern(parameter.type, found.word) === parameter.default
            ? 'same'
            : 'differs',
    };
  });
}

/** The sentence that must be read before anything is written; empty while nothing differs. */
export function identityWarning(rows: readonly IdentityRow[]): string {
  const differing = rows.filter(({ verdict }) => verdict === 'differs');
  if (differing.length === 0) return '';
  const parts = differing.map(
    ({ parameter, expected, actual }) => `${parameter.name} is ${actual ?? ''}, the sheet was written for ${expected}`,
  );
  return `This may be another drive than the sheet describes: ${parts.join('; ')}. Registers and limits may differ.`;
}
