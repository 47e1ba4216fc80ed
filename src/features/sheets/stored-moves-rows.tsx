'use client';

import { STORED_COLUMNS, type StoredColumn } from '../../core/motion/stored-moves';
import type { Sheet } from '../../core/sheet/sheet';
import { PartField } from '../../ui/part-field';
import { RowsEditor, type RowColumn } from '../../ui/rows-editor';
import styles from './sheets.module.css';

type StoredMoves = NonNullable<NonNullable<Sheet['axis']>['storedMoves']>;
type StoredMove = StoredMoves['moves'][number];

const LABELS: Readonly<Record<StoredColumn, string>> = {
  from: 'counted from',
  to: 'target',
  speed: 'speed',
  rest: 'rest',
  then: 'next move',
};
const MOST_MOVES = 256;
const HIGHEST_INPUT = 31;

interface StoredMovesProps {
  readonly storedMoves: StoredMoves | undefined;
  /** Numbers of the sheet's entries. */
  readonly numbers: ReadonlySet<string>;
  readonly onMoves: (storedMoves: StoredMoves | undefined) => void;
}

/** The table of moves that a drive keeps itself: which entry holds what of each. */
export function StoredMovesRows({ storedMoves, numbers, onMoves }: StoredMovesProps) {
  const { moves = [], startedBy } = storedMoves ?? {};
  const [first = ''] = numbers;
  return (
    <>
      <p className={styles.soft}>
        Moves that the drive keeps itself: the numbers of the entries that hold them, a row for each move. The entry
        that chooses one has the role stored-move.
      </p>
      <RowsEditor
        label="Moves that the drive keeps itself"
        noun="move"
        rows={moves}
        columns={STORED_COLUMNS.map((column) => numberColumn(column, numbers))}
        fresh={() => nextMove(moves, numbers) ?? { to: first }}
        onRows={(rows) =>
          onMoves(rows.length === 0 ? undefined : { ...(startedBy ? { startedBy } : {}), moves: [...rows] })
        }
        most={MOST_MOVES}
      />
      {storedMoves && (
        <PartField
          label="An input starts one where … is not 0"
          width={260}
          value={startedBy ? `${startedBy.number}, input ${startedBy.input}` : ''}
          note="such as 111, input 3, counted from 0; empty: none does"
          read={(text) => startIn(text, numbers)}
          onValue={({ startedBy: next }) => onMoves({ ...(next ? { startedBy: next } : {}), moves })}
        />
      )}
    </>
  );
}

function numberColumn(column: StoredColumn, numbers: ReadonlySet<string>): RowColumn<StoredMove> {
  return {
    label: LABELS[column],
    width: 110,
    show: (move) => move[column] ?? '',
    take: (move, text) => {
      const number = text.trim();
      if (number === '' && column !== 'to') return { ...move, [column]: undefined };
      return numbers.has(number) ? { ...move, [column]: number } : 'the number of an entry of this sheet';
    },
  };
}

/** The row behind the last one, as far behind it as that is behind the one before; null where the sheet has no such entries. */
function nextMove(moves: readonly StoredMove[], numbers: ReadonlySet<string>): StoredMove | null {
  const [before, last] = moves.slice(-2);
  if (!before || !last) return null;
  const entries = STORED_COLUMNS.flatMap((column) => {
    const [a, b] = [before[column], last[column]].map((text) => (text === undefined ? NaN : Number(text)));
    const next = `${2 * (b ?? NaN) - (a ?? NaN)}`;
    return numbers.has(next) ? [[column, next] as const] : [];
  });
  const { to, ...others }: Partial<Record<StoredColumn, string>> = Object.fromEntries(entries);
  return to === undefined ? null : { to, ...others };
}

/** The setting and the input that starts a move, as they are typed. */
function startIn(
  text: string,
  numbers: ReadonlySet<string>,
): { readonly startedBy: StoredMoves['startedBy'] } | string {
  if (text.trim() === '') return { startedBy: undefined };
  const [, number = '', input = ''] = /^\s*(\S{1,24}?)\s*,?\s+(?:input\s*)?(\d{1,2})\s*$/i.exec(text) ?? [];
  if (!numbers.has(number)) return 'the number of an entry of this sheet, then the input';
  return Number(input) > HIGHEST_INPUT
    ? `an input from 0 to ${HIGHEST_INPUT}`
    : { startedBy: { number, input: Number(input) } };
}
