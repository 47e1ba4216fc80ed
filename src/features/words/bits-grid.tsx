'use client';

import type { ClipboardEvent } from 'react';
import styles from './words.module.css';

const COLUMNS = ['bit', 'name', '1 means', '0 means'] as const;
/** A word has no more bits than this; more rows are not edited here. */
const MOST_ROWS = 40;

/** A pasted row as cells: by tabs, or by what else parts columns. */
const cellsOf = (line: string): readonly string[] => {
  // A blank that was just typed is the beginning of the next word.
  const cells = line.includes('\t') ? line.split('\t') : line.split(/\s*[|;]\s*|\s{2,}/);
  return COLUMNS.map((_, i) => cells[i] ?? '');
};

const rowsOf = (text: string): readonly (readonly string[])[] =>
  text
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map(cellsOf);

const textOf = (rows: readonly (readonly string[])[]): string =>
  rows
    .filter((row) => row.some((cell) => cell !== ''))
    .map((row) => row.join('\t').replace(/\t+$/, ''))
    .join('\n');

interface BitsGridProps {
  readonly text: string;
  readonly onText: (text: string) => void;
}

/** The same table as cells: typed into, or pasted over from any cell on, as from a spreadsheet. The last row is empty and takes a new bit. */
export function BitsGrid({ text, onText }: BitsGridProps) {
  const rows = rowsOf(text).slice(0, MOST_ROWS);
  const shown = [...rows, COLUMNS.map(() => '')];
  const put = (row: number, column: number, cells: readonly (readonly string[])[]): void => {
    const next = shown.map((one) => [...one]);
    cells.forEach((line, i) => {
      const own = (next[row + i] ??= COLUMNS.map(() => ''));
      line.forEach((cell, k) => {
        if (column + k < COLUMNS.length) own[column + k] = cell;
      });
    });
    onText(textOf(next));
  };
  const paste = (event: ClipboardEvent, row: number, column: number): void => {
    const pasted = event.clipboardData.getData('text');
    if (!/[\t\n]/.test(pasted.trim())) return;
    event.preventDefault();
    const lines = pasted.split(/\r?\n/).filter((line) => line.trim() !== '');
    put(
      row,
      column,
      lines.slice(0, MOST_ROWS).map((line) => (column === 0 ? cellsOf(line) : line.split('\t'))),
    );
  };
  return (
    <table className={styles.grid} aria-label="Bits as a grid">
      <thead>
        <tr>
          {COLUMNS.map((name) => (
            <th key={name} scope="col">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {shown.map((cells, row) => (
          <tr key={row}>
            {cells.map((cell, column) => (
              <td key={column}>
                <input
                  aria-label={`${COLUMNS[column] ?? ''}, row ${row + 1}`}
                  value={cell}
                  spellCheck={false}
                  onChange={(event) => put(row, column, [[event.target.value.replaceAll('\t', ' ')]])}
                  onPaste={(event) => paste(event, row, column)}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
