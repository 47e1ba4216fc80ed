'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useSayUnread } from './unread';
import { useLongList } from './use-long-list';
import styles from './rows-editor.module.css';

/** One column of a list: how a cell is shown, and what a text makes of the row; a sentence where it cannot be read. */
export interface RowColumn<Row> {
  readonly label: string;
  readonly width: number | string;
  readonly show: (row: Row) => string;
  readonly take: (row: Row, text: string) => Row | string;
  readonly options?: readonly (readonly [string, string])[];
}

interface RowsEditorProps<Row> {
  readonly label: string;
  /** What one row is called. */
  readonly noun: string;
  readonly rows: readonly Row[];
  readonly columns: readonly RowColumn<Row>[];
  readonly fresh: () => Row;
  readonly onRows: (rows: readonly Row[]) => void;
  readonly most: number;
}

const ROW_PX = 33;

const moved = <Row,>(rows: readonly Row[], from: number, to: number): readonly Row[] => {
  const next = [...rows];
  const [row] = next.splice(from, 1);
  if (row !== undefined) next.splice(to, 0, row);
  return next;
};

/** A short list as a table: every cell is a field; rows are added, moved and removed. */
export function RowsEditor<Row>({ label, noun, rows, columns, fresh, onRows, most }: RowsEditorProps<Row>) {
  const { scroller, shown, before, after, measure, isLong } = useLongList<HTMLDivElement>(rows.length, ROW_PX);
  return (
    <>
      <div ref={scroller} className={isLong ? styles.scrollLong : styles.scroll}>
        <table className={styles.rows} aria-label={label} aria-rowcount={rows.length + 1}>
          <thead>
            <tr>
              {columns.map((column) => (
                <th key={column.label} scope="col">
                  {column.label}
                </th>
              ))}
              <th scope="col">
                <span className={styles.hidden}>what to do with it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {before > 0 && <tr style={{ height: before }} />}
            {shown.map((i) => {
              const row = rows[i];
              return row === undefined ? null : (
                <tr key={i} ref={measure} data-index={i}>
                  {columns.map((column) => (
                    <td key={column.label} style={{ width: column.width }}>
                      <Cell
                        row={row}
                        column={column}
                        name={`${column.label}, ${noun} ${i + 1}`}
                        onRow={(next) => onRows(rows.map((one, k) => (k === i ? next : one)))}
                      />
                    </td>
                  ))}
                  <td className={styles.acts}>
                    <button
                      type="button"
                      aria-label={`${noun} ${i + 1} up`}
                      disabled={i === 0}
                      onClick={() => onRows(moved(rows, i, i - 1))}
                    >
                      ↑
                    </button>
                    <button
                      type="button"
                      aria-label={`${noun} ${i + 1} down`}
                      disabled={i === rows.length - 1}
                      onClick={() => onRows(moved(rows, i, i + 1))}
                    >
                      ↓
                    </button>
                    <button
                      type="button"
                      aria-label={`remove ${noun} ${i + 1}`}
                      onClick={() => onRows(rows.filter((_, k) => k !== i))}
                    >
                      remove
                    </button>
                  </td>
                </tr>
              );
            })}
            {after > 0 && <tr style={{ height: after }} />}
          </tbody>
        </table>
      </div>
      <Button variant="text" color="inherit" disabled={rows.length >= most} onClick={() => onRows([...rows, fresh()])}>
        Add {/^[aeiou]/.test(noun) ? 'an' : 'a'} {noun}
      </Button>
    </>
  );
}

function Cell<Row>({
  row,
  column,
  name,
  onRow,
}: {
  readonly row: Row;
  readonly column: RowColumn<Row>;
  readonly name: string;
  readonly onRow: (row: Row) => void;
}) {
  const shown = column.show(row);
  // What could not be read stays in the field, with its reason, until it can or the row is another one.
  const [typed, setTyped] = useState<{ readonly text: string; readonly over: string; readonly why: string } | null>(
    null,
  );
  const own = typed?.over === shown ? typed : null;
  useSayUnread(name, own !== null && own.why !== '');
  const take = (text: string): void => {
    const next = column.take(row, text);
    if (typeof next === 'string') return setTyped({ text, over: shown, why: next });
    setTyped({ text, over: column.show(next), why: '' });
    onRow(next);
  };
  if (column.options)
    return (
      <select aria-label={name} value={shown} onChange={(event) => take(event.target.value)}>
        {column.options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    );
  return (
    <>
      <input
        aria-label={name}
        aria-invalid={own !== null && own.why !== ''}
        value={own?.text ?? shown}
        spellCheck={false}
        onChange={(event) => take(event.target.value)}
      />
      {own !== null && own.why !== '' && <span className={styles.why}>{own.why}</span>}
    </>
  );
}

/** A column of words. */
export const textColumn = <Row,>(
  label: string,
  width: number | string,
  show: (row: Row) => string | undefined,
  put: (row: Row, text: string) => Row,
  isNeeded = true,
): RowColumn<Row> => ({
  label,
  width,
  show: (row) => show(row) ?? '',
  take: (row, text) =>
    isNeeded && text.trim() === ''
      ? 'it must not be empty'
      : text.length > 400
        ? '400 characters at most'
        : put(row, text),
});

/** A column of whole numbers, in any base. */
export const numberColumn = <Row,>(
  label: string,
  width: number | string,
  read: (text: string) => number | null,
  range: readonly [number, number],
  show: (row: Row) => string,
  put: (row: Row, value: number) => Row,
): RowColumn<Row> => ({
  label,
  width,
  show,
  take: (row, text) => {
    const value = read(text);
    return value === null || value < range[0] || value > range[1] ? `${range[0]} to ${range[1]}` : put(row, value);
  },
});

/** A column of a few choices. */
export const choiceColumn = <Row,>(
  label: string,
  width: number | string,
  options: readonly (readonly [string, string])[],
  show: (row: Row) => string,
  put: (row: Row, value: string) => Row,
): RowColumn<Row> => ({ label, width, options, show, take: put });
