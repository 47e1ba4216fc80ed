import type { SheetIndex } from '../sheet/index-sheet';
import type { Cell } from '../sheet/place';
import { identityOf, type IdentityRow } from './identity';
import type { SeenWord } from './seen';

/** How a drive's own words about itself lie to a sheet. */
export interface Fit {
  readonly index: SheetIndex;
  /** `fits`: all that was told is as the sheet has it. `part`: some of it. `other`: none. `silent`: nothing was told at the places that it names. */
  readonly verdict: 'fits' | 'part' | 'other' | 'silent';
  readonly rows: readonly IdentityRow[];
}

const RANK: Readonly<Record<Fit['verdict'], number>> = { fits: 0, part: 1, silent: 2, other: 3 };

/** Sheets by how well they fit what a drive said of itself, the best first; sheets that name nothing of the kind are left out. */
export function fittingSheets(
  sheets: readonly SheetIndex[],
  seenOf: (index: SheetIndex) => (cell: Cell) => SeenWord | undefined,
): readonly Fit[] {
  return sheets
    .map((index): Fit => {
      const rows = identityOf(index, seenOf(index));
      const told = rows.filter(({ verdict }) => verdict !== 'unknown');
      const same = told.filter(({ verdict }) => verdict === 'same').length;
      const verdict = told.length === 0 ? 'silent' : same === told.length ? 'fits' : same > 0 ? 'part' : 'other';
      return { index, rows, verdict };
    })
    .filter(({ rows }) => rows.length > 0)
    .sort((a, b) => RANK[a.verdict] - RANK[b.verdict]);
}

/** What the drive said, and what the sheet has in its place: `type code 4107, as the sheet has it`. */
export const fitText = ({ rows, verdict }: Fit): string =>
  verdict === 'silent'
    ? 'it tells nothing where this sheet has its identity'
    : rows
        .filter((row) => row.verdict !== 'unknown')
        .map(({ parameter, actual, expected, verdict: own }) =>
          own === 'same'
            ? `${parameter.name} ${actual ?? ''}, as the sheet has it`
            : `${parameter.name} ${actual ?? ''}, not ${expected}`,
        )
        .join('; ');
